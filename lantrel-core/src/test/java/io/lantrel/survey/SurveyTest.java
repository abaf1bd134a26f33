package io.lantrel.survey;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.RiverWatchFolder;
import io.lantrel.Scratch;
import io.lantrel.catalog.Basis;
import io.lantrel.survey.Survey.Shape;
import io.lantrel.survey.Survey.TableSurvey;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Stream;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** What a look at the tables tells that no schema says. */
public class SurveyTest {

  private static final List<String> TRUE_REFERENCES =
      List.of(
          "river.flows_into → river.id",
          "species_group.within_id → species_group.id",
          "warden.mentor_id → warden.id",
          "species.group_id → species_group.id",
          "station.river_id → river.id",
          "station.keeper_id → warden.id",
          "station.bank → bank_kind.code",
          "reading.station_id → station.id",
          "sighting.station_id → station.id",
          "sighting.species_id → species.id");

  /** The river watch under a schema from which something was taken. */
  private static Path riverWatchWithout(String... patterns) throws IOException {
    Path folder = Scratch.folder("river-watch");
    try (Stream<Path> files = Files.list(RiverWatchFolder.data())) {
      for (Path file : files.filter(each -> each.toString().endsWith(".csv")).toList()) {
        Files.copy(file, folder.resolve(file.getFileName()));
      }
    }
    String schema = Files.readString(RiverWatchFolder.data().resolve("schema.sql"));
    for (String pattern : patterns) {
      schema = schema.replaceAll(pattern, "");
    }
    Files.writeString(folder.resolve("schema.sql"), schema);
    return folder;
  }

  @DataProvider
  static Object[][] takenAway() {
    String references = " +REFERENCES \\w+ \\(\\w+\\)";
    return new Object[][] {
      {List.of(references)},
      {List.of(references, " +PRIMARY KEY(?= *,)", ",\\s*PRIMARY KEY \\([^)]*\\)")}
    };
  }

  @Test(dataProvider = "takenAway")
  public void observesEveryReferenceThatWasTakenFromTheSchema(List<String> patterns)
      throws IOException {
    try (Lantrel lantrel = Lantrel.open(riverWatchWithout(patterns.toArray(String[]::new)))) {
      Survey survey = lantrel.survey();
      assertThat(survey.references())
          .allMatch(each -> each.reference().basis() == Basis.OBSERVED)
          .extracting(each -> each.reference().words())
          .containsExactlyInAnyOrderElementsOf(TRUE_REFERENCES);
      assertThat(survey.tables())
          .filteredOn(each -> each.shapes().contains(Shape.JUNCTION))
          .extracting(each -> each.table().name())
          .containsExactly("sighting");
    }
  }

  /** Worlds in other styles of naming: schema, tables with their rows, what is observed. */
  @DataProvider
  static Object[][] otherStyles() {
    return new Object[][] {
      {
        "CREATE TABLE Rivers (RiverId INTEGER, RiverName VARCHAR(20), ParentRiverId INTEGER);"
            + "CREATE TABLE GaugeSites (SiteId INTEGER, RiverId INTEGER, HomeRiverId INTEGER,"
            + " Depth INTEGER);",
        List.of(
            "Rivers:RiverId,RiverName,ParentRiverId\n1,Ombrel,\n2,Tavin,1\n3,Keskel,2\n4,Pell,2\n",
            "GaugeSites:SiteId,RiverId,HomeRiverId,Depth\n1,1,2,3\n2,3,2,1\n3,3,3,2\n4,4,1,4\n"),
        List.of(
            "Rivers.ParentRiverId → Rivers.RiverId",
            "GaugeSites.RiverId → Rivers.RiverId",
            "GaugeSites.HomeRiverId → Rivers.RiverId")
      },
      {
        "CREATE TABLE basin (basin_no INTEGER PRIMARY KEY, title VARCHAR(9));"
            + "CREATE TABLE reach (basin_no INTEGER, reach_no INTEGER, len INTEGER,"
            + " PRIMARY KEY (basin_no, reach_no));"
            + "CREATE TABLE weir (code CHAR(2) PRIMARY KEY, basin_no INTEGER, reach_no INTEGER,"
            + " height INTEGER);",
        List.of(
            "basin:basin_no,title\n10,North\n20,South\n",
            "reach:basin_no,reach_no,len\n10,1,5\n10,2,7\n20,1,9\n",
            "weir:code,basin_no,reach_no,height\nAA,10,1,2\nAB,10,2,1\nAC,20,1,2\nAD,,,1\n"),
        List.of(
            "reach.basin_no → basin.basin_no",
            "weir.basin_no → basin.basin_no",
            "weir(basin_no, reach_no) → reach(basin_no, reach_no)")
      },
      {
        // Small numbers are found among the keys of every table, and refer to none of them.
        "CREATE TABLE keeper (id INTEGER PRIMARY KEY, name VARCHAR(9), stars INTEGER);"
            + "CREATE TABLE visit (id INTEGER PRIMARY KEY, hours INTEGER, line_no INTEGER);",
        List.of(
            "keeper:id,name,stars\n1,Ada,2\n2,Bram,3\n3,Cilla,1\n4,Dov,4\n5,Eke,5\n",
            "visit:id,hours,line_no\n1,2,1\n2,1,2\n3,3,1\n4,2,3\n"),
        List.of()
      },
      {
        // Texts as keys, a table for further facts of the same rows, a word written together.
        "CREATE TABLE grade (code CHAR(2) PRIMARY KEY, label VARCHAR(9));"
            + "CREATE TABLE station (id INTEGER PRIMARY KEY, water CHAR(2));"
            + "CREATE TABLE station_note (stationid INTEGER PRIMARY KEY, words VARCHAR(9));",
        List.of(
            "grade:code,label\nG1,good\nG2,fair\nG3,poor\nG4,bad\n",
            "station:id,water\n1,G1\n2,G1\n3,G2\n4,G3\n5,\n",
            "station_note:stationid,words\n2,high\n4,low\n"),
        List.of("station.water → grade.code", "station_note.stationid → station.id")
      },
    };
  }

