package io.lantrel.draft;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.lantrel.Lantrel;
import io.lantrel.RiverWatchFolder;
import io.lantrel.Scratch;
import io.lantrel.Study;
import io.lantrel.check.Severity;
import io.lantrel.sql.Dialect;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Drafts over tables that hang together in other ways than those of the river watch. */
public class DrafterTest {

  private static Path folder() throws IOException {
    Path folder = Scratch.folder("odd");
    Files.writeString(
        folder.resolve("schema.sql"),
        """
        CREATE TABLE "order" (id INTEGER PRIMARY KEY, "select" VARCHAR(10));
        CREATE TABLE "Odd Table" ("Key No" INTEGER PRIMARY KEY,
          "order" INTEGER REFERENCES "order" (id), other INTEGER REFERENCES "order" (id));
        CREATE TABLE reach (a INTEGER, b INTEGER, PRIMARY KEY (a, b));
        CREATE TABLE weir (id INTEGER PRIMARY KEY, a INTEGER, b INTEGER,
          FOREIGN KEY (a, b) REFERENCES reach (a, b));
        """);
    Files.writeString(folder.resolve("order.csv"), "id,select\n1,x\n2,y\n");
    Files.writeString(folder.resolve("Odd Table.csv"), "Key No,order,other\n5,1,2\n6,2,\n");
    Files.writeString(folder.resolve("reach.csv"), "a,b\n1,1\n1,2\n");
    Files.writeString(folder.resolve("weir.csv"), "id,a,b\n7,1,2\n8,1,\n");
    return folder;
  }

  @Test
  public void writesEveryWayAndQuotesOddNames() throws IOException {
    try (Lantrel lantrel = Lantrel.open(folder())) {
      List<Draft> drafts = lantrel.drafts(Wish.show("\"Odd Table\".\"Key No\"", "order.select"));
      assertThat(drafts).hasSize(2);
      assertThat(drafts.get(0).sql()).contains("ON o.id = ot.\"order\"", "o.\"select\"");
      assertThat(drafts.get(1).sql()).contains("ON o.id = ot.other");
      for (Draft draft : drafts) {
        assertThat(lantrel.study(draft.sql()).findings()).as(draft.sql()).isEmpty();
        assertThat(lantrel.study(draft.sql()).result().size()).isEqualTo(2);
      }
    }
  }

  @Test
  public void joinsAlongAllColumnsOfAKey() throws IOException {
    try (Lantrel lantrel = Lantrel.open(folder())) {
      List<Draft> drafts = lantrel.drafts(Wish.show("reach.a", "reach.b", "count of weir"));
      assertThat(drafts).hasSize(1);
      assertThat(drafts.get(0).sql())
          .contains("ON w.a = r.a AND w.b = r.b", "COUNT(w.id)", "GROUP BY r.a, r.b");
      assertThat(lantrel.study(drafts.get(0).sql()).result().rows().toString())
          .contains("[1, 1, 0]", "[1, 2, 1]");
    }
  }

  /** Conditions, whether the join must find a partner for them, and how many rows there are. */
  @DataProvider
  static Object[][] conditions() {
    return new Object[][] {
      {"river.name = 'Tavin'", "\nJOIN river r", 2},
      {"COALESCE(river.length_km, 0) < 60", "\nLEFT JOIN river r", 8},
      {"river.id IS NULL", "\nLEFT JOIN river r", 1},
      {"(river.id = 1) OR (river.id = 2)", "((r.id = 1) OR (r.id = 2))", 4},
    };
  }

  @Test(dataProvider = "conditions")
  public void keepsWhatAConditionKeeps(String condition, String words, int rows) {
    try (Lantrel lantrel = Lantrel.open(RiverWatchFolder.data())) {
      Wish wish =
          Wish.show("station.name", "river.name").where(condition).where("station.capacity > 0");
      Study study = lantrel.study(lantrel.drafts(wish).get(0).sql());
      assertThat(study.sql()).contains(words);
      assertThat(study.findings()).as(study.sql()).isEmpty();
      assertThat(study.result().size()).isEqualTo(rows);
    }
  }

