package io.lantrel.check;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.RiverWatchFolder;
import io.lantrel.Scratch;
import io.lantrel.Study;
import io.lantrel.sql.Edit;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Collectors;
import org.testng.annotations.AfterClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** What is told, what is not, and what is offered. */
public class InspectorTest {

  private final Lantrel lantrel = Lantrel.open(RiverWatchFolder.data());

  @AfterClass
  void close() {
    lantrel.close();
  }

  private static String kinds(Study study) {
    return study.findings().stream()
        .map(finding -> finding.kind().id() + " " + finding.severity().id())
        .collect(Collectors.joining("; "));
  }

  @DataProvider
  static Object[][] found() {
    return new Object[][] {
      // One cause, one finding: what follows from it is not told as well.
      {
        "SELECT s.nme, COUNT(*) FROM station s, river r GROUP BY s.nme",
        "unknown-column error; unknown-column error"
      },
      {
        "SELECT r.name, SUM(s.capacity) FROM station s, river r GROUP BY r.id, r.name",
        "cross-product warning"
      },
      {"SELECT s.name FROM station s JOIN river r ON s.id = r.id", "not-a-reference warning"},
      // Rows that WHERE drops anyway are not lost by the join.
      {"SELECT s.name FROM station s JOIN river r ON r.id = s.river_id WHERE s.id < 14", ""},
      {
        "SELECT s.name FROM station s JOIN river r ON r.id = s.river_id WHERE s.id > 13",
        "rows-without-partner warning"
      },
      // A further condition of the join keeps rows out on purpose.
      {"SELECT p.name FROM species p JOIN species_group g ON g.id = p.group_id AND g.id > 3", ""},
      // Two keys are no reference; the tables belong together over a third.
      {"SELECT w.id FROM warden w JOIN river r ON r.id = w.id", "not-a-reference warning"},
      // In a query in FROM, and in a subquery.
      {"SELECT q.n FROM (SELECT s.name AS n FROM station s, river r) q", "cross-product warning"},
      {
        "SELECT s.id FROM station s WHERE s.id IN (SELECT d.station_id FROM reading d, warden w)",
        "cross-product warning"
      },
      // An empty side, or one of a single row, repeats nothing.
      {"SELECT s.id FROM station s, (SELECT COUNT(*) AS n FROM river r) q WHERE s.id < q.n", ""},
      // Comma joins lose rows too.
      {
        "SELECT s.name FROM station s, river r WHERE s.river_id = r.id",
        "rows-without-partner warning"
      },
      // Totals per child, and totals without a join.
      {
        "SELECT d.id, SUM(s.capacity) FROM reading d LEFT JOIN station s ON s.id = d.station_id"
            + " GROUP BY d.id",
        ""
      },
      {"SELECT SUM(s.capacity) FROM station s", ""},
      {
        "SELECT SUM(s.capacity) FROM station s LEFT JOIN river r ON r.id = s.river_id",
        "idle-table note"
      },
      {
        "SELECT SUM(s.capacity) FROM station s LEFT JOIN reading d ON d.station_id = s.id",
        "repeated-in-total warning"
      },
      {
        "SELECT SUM(s.capacity * 2) + 1 FROM station s LEFT JOIN reading d ON d.station_id = s.id",
        "repeated-in-total warning"
      },
      {
        "SELECT SUM(DISTINCT s.capacity) FROM station s LEFT JOIN reading d ON d.station_id = s.id",
        "distinct-hides-repeats warning"
      },
      {
        "SELECT s.bank FROM station s LEFT JOIN reading d ON d.station_id = s.id GROUP BY s.bank"
            + " HAVING SUM(s.capacity) > 3",
        "repeated-in-total warning"
      },
      // Both sides of a FULL JOIN are optional.
      {
        "SELECT s.id FROM station s FULL JOIN river r ON r.id = s.river_id WHERE s.id > 0",
        "outer-join-cancelled warning"
      },
      {
        "SELECT s.id FROM station s FULL JOIN river r ON r.id = s.river_id WHERE r.id > 0",
        "outer-join-cancelled warning"
      },
    };
  }

  @Test(dataProvider = "found")
  public void findsThisAndNothingElse(String sql, String expected) {
    assertThat(kinds(lantrel.study(sql))).as(sql).isEqualTo(expected);
  }