  @Test(dataProvider = "otherStyles")
  public void observesReferencesInOtherStyles(
      String schema, List<String> tables, List<String> expected) throws IOException {
    Path folder = Scratch.folder("world");
    Files.writeString(folder.resolve("schema.sql"), schema);
    for (String table : tables) {
      String[] parts = table.split(":", 2);
      Files.writeString(folder.resolve(parts[0] + ".csv"), parts[1]);
    }
    try (Lantrel lantrel = Lantrel.open(folder)) {
      assertThat(lantrel.survey().references())
          .extracting(each -> each.reference().words() + " " + each.reference().basis())
          .containsExactlyInAnyOrderElementsOf(
              expected.stream().map(each -> each + " OBSERVED").toList());
    }
  }

  @DataProvider
  static Object[][] hierarchies() {
    return new Object[][] {
      {"1,\n2,1\n3,2\n", List.of(1L, 3L, 0L, 0L), "", ""},
      {"1,\n2,\n3,1\n", List.of(2L, 2L, 0L, 0L), "", "several-roots"},
      {"1,2\n2,1\n3,2\n", List.of(0L, 0L, 3L, 0L), "1 2", "hierarchy-cycle no-root"},
      {"1,\n2,3\n3,4\n4,2\n5,4\n6,1\n", List.of(1L, 2L, 4L, 0L), "2 3 4", "hierarchy-cycle"},
      {"1,1\n2,1\n", List.of(0L, 0L, 2L, 0L), "1", "hierarchy-cycle no-root"},
      {"1,\n2,9\n3,2\n", List.of(1L, 1L, 0L, 2L), "", ""},
      {"", List.of(0L, 0L, 0L, 0L), "", ""},
    };
  }

  @Test(dataProvider = "hierarchies")
  public void seesHierarchies(String rows, List<Long> figures, String cycle, String kinds)
      throws IOException {
    Path folder = Scratch.folder("hierarchy");
    Files.writeString(
        folder.resolve("schema.sql"),
        "CREATE TABLE river (id INTEGER PRIMARY KEY, below INTEGER REFERENCES river (id));");
    Files.writeString(folder.resolve("river.csv"), "id,below\n" + rows);
    try (Lantrel lantrel = Lantrel.open(folder)) {
      TableSurvey table = lantrel.survey().tables().get(0);
      Survey.HierarchySurvey told = table.hierarchies().get(0);
      assertThat(List.of(told.roots(), told.levels(), told.inCycles(), told.hanging()))
          .isEqualTo(figures);
      assertThat(told.cycle().stream().map(each -> each.values().get(0)).toList())
          .isEqualTo(cycle.isEmpty() ? List.of() : List.of(cycle.split(" ")));
      assertThat(table.violations().stream().map(each -> each.kind().id()).toList())
          .isEqualTo(kinds.isEmpty() ? List.of() : List.of(kinds.split(" ")));
    }
  }
}