  /** Wishes of every shape with a condition, and how many rows they give. */
  @DataProvider
  static Object[][] shapes() {
    return new Object[][] {
      {
        Wish.show("station.name", "other.name")
            .pairsOf("station", "river")
            .where("river.name = 'Tavin'"),
        1
      },
      {
        Wish.show("species_group.name", "river.name", "count of sighting")
            .keepEvery("species_group", "river")
            .where("river.length_km > 100")
            .where("sighting.head_count > 3"),
        14
      },
      {
        Wish.show("river.name", "sum of station.capacity", "count of reading")
            .where("reading.depth_cm > 100")
            .where("river.length_km > 100")
            .orderBy("count of reading desc", "river.name"),
        2
      },
      {Wish.show("warden.given_name", "count of species", "count of reading"), 10},
      {Wish.show("river.name").without("reading").orderBy("river.length_km"), 4},
    };
  }

  @Test(dataProvider = "shapes")
  public void takesConditionsInEveryShape(Wish wish, int rows) {
    try (Lantrel lantrel = Lantrel.open(RiverWatchFolder.data())) {
      Study study = lantrel.study(lantrel.drafts(wish).get(0).sql());
      assertThat(study.inspection().refusal()).as(study.sql()).isEmpty();
      assertThat(study.findings())
          .as(study.sql())
          .noneMatch(each -> each.severity() != Severity.NOTE);
      assertThat(study.result().size()).as(study.sql()).isEqualTo(rows);
    }
  }

  /** Wishes for several lists: for each draft its form, its first words, and how many rows. */
  @DataProvider
  static Object[][] lists() {
    return new Object[][] {
      {
        Wish.show("station.name", "reading.depth_cm", "sighting.head_count"),
        List.of(
            "one list behind the other | one row for each reading of a station, and one for each"
                + " station without a reading; then one row for each sighting of a station | 48",
            "figures for each station | one row for each station; every station is kept | 14")
      },
      {
        Wish.show("reading.depth_cm", "sighting.head_count"),
        List.of(
            "one list behind the other | one row for each reading; then one row for each sighting"
                + " | 47",
            "figures for each station | one row for each station; every station is kept | 14")
      },
      {
        Wish.show("station.name", "reading.depth_cm", "sighting.head_count")
            .where("reading.depth_cm > 150")
            .where("station.capacity > 3")
            .orderBy("station.name", "reading.depth_cm desc"),
        List.of(
            "one list behind the other | one row for each reading of a station that fits; then one"
                + " row for each sighting of a station that fits | 27",
            "figures for each station | one row for each station that fits | 11")
      },
      {
        Wish.show("river.name", "station.name", "reading.depth_cm", "sighting.head_count"),
        List.of(
            "one list behind the other | one row for each reading of a river, and one for each river"
                + " without a station, and one for each station without a reading; then one row for"
                + " each sighting of a river | 49",
            "figures for each station | one row for each station; every station is kept | 14")
      },
      {
        Wish.show("station.name", "reading.depth_cm", "sighting.head_count").withEveryPair(),
        List.of(" | every pair: each reading beside each sighting of the same station | 60")
      },
      {
        Wish.show("station.name", "sighting.head_count"),
        List.of(
            " | one row for each sighting of a station, and one for each station without a"
                + " sighting | 24")
      },
      {
        Wish.show("station.name").where("reading.depth_cm > 150"),
        List.of(" | one row for each station that fits | 3")
      },
      {
        Wish.show("warden.given_name").without("warden"),
        List.of(" | one row for each warden without a warden | 4")
      },
      {
        Wish.show("river.name").below("river"),
        List.of(" | one row for each river, with its level; level 0 refers to none | 12")
      },
      {
        Wish.show("river.name", "station.name").below("river", "name = 'Ombrel'"),
        List.of(
            " | one row for each station of a river below the start, and one for each river without"
                + " a station, with its level; level 1 is next to the start | 9")
      },
      {
        Wish.show("station.name", "reading.depth_cm", "sighting.head_count")
            .below("river", "name = 'Ombrel'"),
        List.of(
            "one list behind the other | one row for each reading of a station that fits, and one"
                + " for each station without a reading; then one row for each sighting of a station"
                + " that fits | 24",
            "figures for each station | one row for each station that fits | 8")
      },
      {
        Wish.show(
                "river.name",
                "station.name",
                "station.capacity",
                "reading.depth_cm",
                "sighting.head_count")
            .below("river", "name = 'Murlin'"),
        List.of(
            "one list behind the other | one row for each reading of a river that fits, and one for"
                + " each river without a station, and one for each station without a reading; then"
                + " one row for each sighting of a river that fits | 3",
            "figures for each station | one row for each station that fits | 2")
      },
      {
        Wish.show("station.name", "river.name").keepEvery("station").below("river", "id = 1"),
        List.of(" | one row for each station | 14")
      },
      {
        Wish.show("station.name", "count of reading").where("river.name = 'Ombrel'"),
        List.of(" | one row for each station that fits | 2")
      },
      {
        Wish.show("station.name", "count of reading", "count of sighting")
            .where("river.name = 'Ombrel'"),
        List.of(" | one row for each station that fits | 2")
      },
      {
        Wish.show("river.name", "count of station").above("river", "name = 'Hathe'"),
        List.of(" | one row for each river above the start | 2")
      },
      {
        Wish.show("river.name").below("river", "id IN (1, 2)").where("river.length_km > 60"),
        List.of(
            " | one row for each river below the start that fits, with its level; level 1 is next to the start | 2")
      },
      {
        Wish.show("river.name", "count of station").overBranchesOf("river"),
        List.of(
            " | one row for each river; every river is kept; figures are of the river and of all"
                + " below it | 12")
      },
      {
        Wish.show("species.name", "other.name").pairsOf("species", "station"),
        List.of(" | one row for each two different rows of species that meet at some station | 9")
      },
      {
        Wish.show("species.name", "other.name", "station.name").pairsOf("species", "station"),
        List.of(
            " | one row for each two different rows of species at the same station, and each such"
                + " station | 10")
      },
      {
        Wish.show("species.name", "other.name")
            .pairsOf("species", "station")
            .where("station.name = 'Mill Weir'"),
        List.of(" | one row for each two different rows of species that meet at some station | 3")
      },
      {
        Wish.show("station.name", "other.name", "reading.depth_cm").pairsOf("station", "river"),
        List.of(
            " | one row for each two different rows of station at the same river, and for each"
                + " reading of the first, if it has any | 9")
      },
      {
        Wish.show("other.name", "reading.depth_cm", "sighting.head_count")
            .pairsOf("station", "river")
            .withEveryPair(),
        List.of(
            " | one row for each two different rows of station at the same river, and for each"
                + " reading beside each sighting of the first, if it has any | 28")
      },
    };
  }

