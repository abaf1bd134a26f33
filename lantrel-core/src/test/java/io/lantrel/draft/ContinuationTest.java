package io.lantrel.draft;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.lantrel.Lantrel;
import io.lantrel.RiverWatchFolder;
import io.lantrel.Scratch;
import io.lantrel.Study;
import io.lantrel.check.Finding;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.engine.Rows;
import io.lantrel.sql.Dialect;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** A query goes on: exactly these characters come in, no further finding, and the rows stay. */
public class ContinuationTest {

  /** The query, what is added, the query with it. */
  @DataProvider
  static Object[][] queries() {
    return new Object[][] {
      {
        "SELECT s.name\nFROM station s\nORDER BY s.name;\n",
        "station.bank",
        "SELECT s.name, s.bank\nFROM station s\nORDER BY s.name;\n"
      },
      {
        "-- Who keeps what\nSELECT s.name,\n       r.name AS river_name\nFROM station s\n"
            + "  LEFT JOIN river r\n    ON r.id = s.river_id\nWHERE s.capacity > 2",
        "keeper.given_name",
        "-- Who keeps what\nSELECT s.name,\n       r.name AS river_name,\n       keeper.given_name AS"
            + " keeper_given_name\nFROM station s\n  LEFT JOIN river r\n    ON r.id = s.river_id\n"
            + "  LEFT JOIN warden keeper\n    ON keeper.id = s.keeper_id\nWHERE s.capacity > 2"
      },
      // A reading names a station always, and one names none that is there; a sighting none such.
      {
        "select reading.taken_at from reading where reading.depth_cm > 100",
        "station.name",
        "select reading.taken_at, station.name as station_name from reading left join station on"
            + " station.id = reading.station_id where reading.depth_cm > 100"
      },
      {
        "select sighting.head_count from sighting where sighting.head_count > 2",
        "species.name",
        "select sighting.head_count, species.name as species_name from sighting join species on"
            + " species.id = sighting.species_id where sighting.head_count > 2"
      },
      {
        "select taken_at when_taken from reading d where d.depth_cm > 100",
        "river.name",
        "select taken_at when_taken, r.name river_name from reading d left join station s on s.id ="
            + " d.station_id left join river r on r.id = s.river_id where d.depth_cm > 100"
      },
      {
        "SELECT * FROM station AS st",
        "bank_kind.label",
        "SELECT st.*, bk.label AS bank_kind_label FROM station AS st LEFT JOIN bank_kind AS bk ON"
            + " bk.code = st.bank"
      },
      {
        "SELECT s.name , r.name AS river\nFROM station s, river r, bank_kind b\nWHERE r.id ="
            + " s.river_id AND b.code = s.bank",
        "flows_into.name",
        "SELECT s.name , r.name AS river , flows_into.name AS flows_into_name\nFROM station s, river"
            + " r\nLEFT JOIN river flows_into ON flows_into.id = r.flows_into, bank_kind b\nWHERE"
            + " r.id = s.river_id AND b.code = s.bank"
      },
      {
        "SELECT s.name, COUNT(d.id) AS readings FROM station s LEFT JOIN reading d ON d.station_id ="
            + " s.id GROUP BY s.id, s.name HAVING COUNT(d.id) > 0",
        "river.name",
        "SELECT s.name, COUNT(d.id) AS readings, r.name AS river_name FROM station s LEFT JOIN"
            + " reading d ON d.station_id = s.id LEFT JOIN river r ON r.id = s.river_id GROUP BY"
            + " s.id, s.name, r.name HAVING COUNT(d.id) > 0"
      },
      {
        "SELECT s.name, COUNT(d.id) AS readings FROM station s LEFT JOIN reading d ON d.station_id ="
            + " s.id GROUP BY s.id, s.name",
        "average reading.temperature",
        "SELECT s.name, COUNT(d.id) AS readings, AVG(d.temperature) AS average_reading_temperature"
            + " FROM station s LEFT JOIN reading d ON d.station_id = s.id GROUP BY s.id, s.name"
      },
      {
        "SELECT s.name, COUNT(d.id) AS readings FROM station s LEFT JOIN reading d ON d.station_id ="
            + " s.id GROUP BY s.id, s.name",
        "sum sighting.head_count",
        "SELECT s.name, COUNT(d.id) AS readings, (SELECT SUM(si.head_count) FROM sighting si WHERE"
            + " si.station_id = s.id) AS total_sighting_head_count FROM station s LEFT JOIN reading"
            + " d ON d.station_id = s.id GROUP BY s.id, s.name"
      },
      {
        "SELECT station.name FROM station",
        "count of species",
        "SELECT station.name, (SELECT COUNT(species.id) FROM species WHERE EXISTS (SELECT 1 FROM"
            + " sighting WHERE sighting.station_id = station.id AND species.id ="
            + " sighting.species_id)) AS species_count FROM station"
      },
      {
        "SELECT w.given_name FROM warden w JOIN warden m ON m.id = w.mentor_id",
        "mentor.given_name",
        "SELECT w.given_name, m.given_name AS mentor_given_name FROM warden w JOIN warden m ON m.id"
            + " = w.mentor_id"
      },
      {
        "WITH deep AS (SELECT station_id FROM reading WHERE depth_cm > 100) SELECT s.name FROM deep"
            + " JOIN station s ON s.id = deep.station_id",
        "river.name",
        "WITH deep AS (SELECT station_id FROM reading WHERE depth_cm > 100) SELECT s.name, r.name AS"
            + " river_name FROM deep JOIN station s ON s.id = deep.station_id LEFT JOIN river r ON"
            + " r.id = s.river_id"
      },
    };
  }

