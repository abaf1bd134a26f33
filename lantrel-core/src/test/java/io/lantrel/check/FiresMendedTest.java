package io.lantrel.check;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.sql.Dialect;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.testng.annotations.AfterClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/**
 * The faults of the fires: what mends them, what is said of them, where else they are found, and
 * what is left of them without rows.
 */
public class FiresMendedTest {

  private final WorldOnEngines world = new WorldOnEngines("fires_mended", FiresTest.WORLD);

  @AfterClass
  void close() {
    world.close();
  }

  /** A query with the faulty part in «», what that becomes, and the kind. */
  @DataProvider
  static Object[][] mended() {
    return new Object[][] {
      {
        "SELECT a.on_day, b.leader_id FROM duty a JOIN duty b ON b.brigade_id = a.brigade_id AND"
            + " «b.on_day = a.on_day + 1»",
        "b.on_day = a.on_day + 1 AND b.shift = a.shift",
        "partial-key"
      },
      {
        "SELECT d.plate, «COUNT(*)» AS incidents FROM deployment d GROUP BY d.plate",
        "COUNT(DISTINCT d.incident_id)",
        "repeated-in-total"
      },
      {
        "select c.firefighter_id, «count(*)» incidents from crew c group by c.firefighter_id",
        "count(distinct c.incident_id)",
        "repeated-in-total"
      },
      {
        "SELECT i.id, CASE «WHEN i.severity >= 1 THEN 'low' WHEN i.severity >= 4 THEN 'high'» END AS"
            + " level FROM incident i",
        "WHEN i.severity >= 4 THEN 'high' WHEN i.severity >= 1 THEN 'low'",
        "never-true"
      },
      {
        "WITH RECURSIVE t (id, level) AS (SELECT f.id, 1 FROM firefighter f«» UNION ALL SELECT g.id,"
            + " t.level + 1 FROM t JOIN firefighter g ON g.mentor_id = t.id) SELECT id, level FROM t",
        " WHERE f.mentor_id IS NULL",
        "rows-repeated"
      },
      {
        "SELECT s.skill FROM skill_held s WHERE «s.expires >= '2024-01-01'»",
        "(s.expires IS NULL OR s.expires >= '2024-01-01')",
        "null-comparison"
      },
      {
        "SELECT s.skill FROM skill_held s WHERE s.skill <> 'X' AND «CURRENT_DATE < s.expires»",
        "(s.expires IS NULL OR CURRENT_DATE < s.expires)",
        "null-comparison"
      },
      {
        "SELECT b.id FROM bill b LEFT JOIN payment p ON p.bill_id = b.id GROUP BY b.id, b.amount"
            + " HAVING b.amount > «SUM(p.amount)»",
        "COALESCE(SUM(p.amount), 0)",
        "outer-join-cancelled"
      },
      {
        "SELECT h.id, b.name FROM brigade b RIGHT JOIN hydrant h ON «b.name = h.district»",
        "b.district = h.district",
        "not-a-reference"
      },
      {
        "SELECT a.plate FROM deployment a JOIN deployment b ON «b.incident_id = a.incident_id» AND"
            + " b.plate = a.plate",
        "b.incident_id = a.incident_id AND a.seq <> b.seq",
        "self-match"
      },
    };
  }

  @Test(dataProvider = "mended")
  public void theRepairChangesThatPartAlone(String marked, String instead, String kind) {
    Repaired.changesAPartAlone(marked, instead, kind, world.duckdb());
  }

  /** A query, the kind, and what its message says of the rows. */
  @DataProvider
  static Object[][] messages() {
    String paid =
        "(SELECT x.incident_id, SUM(y.amount) AS paid FROM bill x JOIN payment y ON y.bill_id = x.id"
            + " GROUP BY x.incident_id)";
    return new Object[][] {
      {
        "SELECT b.id, b.amount - p.paid AS open FROM bill b JOIN "
            + paid
            + " p ON p.incident_id = b.incident_id",
        "repeated-in-total",
        "p.paid is the total of all rows of one incident_id, and 1 of these has several bills"
      },
      {
        "SELECT d.plate, COUNT(*) AS incidents FROM deployment d GROUP BY d.plate",
        "repeated-in-total",
        "counts each deployment, not each incident: 6 deployments of 5 incidents"
      },
      {
        "WITH RECURSIVE t (id) AS (SELECT id FROM firefighter UNION ALL SELECT f.id FROM t JOIN"
            + " firefighter f ON f.mentor_id = t.id) SELECT id FROM t",
        "rows-repeated",
        "comes to it again from each that lies above: 5 firefighters come 9 times"
      },
      {
        "WITH RECURSIVE t (id, up) AS (SELECT id, mentor_id FROM firefighter UNION ALL SELECT f.id,"
            + " f.mentor_id FROM t JOIN firefighter f ON f.id = t.up) SELECT id FROM t",
        "rows-repeated",
        "comes to it again from each that lies below"
      },
      {
        "SELECT a.id FROM inspection a LEFT JOIN inspection b ON b.plate = a.plate AND b.id = a.id +"
            + " 1",
        "not-a-reference",
        "the next inspection of the same plate has a further number in 2 cases"
      },
      {
        "SELECT h.id, b.name FROM hydrant h LEFT JOIN brigade b ON b.name = h.district",
        "not-a-reference",
        "1 hydrant finds a partner so, 4 by that. Write b.district = h.district."
      },
      {
        "SELECT s.skill FROM skill_held s WHERE s.expires > '2000-01-01'",
        "null-comparison",
        "2 rows are dropped for that alone"
      },
      {
        "SELECT a.on_day, b.leader_id FROM duty a JOIN duty b ON b.brigade_id = a.brigade_id AND"
            + " b.on_day = a.on_day + 1",
        "partial-key",
        "By b.on_day = a.on_day + 1 a duty also meets those of another shift"
      },
      {
        "SELECT v.plate, (SELECT MAX(i.on_day) FROM inspection i JOIN vehicle v ON v.plate = i.plate)"
            + " AS last_day FROM vehicle v",
        "uncorrelated-exists",
        "In this subquery v is a vehicle of its own"
      },
      {
        "SELECT a.plate FROM deployment a JOIN deployment b ON b.plate = a.plate",
        "self-match",
        "leave out pairs of one row"
      },
    };
  }