  @Test(dataProvider = "lists")
  public void neverMultipliesListsInSilence(Wish wish, List<String> expected) {
    try (Lantrel lantrel = Lantrel.open(RiverWatchFolder.data())) {
      List<String> told = new ArrayList<>();
      for (Draft draft : lantrel.drafts(wish)) {
        Study study = lantrel.study(draft.sql());
        assertThat(study.inspection().refusal()).as(draft.sql()).isEmpty();
        String reading = draft.reading().replaceAll("(?:; a column of another|, by way of).*", "");
        told.add(draft.form() + " | " + reading + " | " + study.result().size());
        if (!draft.claims().isEmpty()) {
          study.verify(draft.claims().toArray(String[]::new)).assertMet();
        }
      }
      assertThat(told).isEqualTo(expected);
    }
  }

  @DataProvider
  static Object[][] refused() {
    return new Object[][] {
      {
        Wish.show("station.name", "reading.depth_cm", "sighting.head_count")
            .where("reading.depth_cm > sighting.head_count"),
        "\"reading.depth_cm > sighting.head_count\" asks of rows of several lists at once (reading,"
            + " sighting); ask for one of them, or for every pair"
      },
      {
        Wish.show("station.name", "reading.depth_cm", "sighting.head_count")
            .orderBy("station.capacity"),
        "lists that stand one behind the other are put in order by what is shown; station.capacity"
            + " is not"
      },
      {
        Wish.show("station.name", "keeper.given_name", "warden.family_name"),
        "the warden of a station is called keeper already (station.keeper_id → warden.id); use one"
            + " of the two names"
      },
      {
        Wish.show("station.name").keepEvery("station").where("reading.depth_cm > 150"),
        "every station is kept, so \"reading.depth_cm > 150\" would change nothing, since nothing of"
            + " reading is shown; leave one of the two out, or show something of it"
      },
      {
        Wish.show("station.name", "count of reading")
            .keepEvery("station")
            .where("river.name = 'Ombrel'"),
        "every station is kept, so \"river.name = 'Ombrel'\" would change nothing, since nothing of"
            + " river is shown; leave one of the two out, or show something of it"
      },
      {
        Wish.show("station.name").without("station"),
        "station does not refer to itself, so \"without station\" says nothing of its rows; name"
            + " another table"
      },
      {
        Wish.show("station.name", "other.name").pairsOf("station", "species_group"),
        "station does not refer to species_group, and no table refers to both"
      },
      {
        Wish.show("other.name", "reading.depth_cm", "sighting.head_count")
            .pairsOf("station", "river"),
        "beside pairs of station, reading and sighting have nothing to do with each other: each row"
            + " of one would come with each of the other; show one of them, or ask for every pair of"
            + " them too"
      },
      {
        Wish.show("station.name", "other.name")
            .pairsOf("station", "river")
            .below("river", "id = 1"),
        "pairs do not go along a hierarchy; ask for one of the two"
      },
      {
        Wish.show("river.name").above("river", ""),
        "above which rows? Write river, the word where, and a condition"
      },
      {
        Wish.show("station.name", "count of reading").overBranchesOf("river"),
        "branches of river are for figures beside its columns, as river.id and count of something"
            + " that belongs to it"
      },
      {
        Wish.show("river.name", "sum of species.id").overBranchesOf("river"),
        "sum of species.id would count a row several times over a branch, since station.river_id →"
            + " river.id, sighting.station_id → station.id, sighting.species_id → species.id leads"
            + " to it in several ways; ask for least, greatest, or a count of different values"
      },
      {
        Wish.show("river.name", "species_group.name", "count of sighting")
            .keepEvery("river", "species_group")
            .below("river"),
        "figures for each river and each species_group do not go along a hierarchy; show one of"
            + " them"
      },
      {
        Wish.show("river.name").below("river", "nam = 'Ombrel'"),
        "river has no column nam; close to it: name"
      },
      {
        Wish.show("count of station").orderBy("river.name"),
        "the rows cannot be put in order by river.name, which is not shown; show it"
      },
    };
  }