  @Test(dataProvider = "queries")
  public void addsWhatIsNeededAndNothingElse(String sql, String item, String expected) {
    try (Lantrel lantrel = Lantrel.open(RiverWatchFolder.data())) {
      List<Draft> drafts = lantrel.drafts(Wish.show(item).continuing(sql));
      assertThat(drafts.get(0).sql()).isEqualTo(expected);
      for (Draft draft : drafts) {
        Study study = lantrel.study(draft.sql());
        assertThat(kinds(study)).isEqualTo(kinds(lantrel.study(sql)));
        Rows before = lantrel.study(sql).result();
        List<List<@Nullable Object>> shortened = new ArrayList<>();
        study.result().rows().forEach(row -> shortened.add(row.subList(0, row.size() - 1)));
        assertThat(shortened).containsExactlyInAnyOrderElementsOf(before.rows());
      }
    }
  }

  private static List<Kind> kinds(Study study) {
    return study.findings().stream()
        .filter(each -> each.severity() != Severity.NOTE)
        .map(Finding::kind)
        .toList();
  }

  @Test
  public void addsSeveralThingsAndTellsWhenARowComesSeveralTimes() {
    try (Lantrel lantrel = Lantrel.open(RiverWatchFolder.data())) {
      Wish wish =
          Wish.show("reading.taken_at", "river.name")
              .continuing("SELECT DISTINCT name FROM station");
      Draft draft = lantrel.drafts(wish).get(0);
      assertThat(draft.sql())
          .isEqualTo(
              "SELECT DISTINCT name, reading.taken_at AS reading_taken_at, river.name AS river_name FROM"
                  + " station LEFT JOIN reading ON reading.station_id = station.id LEFT JOIN river"
                  + " ON river.id = station.river_id");
      assertThat(draft.reasons())
          .contains(
              "a row now comes once for every reading that it has",
              "DISTINCT minds river.name too, so that rows that were one may be several");
    }
  }

  /** The keeper and the deputy are two ways to a warden; a gauge of the station is no third one. */
  @Test
  public void showsEveryWayThatRepeatsNoRow() throws IOException {
    Path schema = Scratch.folder("ways").resolve("schema.sql");
    Files.writeString(
        schema,
        """
        CREATE TABLE warden (id INTEGER PRIMARY KEY, name VARCHAR(9));
        CREATE TABLE station (id INTEGER PRIMARY KEY, keeper_id INTEGER REFERENCES warden (id),
          deputy_id INTEGER REFERENCES warden (id));
        CREATE TABLE gauge (id INTEGER PRIMARY KEY, label VARCHAR(9),
          station_id INTEGER REFERENCES station (id));
        CREATE TABLE reading (id INTEGER PRIMARY KEY, gauge_id INTEGER REFERENCES gauge (id),
          station_id INTEGER REFERENCES station (id));
        """);
    try (Lantrel lantrel = Lantrel.openSchema(schema, Dialect.POSTGRESQL)) {
      String sql = "SELECT d.id FROM reading d JOIN station s ON s.id = d.station_id";
      List<Draft> drafts = lantrel.drafts(Wish.show("warden.name", "gauge.label").continuing(sql));
      String gauge = " LEFT JOIN gauge g ON g.id = d.gauge_id";
      assertThat(drafts)
          .extracting(Draft::sql)
          .satisfiesExactlyInAnyOrder(
              text -> assertThat(text).endsWith("w ON w.id = s.keeper_id" + gauge),
              text -> assertThat(text).endsWith("w ON w.id = s.deputy_id" + gauge));
    }
  }

  @DataProvider
  static Object[][] unfit() {
    return new Object[][] {
      {"SELECT nme FROM river", "river.flow", "line 1, column 8: river has no column nme"},
      {"SELECT 1 UNION SELECT id FROM river", "river.flow", "several parts"},
      {"SELECT 1; SELECT 2", "river.flow", "here are 2 statements"},
      {"SELECT name FROM river", "river.depth", "river has no column depth"},
      {"SELECT name AS n FROM river", "river.name", "is shown already, as n"},
      {"SELECT name FROM river", "lake.name", "no table and no role called lake"},
      {
        "SELECT w.id FROM warden w JOIN warden m ON m.id = w.mentor_id",
        "warden.given_name",
        "as w and m; say which, as w.given_name"
      },
      {
        "SELECT river_id, COUNT(*) FROM station GROUP BY river_id",
        "station.name",
        "is not the same for all rows of a group"
      },
      {"SELECT COUNT(*) FROM station", "river.name", "group the query first"},
      {
        "SELECT name FROM station GROUP BY name",
        "reading.depth_cm",
        "ask for a figure, as greatest reading.depth_cm"
      },
      {
        "WITH one AS (SELECT id FROM river) SELECT id FROM one",
        "station.name",
        "no reference connects station with the tables of the query"
      },
    };
  }

  @Test(dataProvider = "unfit")
  public void saysWhyAQueryDoesNotGoOn(String sql, String item, String words) {
    try (Lantrel lantrel = Lantrel.open(RiverWatchFolder.data())) {
      assertThatThrownBy(() -> lantrel.drafts(Wish.show(item).continuing(sql)))
          .isInstanceOf(WishException.class)
          .hasMessageContaining(words);
    }
  }
}