  @DataProvider
  static Object[][] repaired() {
    return new Object[][] {
      {
        "select name from station s left join river r on r.id = s.river_id",
        "select s.name from station s left join river r on r.id = s.river_id"
      },
      {
        "select s.name\n  from station s -- all of them\n  join river r on r.id = s.river_id",
        "select s.name\n  from station s -- all of them\n  left join river r on r.id = s.river_id"
      },
      {
        "SELECT s.name FROM station s LEFT JOIN warden k ON k.id = 1 OR k.id = s.keeper_id"
            + " WHERE k.id > 2",
        "SELECT s.name FROM station s LEFT JOIN warden k ON (k.id = 1 OR k.id = s.keeper_id)"
            + " AND k.id > 2"
      },
      {
        "SELECT s.name FROM station s LEFT JOIN warden k ON k.id = s.keeper_id /* why */"
            + " WHERE k.id > 2 ORDER BY 1",
        "SELECT s.name FROM station s LEFT JOIN warden k ON k.id = s.keeper_id AND k.id > 2"
            + " /* why */  ORDER BY 1"
      },
      {
        "SELECT s.name FROM station s LEFT JOIN warden k ON k.id = s.keeper_id"
            + " WHERE (s.id > 1 AND (k.id > 2 AND s.id > 3))",
        "SELECT s.name FROM station s LEFT JOIN warden k ON k.id = s.keeper_id AND k.id > 2"
            + " WHERE (s.id > 1 AND (s.id > 3))"
      },
      {
        "SELECT p.name FROM species p, species_group g WHERE p.id = 1 OR p.id = 2",
        "SELECT p.name FROM species p JOIN species_group g ON p.group_id = g.id"
            + " WHERE p.id = 1 OR p.id = 2"
      },
      {
        "SELECT s.nme, s.flow, river.x FROM station s",
        // river has no column x either, and what would not run is not offered.
        "no repair"
      },
      {"SELECT s.nme FROM statoin s ORDER BY s.nme", "no repair"},
      {
        "SELECT s.nme FROM station s ORDER BY s.nme", "SELECT s.name FROM station s ORDER BY s.name"
      },
      {
        "SELECT river_id FROM station GROUP BY river_id HAVING COUNT(nme) > 1",
        "SELECT river_id FROM station GROUP BY river_id HAVING COUNT(name) > 1"
      },
    };
  }

  @Test(dataProvider = "repaired")
  public void editsTheUsersOwnText(String sql, String expected) {
    List<Finding> findings = lantrel.study(sql).findings();
    String repaired = findings.get(0).repair().map(Repair::sql).orElse("no repair");
    assertThat(repaired).isEqualTo(expected);
  }

  @Test
  public void everyRepairGivesTheRowsThatItPromises() {
    String text =
        "SELECT s.name FROM station s JOIN river r ON r.id = s.river_id JOIN warden k ON k.id ="
            + " s.keeper_id;\n"
            + "SELECT r.name, COUNT(s.id) FROM river r LEFT JOIN station s ON s.river_id = r.id"
            + " LEFT JOIN reading d ON d.station_id = s.id GROUP BY r.id, r.name;\n"
            + "SELECT given_name FROM warden w JOIN warden m ON m.id = w.mentor_id";
    for (Study study : lantrel.studies(text)) {
      for (Finding finding : study.findings()) {
        Repair repair = finding.repair().orElseThrow();
        assertThat(lantrel.study(repair.sql()).result().size())
            .isEqualTo((int) repair.rowsAfter().getAsLong());
        String whole = Edit.apply(text, repair.edits());
        assertThat(whole).contains(repair.sql());
        repair
            .rowsBefore()
            .ifPresent(rows -> assertThat(study.result().size()).isEqualTo((int) rows));
      }
    }
  }

  @Test
  public void choosesNothingInSilence() throws IOException {
    Path folder = Scratch.folder("two-ways");
    Files.writeString(
        folder.resolve("schema.sql"),
        "CREATE TABLE river (id INTEGER PRIMARY KEY); CREATE TABLE ferry (id INTEGER PRIMARY KEY,"
            + " from_id INTEGER REFERENCES river, to_id INTEGER REFERENCES river);");
    Files.writeString(folder.resolve("river.csv"), "id\n1\n2\n");
    Files.writeString(folder.resolve("ferry.csv"), "id,from_id,to_id\n1,1,2\n");
    try (Lantrel two = Lantrel.open(folder)) {
      for (String sql :
          List.of(
              "SELECT f.id FROM ferry f, river r",
              "SELECT f.id FROM ferry f JOIN river r ON r.id = f.id")) {
        Finding finding = two.study(sql).findings().get(0);
        assertThat(finding.repair()).isEmpty();
        assertThat(finding.message()).contains("f.from_id = r.id or f.to_id = r.id");
      }
    }
  }

  @DataProvider
  static Object[][] unchecked() {
    return new Object[][] {
      {
        "SELECT s.id FROM station s SEMI JOIN river r ON r.id = s.river_id",
        "the joins of the SELECT at line 1, column 1 were only checked as far as their text tells"
      },
      {"SELECT * FROM river USING SAMPLE 2", "line 1, column 21, from USING on"},
      {"SELECT 1 UNION (PIVOT river ON name)", "line 1, column 17, from PIVOT on"},
    };
  }