  @Test(dataProvider = "refused")
  public void saysWhatCannotBe(Wish wish, String sentence) {
    try (Lantrel lantrel = Lantrel.open(RiverWatchFolder.data())) {
      assertThatThrownBy(() -> lantrel.drafts(wish))
          .isInstanceOf(WishException.class)
          .hasMessage(sentence);
    }
  }

  /** A world without any constraint: wishes, and by what sort of reference they are met. */
  @DataProvider
  static Object[][] undeclared() {
    return new Object[][] {
      {Wish.show("shift.sh_id", "driver.dr_name"), "driver.dr_id, as the rows show)"},
      {
        Wish.show("lost_item.li_what", "tram_stop.ts_name"),
        "lost_item.li_ts → tram_stop.ts_id, as the rows show)"
      },
      {
        Wish.show("lost_item.li_what", "driver.dr_name"),
        "(lost_item.li_finder → driver.dr_id, which is only possible: the values would fit)"
      },
    };
  }

  @Test(dataProvider = "undeclared")
  public void goesAlongWhatNoSchemaDeclares(Wish wish, String reason) throws IOException {
    Path folder = Scratch.folder("trams");
    Files.writeString(
        folder.resolve("schema.sql"),
        """
        CREATE TABLE tram_stop (ts_id INTEGER, ts_name VARCHAR(20), ts_zone CHAR(1));
        CREATE TABLE driver (dr_id INTEGER, dr_name VARCHAR(20), dr_born DATE);
        CREATE TABLE shift (sh_id INTEGER, sh_dr_id INTEGER, sh_hours DECIMAL(4,1));
        CREATE TABLE lost_item (li_id INTEGER, li_what VARCHAR(30), li_finder INTEGER, li_ts INTEGER);
        """);
    Files.writeString(
        folder.resolve("tram_stop.csv"),
        "ts_id,ts_name,ts_zone\n501,Alder,A\n502,Birch,A\n503,Cedar,B\n504,Dock,B\n");
    Files.writeString(
        folder.resolve("driver.csv"),
        "dr_id,dr_name,dr_born\n71,Ada,1980-01-02\n72,Bo,1990-04-05\n73,Cy,\n74,Di,1999-01-01\n");
    Files.writeString(
        folder.resolve("shift.csv"), "sh_id,sh_dr_id,sh_hours\n1,71,4.5\n2,72,5\n3,72,6\n");
    Files.writeString(
        folder.resolve("lost_item.csv"),
        "li_id,li_what,li_finder,li_ts\n1,hat,72,501\n2,sack,73,501\n3,Hat,71,504\n4,box,72,503\n");
    try (Lantrel lantrel = Lantrel.open(folder)) {
      Draft draft = lantrel.drafts(wish).get(0);
      assertThat(draft.reasons()).anyMatch(each -> each.contains(reason));
      assertThat(lantrel.study(draft.sql()).findings()).isEmpty();
      assertThatThrownBy(() -> lantrel.drafts(Wish.show("tram_stop.ts_name", "ferry.name")))
          .isInstanceOf(WishException.class)
          .hasMessageStartingWith("there is no table and no role called ferry");
    }
  }