  @Test(dataProvider = "messages")
  public void theMessageSaysWhatHappensToTheRows(String sql, String kind, String words) {
    assertThat(Repaired.warning(sql, kind, world.duckdb()).message()).contains(words);
  }

  /** A fault that is found as it stands, and in each of the places below. */
  @DataProvider
  static Object[][] placed() {
    List<List<String>> faults =
        List.of(
            List.of(
                "never-true",
                "SELECT CASE WHEN i.severity > 1 THEN 1 WHEN i.severity > 3 THEN 2 END AS step FROM"
                    + " incident i"),
            List.of(
                "self-match",
                "SELECT a.seq FROM deployment a JOIN deployment b ON b.incident_id = a.incident_id AND"
                    + " b.plate = a.plate"),
            List.of(
                "null-comparison",
                "SELECT s.firefighter_id FROM skill_held s WHERE s.expires >= '2024-01-01'"),
            List.of(
                "not-a-reference",
                "SELECT b.id FROM brigade b JOIN hydrant h ON b.name = h.district"),
            List.of(
                "uncorrelated-exists",
                "SELECT (SELECT MAX(i.on_day) FROM inspection i JOIN vehicle v ON v.plate = i.plate)"
                    + " FROM vehicle v"));
    return Within.others(faults, "brigade", "id", "name", "district");
  }

  @Test(dataProvider = "placed")
  public void aFaultIsFoundWithinOtherQueries(String sql, String kind) {
    world.forEach(
        (engine, lantrel) ->
            assertThat(lantrel.study(sql).findings())
                .as(engine.title() + ": " + sql)
                .anyMatch(each -> Repaired.isOf(each, kind)));
  }

  /**
   * A query that DuckDB refuses, or that no rows are there for, and the kind that its text shows.
   */
  @DataProvider
  static Object[][] ofTheText() {
    return new Object[][] {
      {"SELECT v.plate, v.seats FROM vehicle v ORDER BY 'seats' LIMIT 2", "unstable-order"},
      {"SELECT v.plate, v.seats AS places FROM vehicle v ORDER BY 'places'", "unstable-order"},
      {
        "SELECT i.id, CASE WHEN i.severity < 4 THEN 1 WHEN i.severity = 2 THEN 2 END AS step FROM"
            + " incident i",
        "never-true"
      },
      {"SELECT a.plate FROM deployment a JOIN deployment b ON b.plate = a.plate", "self-match"},
      {
        "WITH RECURSIVE met (id) AS (SELECT 1 UNION ALL SELECT o.firefighter_id FROM met JOIN crew c"
            + " ON c.firefighter_id = met.id JOIN crew o ON o.seq = c.seq) SELECT id FROM met",
        "endless-recursion"
      },
    };
  }

  @Test(dataProvider = "ofTheText")
  public void whatTheTextShowsNeedsNoRows(String sql, String kind) throws IOException {
    Path schema = Files.createTempFile("fires", ".sql");
    try {
      Files.writeString(
          schema,
          String.join(
              "\n", FiresTest.WORLD.stream().filter(each -> each.startsWith("CREATE")).toList()));
      try (Lantrel tables = Lantrel.openSchema(schema, Dialect.DUCKDB)) {
        for (Lantrel each : List.of(tables, world.duckdb())) {
          assertThat(each.study(sql).findings())
              .as(sql)
              .anyMatch(finding -> finding.kind().id().equals(kind));
        }
      }
    } finally {
      Files.delete(schema);
    }
  }

  /** A text in ORDER BY that is no name gets no repair, and a name in double quotes is one. */
  @Test
  public void onlyATextIsNoName() {
    Lantrel duckdb = world.duckdb();
    Finding unknown =
        Repaired.warning(
            "SELECT v.plate FROM vehicle v ORDER BY 'weight'", "unstable-order", duckdb);
    assertThat(unknown.repair()).isEmpty();
    assertThat(unknown.message()).contains("Name the column that is meant");
    assertThat(duckdb.study("SELECT v.plate FROM vehicle v ORDER BY \"seats\"").findings())
        .isEmpty();
    assertThat(
            Repaired.warning(
                    "SELECT v.plate FROM vehicle v ORDER BY 'SEATS'", "unstable-order", duckdb)
                .message())
        .contains("Write seats, without quotes");
  }
}
