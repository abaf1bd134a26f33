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
import java.util.stream.Collectors;
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
      {
        // Each table marks its columns, and dates come in two roles.
        "CREATE TABLE date_dim (d_date_sk INTEGER, d_year INTEGER, d_moon VARCHAR(9));"
            + "CREATE TABLE place_dim (p_place_sk INTEGER, p_name VARCHAR(9), p_zone VARCHAR(9));"
            + "CREATE TABLE catch_fact (c_caught_date_sk INTEGER, c_weighed_date_sk INTEGER,"
            + " c_place_sk INTEGER, c_weight INTEGER);",
        List.of(
            "date_dim:d_date_sk,d_year,d_moon\n801,2024,new\n802,2024,full\n803,2025,half\n",
            "place_dim:p_place_sk,p_name,p_zone\n1,Alder,a\n2,Birch,b\n3,Cedar,a\n",
            "catch_fact:c_caught_date_sk,c_weighed_date_sk,c_place_sk,c_weight\n"
                + "801,802,1,3\n802,803,1,2\n803,803,3,1\n801,,2,3\n"),
        List.of(
            "catch_fact.c_caught_date_sk → date_dim.d_date_sk",
            "catch_fact.c_weighed_date_sk → date_dim.d_date_sk",
            "catch_fact.c_place_sk → place_dim.p_place_sk")
      },
      {
        // A word that begins all tables says nothing of any; two roles of a key of two columns.
        "CREATE TABLE rw_basin (basin_id INTEGER PRIMARY KEY, title VARCHAR(9));"
            + "CREATE TABLE rw_reach (basin_id INTEGER, reach_no INTEGER, len INTEGER,"
            + " PRIMARY KEY (basin_id, reach_no));"
            + "CREATE TABLE rw_canal (canal_id INTEGER PRIMARY KEY, from_basin_id INTEGER,"
            + " from_reach_no INTEGER, to_basin_id INTEGER, to_reach_no INTEGER);"
            + "CREATE TABLE rw_lock (lock_id INTEGER PRIMARY KEY, canal INTEGER);",
        List.of(
            "rw_basin:basin_id,title\n10,North\n20,South\n",
            "rw_reach:basin_id,reach_no,len\n10,1,5\n10,2,7\n20,1,9\n",
            "rw_canal:canal_id,from_basin_id,from_reach_no,to_basin_id,to_reach_no\n"
                + "501,10,1,20,1\n502,10,2,10,1\n503,20,1,10,2\n504,20,1,,\n",
            "rw_lock:lock_id,canal\n7,501\n8,501\n9,503\n"),
        List.of(
            "rw_reach.basin_id → rw_basin.basin_id",
            "rw_canal.from_basin_id → rw_basin.basin_id",
            "rw_canal.to_basin_id → rw_basin.basin_id",
            "rw_canal(from_basin_id, from_reach_no) → rw_reach(basin_id, reach_no)",
            "rw_canal(to_basin_id, to_reach_no) → rw_reach(basin_id, reach_no)",
            "rw_lock.canal → rw_canal.canal_id")
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

  /**
   * Worlds in which values fit and names say little: references with how sure they are, and why.
   */
  @DataProvider
  static Object[][] merelyFitting() {
    return new Object[][] {
      {
        // The word has nothing to do with the table, and all its values are keys of that one only.
        "tester:1003\n1001\n1003\n1004\n1001\n",
        List.of("kit.tester → person.id POSSIBLE: all 3 values found")
      },
      {
        // Named like a reference, and two tables would explain it.
        "owner_id:1\n3\n4\n1\n5\n2\n",
        List.of(
            "kit.owner_id → person.id POSSIBLE: named like a reference; all 5 values found;"
                + " all found in boat as well",
            "kit.owner_id → boat.id POSSIBLE: named like a reference; all 5 values found;"
                + " all found in person as well")
      },
      {"capacity:1003\n1001\n1003\n1004\n1001\n", List.of()},
      {"tester:1\n3\n4\n1\n5\n2\n", List.of()},
    };
  }

  @Test(dataProvider = "merelyFitting")
  public void whatMerelyFitsIsNotObserved(String kit, List<String> expected) throws IOException {
    boolean far = kit.contains("1003");
    Path folder = Scratch.folder("fitting");
    String column = kit.substring(0, kit.indexOf(':'));
    Files.writeString(
        folder.resolve("schema.sql"),
        "CREATE TABLE person (id INTEGER PRIMARY KEY, name VARCHAR(9));"
            + "CREATE TABLE boat (id INTEGER PRIMARY KEY, name VARCHAR(9));"
            + "CREATE TABLE kit (code VARCHAR(9) PRIMARY KEY, "
            + column
            + " INTEGER);");
    StringBuilder people = new StringBuilder("id,name\n");
    StringBuilder boats = new StringBuilder("id,name\n");
    for (int i = 1; i <= 6; i++) {
      people.append(far ? 1000 + i : i).append(",P").append(i).append('\n');
      boats.append(i).append(",B").append(i).append('\n');
    }
    Files.writeString(folder.resolve("person.csv"), people.toString());
    Files.writeString(folder.resolve("boat.csv"), boats.toString());
    StringBuilder kits = new StringBuilder("code," + column + "\n");
    for (String value : kit.substring(kit.indexOf(':') + 1).split("\n", -1)) {
      if (!value.isEmpty()) {
        kits.append("K").append(kits.length()).append(',').append(value).append('\n');
      }
    }
    Files.writeString(folder.resolve("kit.csv"), kits.toString());
    try (Lantrel lantrel = Lantrel.open(folder)) {
      assertThat(lantrel.survey().references())
          .extracting(
              each ->
                  each.reference().words()
                      + " "
                      + each.reference().basis()
                      + ": "
                      + String.join("; ", each.reasons()))
          .containsExactlyInAnyOrderElementsOf(expected);
    }
  }

  private static final String REACHES =
      "CREATE TABLE reach (basin_no INTEGER, reach_no INTEGER, len INTEGER, PRIMARY KEY (basin_no,"
          + " reach_no));CREATE TABLE lock_gate (id INTEGER PRIMARY KEY, basin_no INTEGER, reach_no"
          + " INTEGER, taught_by INTEGER);CREATE TABLE mill (id INTEGER PRIMARY KEY, wheel"
          + " INTEGER);";

  /** References whose rows keep them in part, and rows that go round in a circle. */
  @DataProvider
  static Object[][] brokenInPart() {
    String pair = "lock_gate(basin_no, reach_no) → reach(basin_no, reach_no) ";
    String own = "lock_gate.taught_by → lock_gate.id ";
    String mill = "lock_gate.taught_by → mill.id ";
    return new Object[][] {
      {"1,1,1,\n2,1,2,\n3,2,1,\n4,2,2,\n5,2,9,\n", List.of(pair + "OBSERVED")},
      {"1,1,1,\n2,1,2,\n3,2,1,\n4,2,9,\n5,,9,\n", List.of(pair + "POSSIBLE")},
      {"1,1,1,\n2,1,9,\n3,2,9,\n4,3,2,\n", List.of("lock_gate.basin_no → mill.id POSSIBLE")},
      // a tree of its own table; one with a circle is possible, beside others that fit
      {"21,,,\n22,,,21\n23,,,21\n24,,,22\n", List.of(own + "OBSERVED")},
      {"21,,,\n22,,,21\n23,,,24\n24,,,23\n", List.of(own + "POSSIBLE")},
      {"1,,,\n2,,,1\n3,,,4\n4,,,3\n", List.of(own + "POSSIBLE", mill + "POSSIBLE")},
    };
  }

  @Test(dataProvider = "brokenInPart")
  public void whatIsBrokenInPartIsTold(String gates, List<String> expected) throws IOException {
    Path folder = Scratch.folder("reaches");
    Files.writeString(folder.resolve("schema.sql"), REACHES);
    Files.writeString(
        folder.resolve("reach.csv"), "basin_no,reach_no,len\n1,1,4\n1,2,5\n2,1,6\n2,2,7\n");
    Files.writeString(folder.resolve("mill.csv"), "id,wheel\n1,70\n2,80\n3,90\n4,91\n5,\n");
    Files.writeString(folder.resolve("lock_gate.csv"), "id,basin_no,reach_no,taught_by\n" + gates);
    try (Lantrel lantrel = Lantrel.open(folder)) {
      assertThat(lantrel.survey().references())
          .extracting(each -> each.reference().words() + " " + each.reference().basis())
          .containsExactlyInAnyOrderElementsOf(expected);
    }
  }

  @Test
  public void fewerTablesAreShownAsTheWholeKnowsThem() throws IOException {
    try (Lantrel lantrel = Lantrel.open(riverWatchWithout(" +REFERENCES \\w+ \\(\\w+\\)"))) {
      Survey survey =
          lantrel.survey(
              SurveyWish.all().only(each -> each.name().equals("species_group")).showing(5),
              doing -> {});
      assertThat(survey.notShown()).isEqualTo(7);
      assertThat(survey.tables()).hasSize(1);
      assertThat(survey.tables().get(0).first().size()).isEqualTo(5);
      assertThat(survey.tables().get(0).shapes()).containsExactly(Shape.HIERARCHY);
      assertThat(survey.references())
          .extracting(each -> each.reference().words())
          .containsExactly(
              "species.group_id → species_group.id", "species_group.within_id → species_group.id");
    }
  }

  @DataProvider
  static Object[][] values() {
    return new Object[][] {
      {"Elm\nelm\nElm\nElm\noak\n", "Elm 3 | elm 1, oak 1 | 0 0 1"},
      {"\"\"\nElm\n\"\"\n\n", " 2 | Elm 1 | 2 0 0"},
      {"\" Elm\"\nElm \nElm\n", " |  | 0 2 0"},
      {"\n\n", "nothing"},
    };
  }

  @Test(dataProvider = "values")
  public void showsValuesWorthSeeing(String rows, String expected) throws IOException {
    Path folder = Scratch.folder("values");
    Files.writeString(folder.resolve("schema.sql"), "CREATE TABLE tree (kind VARCHAR(9));");
    Files.writeString(folder.resolve("tree.csv"), "kind\n" + rows);
    try (Lantrel lantrel = Lantrel.open(folder)) {
      Survey survey = lantrel.survey(SurveyWish.all().withValues(), doing -> {});
      assertThat(
              survey
                  .tables()
                  .get(0)
                  .columns()
                  .get(0)
                  .values()
                  .map(SurveyTest::words)
                  .orElse("nothing"))
          .isEqualTo(expected);
    }
  }

  private static String words(ColumnValues values) {
    return counted(values.frequent())
        + " | "
        + counted(values.rare())
        + " | "
        + values.emptyTexts()
        + " "
        + values.blanksAtEnds()
        + " "
        + values.sameButForCase();
  }

  private static String counted(List<ColumnValues.Counted> values) {
    return values.stream()
        .map(each -> each.value() + " " + each.rows())
        .collect(Collectors.joining(", "));
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