  /** A claim by the name of the role would be one of the column. */
  @Test
  public void aRoleThatIsNamedLikeItsColumnIsNoClaim() {
    try (Lantrel lantrel = Lantrel.open(RiverWatchFolder.data())) {
      Draft draft =
          lantrel.drafts(Wish.show("flows_into.flows_into").where("station.capacity > 2")).get(0);
      assertThat(draft.reading()).isEqualTo("one row for each flows_into that fits");
      assertThat(draft.claims()).isEmpty();
      Draft other =
          lantrel.drafts(Wish.show("flows_into.name").where("station.capacity > 2")).get(0);
      assertThat(other.claims()).containsExactly("one row per flows_into");
      lantrel.study(other.sql()).verify(other.claims().toArray(String[]::new)).assertMet();
    }
  }

  /** Each weir is at one gate of its own, so that no two can meet there. */
  @Test
  public void whatRefersByItsKeyHasNoPairs() throws IOException {
    Path folder = Scratch.folder("weirs");
    Files.writeString(
        folder.resolve("schema.sql"),
        "CREATE TABLE gate (area INTEGER, no INTEGER, PRIMARY KEY (area, no));\n"
            + "CREATE TABLE weir (gate_area INTEGER, gate_no INTEGER, name VARCHAR(9), PRIMARY KEY"
            + " (gate_area, gate_no), FOREIGN KEY (gate_area, gate_no) REFERENCES gate);");
    Files.writeString(folder.resolve("gate.csv"), "area,no\n1,1\n");
    Files.writeString(folder.resolve("weir.csv"), "gate_area,gate_no,name\n1,1,Old\n");
    try (Lantrel lantrel = Lantrel.open(folder)) {
      assertThatThrownBy(
              () -> lantrel.drafts(Wish.show("weir.name", "other.name").pairsOf("weir", "gate")))
          .isInstanceOf(WishException.class)
          .hasMessage(
              "no two rows of weir are at the same gate, since weir(gate_area, gate_no) →"
                  + " gate(area, no) and gate_area, gate_no are different in each");
    }
  }

  /** Eight tables at each of ten stages, each of which may refer to all of the next: 8 to the 8. */
  @Test
  public void waysWithoutNumberAreNotAllLookedAt() throws IOException {
    StringBuilder schema = new StringBuilder();
    for (int stage = 9; stage >= 0; stage--) {
      for (int at = 0; at < 8; at++) {
        schema.append("CREATE TABLE lock").append(stage).append(at);
        schema.append(" (id INTEGER PRIMARY KEY, name VARCHAR(9)");
        for (int next = 0; stage < 9 && next < 8; next++) {
          String to = "lock" + (stage + 1) + next;
          schema.append(", ").append(to).append("_id INTEGER REFERENCES ").append(to);
        }
        schema.append(");\n");
      }
    }
    Path file = Scratch.folder("locks").resolve("schema.sql");
    Files.writeString(file, schema);
    try (Lantrel lantrel = Lantrel.openSchema(file, Dialect.POSTGRESQL)) {
      List<Draft> drafts = lantrel.drafts(Wish.show("lock00.name", "lock97.name"));
      assertThat(drafts).isNotEmpty();
      assertThat(lantrel.study(drafts.get(0).sql()).findings()).isEmpty();
    }
  }
}