  @Test(dataProvider = "unchecked")
  public void saysWhatItDidNotCheck(String sql, String reason) {
    Study study = lantrel.study(sql);
    assertThat(study.findings()).isEmpty();
    assertThat(study.inspection().unchecked())
        .anySatisfy(each -> assertThat(each).contains(reason));
    assertThat(study.inspection().isComplete()).isFalse();
  }

  @DataProvider
  static Object[][] inner() {
    String readings =
        "(SELECT d.depth_cm FROM reading d JOIN station t ON t.id = d.station_id WHERE";
    return new Object[][] {
      {
        "SELECT s.name, (SELECT COUNT(*) FROM station t LEFT JOIN river r ON r.id = t.river_id WHERE"
            + " r.id = s.river_id) AS n FROM station s",
        Kind.OUTER_JOIN_CANCELLED,
        "keeps every station"
      },
      {
        "SELECT s.name FROM station s WHERE 3 < ANY " + readings + " d.station_id > s.id)",
        Kind.ROWS_WITHOUT_PARTNER,
        "loses 1 reading"
      },
      {
        "SELECT s.name, l.n FROM station s LEFT JOIN LATERAL (SELECT SUM(t.capacity) AS n FROM"
            + " station t JOIN reading d ON d.station_id = t.id WHERE t.river_id = s.river_id) l ON"
            + " true",
        Kind.REPEATED_IN_TOTAL,
        "counts a station once for every reading"
      },
      {
        "WITH RECURSIVE up AS (SELECT r.id FROM river r WHERE r.id = 1 UNION SELECT r.id FROM up"
            + " JOIN river r ON r.flows_into = up.id LEFT JOIN station s ON s.river_id = r.id WHERE"
            + " s.capacity > 0) SELECT up.id FROM up",
        Kind.OUTER_JOIN_CANCELLED,
        "without station s"
      },
      {
        "SELECT r.name FROM river r UNION SELECT s.name FROM station s JOIN river r ON r.id ="
            + " s.river_id",
        Kind.ROWS_WITHOUT_PARTNER,
        "loses 1 station"
      },
      {
        "SELECT d.depth_cm, r.name FROM reading d JOIN station s ON s.id = d.station_id JOIN river r"
            + " ON r.id = s.river_id",
        Kind.ROWS_WITHOUT_PARTNER,
        "loses 1 row: s.river_id is empty"
      },
    };
  }

  @Test(dataProvider = "inner")
  public void reachesEveryBlock(String sql, Kind kind, String words) {
    Study study = lantrel.study(sql);
    assertThat(study.inspection().unchecked()).isEmpty();
    assertThat(study.findings())
        .anySatisfy(
            finding -> {
              assertThat(finding.kind()).isEqualTo(kind);
              assertThat(finding.message()).contains(words);
            });
  }

  @Test
  public void saysThatAnEmptyTableShowsNothing() throws IOException {
    Path folder = Scratch.folder("empty");
    Files.writeString(
        folder.resolve("schema.sql"),
        "CREATE TABLE river (id INTEGER PRIMARY KEY); CREATE TABLE station (id INTEGER, r INTEGER"
            + " REFERENCES river);");
    Files.writeString(folder.resolve("river.csv"), "id\n");
    Files.writeString(folder.resolve("station.csv"), "id,r\n");
    try (Lantrel empty = Lantrel.open(folder)) {
      Study study = empty.study("SELECT s.id FROM station s JOIN river r ON r.id = s.r");
      assertThat(study.findings()).isEmpty();
      assertThat(study.inspection().isComplete()).isTrue();
      assertThat(study.inspection().remarks())
          .hasSize(2)
          .allMatch(each -> each.contains("no rows"));
      assertThat(study.ledger().result()).isZero();
    }
  }

  @DataProvider
  static Object[][] refused() {
    return new Object[][] {
      {"SELECT no_such_function(s.id) FROM station s", "no_such_function"},
      {"SELECT s.name FROM station s UNION SELECT 1, 2", "number of"},
      {"SELECT s.id FROM station s WHERE s.capacity > DATE '2026-01-01'", "Cannot compare values"},
    };
  }

  @Test(dataProvider = "refused")
  public void tellsWhatOnlyTheDatabaseRefuses(String sql, String reason) {
    Study study = lantrel.study(sql);
    assertThat(study.findings()).isEmpty();
    assertThat(study.inspection().refusal().orElseThrow())
        .contains(reason)
        .doesNotContain("lantrel_");
    // And goes on as if nothing had happened.
    assertThat(lantrel.study("SELECT id FROM river").result().size()).isEqualTo(12);
  }
}
