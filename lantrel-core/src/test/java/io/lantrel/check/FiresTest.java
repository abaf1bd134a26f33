package io.lantrel.check;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.testng.annotations.AfterClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/**
 * Brigades and who serves in them, their vehicles sent out to incidents, duties day by day, bills
 * and what was paid: totals that rows share, keys walked by numbers, conditions that tell nothing.
 */
public class FiresTest {

  static final List<String> WORLD =
      List.of(
          "CREATE TABLE brigade (id INTEGER PRIMARY KEY, name VARCHAR(20) NOT NULL, district"
              + " VARCHAR(20) NOT NULL);",
          "CREATE TABLE firefighter (id INTEGER PRIMARY KEY, name VARCHAR(20) NOT NULL, brigade_id"
              + " INTEGER NOT NULL REFERENCES brigade (id), mentor_id INTEGER REFERENCES firefighter"
              + " (id));",
          "CREATE TABLE skill_held (firefighter_id INTEGER NOT NULL REFERENCES firefighter (id), skill"
              + " VARCHAR(5) NOT NULL, acquired DATE NOT NULL, expires DATE, PRIMARY KEY"
              + " (firefighter_id, skill));",
          "CREATE TABLE vehicle (plate VARCHAR(8) PRIMARY KEY, brigade_id INTEGER NOT NULL REFERENCES"
              + " brigade (id), seats INTEGER NOT NULL, name VARCHAR(8));",
          "CREATE TABLE incident (id INTEGER PRIMARY KEY, kind VARCHAR(8) NOT NULL, district"
              + " VARCHAR(20) NOT NULL, severity INTEGER, called_at TIMESTAMP NOT NULL);",
          "CREATE TABLE deployment (incident_id INTEGER NOT NULL REFERENCES incident (id), seq INTEGER"
              + " NOT NULL, plate VARCHAR(8) NOT NULL REFERENCES vehicle (plate), km INTEGER, PRIMARY"
              + " KEY (incident_id, seq));",
          "CREATE TABLE crew (incident_id INTEGER NOT NULL, seq INTEGER NOT NULL, firefighter_id"
              + " INTEGER NOT NULL REFERENCES firefighter (id), PRIMARY KEY (incident_id, seq,"
              + " firefighter_id), FOREIGN KEY (incident_id, seq) REFERENCES deployment (incident_id,"
              + " seq));",
          "CREATE TABLE duty (brigade_id INTEGER NOT NULL REFERENCES brigade (id), on_day INTEGER NOT"
              + " NULL, shift VARCHAR(5) NOT NULL, leader_id INTEGER NOT NULL REFERENCES firefighter"
              + " (id), PRIMARY KEY (brigade_id, on_day, shift));",
          "CREATE TABLE fee (kind VARCHAR(8) NOT NULL, from_day INTEGER NOT NULL, amount INTEGER NOT"
              + " NULL, PRIMARY KEY (kind, from_day));",
          "CREATE TABLE bill (id INTEGER PRIMARY KEY, incident_id INTEGER NOT NULL REFERENCES incident"
              + " (id), on_day INTEGER NOT NULL, amount INTEGER NOT NULL);",
          "CREATE TABLE payment (id INTEGER PRIMARY KEY, bill_id INTEGER REFERENCES bill (id), amount"
              + " INTEGER NOT NULL);",
          "CREATE TABLE inspection (id INTEGER PRIMARY KEY, plate VARCHAR(8) NOT NULL REFERENCES"
              + " vehicle (plate), on_day INTEGER NOT NULL, cost INTEGER);",
          "CREATE TABLE hydrant (id INTEGER PRIMARY KEY, district VARCHAR(20) NOT NULL, street"
              + " VARCHAR(20) NOT NULL);",
          "CREATE TABLE log_line (id INTEGER PRIMARY KEY, incident_id INTEGER NOT NULL REFERENCES"
              + " incident (id), line_no INTEGER NOT NULL, said VARCHAR(20) NOT NULL, UNIQUE"
              + " (incident_id, line_no));",
          "CREATE TABLE band (id INTEGER PRIMARY KEY, kind VARCHAR(8) NOT NULL, low INTEGER NOT NULL,"
              + " high INTEGER NOT NULL, written_on DATE NOT NULL);",
          "INSERT INTO brigade VALUES (1, 'Quay', 'Harbour'), (2, 'Mills', 'Mills'), (3, 'Heath',"
              + " 'Fells');",
          "INSERT INTO firefighter VALUES (1, 'Tarn', 1, NULL), (2, 'Rook', 1, 1), (3, 'Fell', 2, 2),"
              + " (4, 'Sand', 2, 1), (5, 'Pike', 3, NULL);",
          "INSERT INTO skill_held VALUES (1, 'BA', '2019-02-01', NULL), (1, 'MED', '2018-05-01',"
              + " '2023-05-01'), (2, 'BA', '2021-03-01', '2099-03-01'), (4, 'DIV', '2020-06-01',"
              + " NULL);",
          "INSERT INTO vehicle VALUES ('FB-1', 1, 9, 'Otter'), ('FB-2', 1, 3, 'Heron'), ('FB-3', 2, 6,"
              + " 'Otter');",
          "INSERT INTO incident VALUES (1, 'fire', 'Harbour', 5, '2024-01-03 10:00:00'), (2, 'flood',"
              + " 'Mills', 2, '2024-01-04 11:30:00'), (3, 'fire', 'Mills', NULL, '2024-02-01"
              + " 09:15:00'), (4, 'fire', 'Fells', 3, '2024-02-07 23:40:00'), (5, 'crash', 'Harbour',"
              + " 4, '2024-03-01 08:05:00');",
          "INSERT INTO deployment VALUES (1, 1, 'FB-1', 12), (1, 2, 'FB-2', 30), (1, 3, 'FB-1', 4),"
              + " (2, 1, 'FB-3', 8), (3, 1, 'FB-1', NULL), (4, 1, 'FB-2', 22);",
          "INSERT INTO crew VALUES (1, 1, 1), (1, 1, 2), (1, 3, 2), (1, 2, 3), (2, 1, 3), (2, 1, 4), (3, 1, 1);",
          "INSERT INTO duty VALUES (1, 1, 'day', 1), (1, 1, 'night', 2), (1, 2, 'day', 2), (1, 2,"
              + " 'night', 1), (2, 1, 'day', 3), (2, 2, 'day', 4), (2, 2, 'night', 3);",
          "INSERT INTO fee VALUES ('fire', 1, 200), ('fire', 20, 240), ('flood', 1, 150);",
          "INSERT INTO bill VALUES (1, 1, 10, 500), (2, 1, 25, 120), (3, 2, 12, 90), (4, 3, 30, 60),"
              + " (5, 5, 31, 75);",
          "INSERT INTO payment VALUES (1, 1, 300), (2, 1, 100), (3, 2, 120), (4, 3, 40), (5, NULL,"
              + " 9);",
          "INSERT INTO inspection VALUES (1, 'FB-1', 3, 40), (2, 'FB-2', 4, 55), (3, 'FB-1', 9, NULL),"
              + " (4, 'FB-3', 9, 70), (5, 'FB-1', 15, 35);",
          "INSERT INTO hydrant VALUES (1, 'Harbour', 'Elm'), (2, 'Mills', 'Oak'), (3, 'Fells', 'Ash'),"
              + " (4, 'Harbour', 'Fir');",
          "INSERT INTO log_line VALUES (11, 1, 1, 'called'), (12, 1, 2, 'sent'), (13, 2, 1, 'called'),"
              + " (14, 2, 2, 'back'), (15, 2, 3, 'closed');",
          "INSERT INTO band VALUES (1, 'fire', 1, 3, '2020-01-01'), (2, 'fire', 3, 5, '2020-01-01'),"
              + " (3, 'flood', 1, 5, '2021-01-01');");

  private static final String PAID_OF_INCIDENT =
      "(SELECT x.incident_id, SUM(y.amount) AS paid FROM bill x JOIN payment y ON y.bill_id = x.id"
          + " GROUP BY x.incident_id)";
  private static final String PAID_OF_BILL =
      "(SELECT y.bill_id, SUM(y.amount) AS paid FROM payment y GROUP BY y.bill_id)";

  private final WorldOnEngines world = new WorldOnEngines("fires", WORLD);

  @AfterClass
  void close() {
    world.close();
  }

  /** A query, and the kinds of its warnings. */
  @DataProvider
  static Object[][] totals() {
    String open = "SELECT b.id, %s AS open FROM bill b LEFT JOIN %s p ON p.%s = b.%s";
    String sent = "SELECT d.plate, COUNT(%s) AS %s FROM deployment d GROUP BY d.plate";
    String worst =
        "SELECT i.kind, MAX(i.severity) AS worst, MAX(i.id) AS %s FROM incident i GROUP BY"
            + " i.kind";
    String unpaid =
        "SELECT b.id FROM bill b LEFT JOIN payment p ON p.bill_id = b.id GROUP BY b.id, b.amount"
            + " HAVING %s";
    String ofIncident = "incident_id";
    String last =
        "SELECT d.incident_id, MAX(d.seq) AS last_seq, MAX(d.km) AS %s FROM deployment d GROUP BY"
            + " d.incident_id";
    String shared = "SELECT v.name, COUNT(*) AS n FROM vehicle v GROUP BY v.name HAVING %s";
    return new Object[][] {
      // The total of an incident, taken off each of its bills.
      {
        open.formatted("b.amount - p.paid", PAID_OF_INCIDENT, ofIncident, ofIncident),
        "null-swallows repeated-in-total"
      },
      {
        open.formatted("b.amount - COALESCE(p.paid, 0)", PAID_OF_INCIDENT, ofIncident, ofIncident),
        "repeated-in-total"
      },
      {
        open.formatted("(p.paid + b.amount) * 2", PAID_OF_INCIDENT, ofIncident, ofIncident),
        "null-swallows repeated-in-total"
      },
      {
        "WITH p AS "
            + PAID_OF_INCIDENT
            + " SELECT b.id FROM bill b JOIN p ON p.incident_id = b.incident_id WHERE b.amount - p.paid >"
            + " 0",
        "repeated-in-total"
      },
      {open.formatted("b.amount - COALESCE(p.paid, 0)", PAID_OF_BILL, "bill_id", "id"), ""},
      {open.formatted("b.amount * 100 / p.paid", PAID_OF_INCIDENT, ofIncident, ofIncident), ""},
      {
        open.formatted(
            "b.amount - p.mean",
            "(SELECT x.incident_id, AVG(x.amount) AS mean FROM bill x GROUP BY x.incident_id)",
            ofIncident,
            ofIncident),
        ""
      },
      // A heading that names what the rows refer to.
      {sent.formatted("*", "incidents"), "repeated-in-total"},
      {sent.formatted("*", "number_of_incidents"), "repeated-in-total"},
      {
        "SELECT c.firefighter_id, COUNT(*) AS incidents FROM crew c GROUP BY c.firefighter_id",
        "repeated-in-total"
      },
      {sent.formatted("*", "deployments"), ""},
      {sent.formatted("*", "trips"), ""},
      {sent.formatted("DISTINCT d.incident_id", "incidents"), ""},
      {"SELECT b.on_day, COUNT(*) AS incidents FROM bill b GROUP BY b.on_day", ""},
      // The greatest key, called by the table, beside another greatest value.
      {worst.formatted("incident"), "values-of-several-rows"},
      {worst.formatted("incidents"), "values-of-several-rows"},
      {worst.formatted("newest_number"), ""},
      // What is called a kind is no name, however few share it.
      {
        "SELECT i.kind, i.district, COUNT(*) AS incidents FROM incident i GROUP BY i.kind, i.district",
        ""
      },
      // The number that tells the rows of a group apart, and another value under the same word.
      {last.formatted("last_km"), "values-of-several-rows"},
      {last.formatted("longest_way"), ""},
      // Names that several rows share, where just these are looked for.
      {shared.formatted("COUNT(*) > 1"), ""},
      {shared.formatted("COUNT(DISTINCT v.brigade_id) >= 2"), ""},
      {shared.formatted("COUNT(*) > 2"), "grouped-by-name"},
      {shared.formatted("SUM(v.seats) > 1"), "grouped-by-name"},
      // SUM of no row compared with a value of the group.
      {unpaid.formatted("SUM(p.amount) < b.amount"), "outer-join-cancelled"},
      {unpaid.formatted("b.amount > SUM(p.amount)"), "outer-join-cancelled"},
      {unpaid.formatted("SUM(p.amount) >= b.amount"), ""},
      {unpaid.formatted("COALESCE(SUM(p.amount), 0) < b.amount"), ""},
    };
  }

  @Test(dataProvider = "totals")
  public void aTotalIsOfItsOwnRows(String sql, String kinds) {
    world.hasWarnings(sql, kinds);
  }

  @DataProvider
  static Object[][] joins() {
    String next = "SELECT a.on_day, %s FROM duty a JOIN duty b ON %s";
    String following = "a.brigade_id = b.brigade_id AND b.on_day = a.on_day + 1";
    String later =
        "SELECT a.id, b.on_day AS next_day FROM inspection a LEFT JOIN inspection b ON %s";
    String again = "SELECT a.incident_id, a.plate FROM deployment a JOIN deployment b ON %s";
    String near = "SELECT h.id, b.name FROM hydrant h LEFT JOIN brigade b ON %s";
    String banded =
        "SELECT i.id, r.id FROM incident i JOIN band r ON i.severity BETWEEN r.low AND" + " r.high";
    return new Object[][] {
      // The next by a number of the key, and the rest of the key left open.
      {next.formatted("b.leader_id", following), "partial-key"},
      {next.formatted("a.shift, b.leader_id", following), "partial-key"},
      {next.formatted("a.shift, b.shift, b.leader_id", following), ""},
      {next.formatted("b.leader_id", following + " AND b.shift = a.shift"), ""},
      {next.formatted("b.leader_id", following + " AND b.shift = 'day' AND a.shift = 'day'"), ""},
      // The next by a key that does not count within the group.
      {later.formatted("b.plate = a.plate AND b.id = a.id + 1"), "not-a-reference"},
      {later.formatted("b.plate = a.plate AND a.id = b.id - 1"), "not-a-reference"},
      {later.formatted("b.plate = a.plate AND b.on_day = a.on_day + 6"), ""},
      // A row that meets itself, where the other is not even shown.
      {again.formatted("b.incident_id = a.incident_id AND b.plate = a.plate"), "self-match"},
      {
        again.formatted("b.incident_id = a.incident_id AND b.plate = a.plate AND b.seq > a.seq"), ""
      },
      {
        again.formatted("b.incident_id = a.incident_id AND b.plate = a.plate") + " WHERE b.km > 10",
        ""
      },
      // A column beside that has the name of the one across.
      {near.formatted("b.name = h.district"), "not-a-reference"},
      {near.formatted("h.district = b.name"), "not-a-reference"},
      {near.formatted("b.district = h.district"), ""},
      {near.formatted("b.name = h.street"), "never-a-partner"},
      // One time of a row may say when it was written.
      {banded, ""},
    };
  }

  @Test(dataProvider = "joins")
  public void aRowMeetsItsOwn(String sql, String kinds) {
    world.hasWarnings(sql, kinds);
  }

  @DataProvider
  static Object[][] walks() {
    String all =
        "WITH RECURSIVE t (id, level) AS (SELECT id, 1 FROM firefighter%s UNION ALL SELECT f.id,"
            + " t.level + 1 FROM t JOIN firefighter f ON f.mentor_id = t.id) ";
    String met =
        "WITH RECURSIVE met (id) AS (SELECT 1 UNION%s SELECT o.firefighter_id FROM met JOIN crew c ON"
            + " c.firefighter_id = met.id JOIN crew o ON o.incident_id = c.incident_id%s) SELECT"
            + " COUNT(*) FROM met";
    String lines = "SELECT id, level FROM t";
    return new Object[][] {
      {all.formatted("") + lines, "rows-repeated"},
      {all.formatted("") + "SELECT level, COUNT(*) FROM t GROUP BY level", "rows-repeated"},
      {all.formatted(" WHERE mentor_id IS NULL") + lines, ""},
      {all.formatted("") + "SELECT id, MAX(level) AS depth FROM t GROUP BY id", ""},
      {all.formatted("") + lines + " WHERE level = 2", ""},
      {
        "WITH RECURSIVE t (top, id) AS (SELECT id, id FROM firefighter UNION ALL SELECT t.top, f.id"
            + " FROM t JOIN firefighter f ON f.mentor_id = t.id) SELECT top, id FROM t",
        ""
      },
      {
        "SELECT f.name, m.name AS mentored FROM firefighter f LEFT JOIN firefighter m ON m.mentor_id ="
            + " f.id",
        ""
      },
      {met.formatted(" ALL", ""), "endless-recursion"},
      {met.formatted(" ALL", " AND o.firefighter_id <> c.firefighter_id"), "endless-recursion"},
      {met.formatted(" ALL", " AND o.firefighter_id > c.firefighter_id"), ""},
      // One of the pair only, so that it may lead on and not back.
      {met.formatted(" ALL", " AND c.seq = 1 AND o.seq = 2"), ""},
      {met.formatted(" ALL", " WHERE c.seq = 1 AND o.seq = 2"), ""},
      {met.formatted(" ALL", " AND o.seq = c.seq"), "endless-recursion"},
    };
  }

  @Test(dataProvider = "walks")
  public void aWalkComesToARowOnce(String sql, String kinds) {
    world.hasWarnings(sql, kinds);
  }

  @DataProvider
  static Object[][] conditions() {
    String valid =
        "SELECT f.name, s.skill FROM firefighter f JOIN skill_held s ON s.firefighter_id = f.id WHERE"
            + " %s";
    String without =
        "SELECT f.name FROM firefighter f LEFT JOIN skill_held s ON s.firefighter_id = f.id AND %s"
            + " WHERE s.skill IS NULL";
    String levels =
        "SELECT i.id, CASE WHEN %s THEN 'a' WHEN %s THEN 'b' ELSE 'c' END FROM incident i";
    String last =
        "SELECT v.plate, (SELECT MAX(i.on_day) FROM inspection i%s) AS last_day FROM vehicle v";
    return new Object[][] {
      // What has no end yet is valid too.
      {valid.formatted("s.expires >= '2024-01-01'"), "null-comparison"},
      {valid.formatted("CURRENT_DATE < s.expires"), "null-comparison"},
      {valid.formatted("s.expires IS NULL OR s.expires >= '2024-01-01'"), ""},
      {valid.formatted("s.expires < '2024-01-01'"), ""},
      {valid.formatted("s.acquired >= '2020-01-01'"), ""},
      {without.formatted("s.expires >= '2024-01-01'"), "null-comparison"},
      {without.formatted("(s.expires IS NULL OR s.expires >= '2024-01-01')"), ""},
      // The first branch that is true decides.
      {levels.formatted("i.severity >= 1", "i.severity >= 4"), "never-true"},
      {levels.formatted("i.severity >= 1", "4 <= i.severity"), "never-true"},
      {levels.formatted("i.severity > 2", "i.severity = 5"), "never-true"},
      {levels.formatted("i.severity > 2", "i.severity >= 2.5"), "never-true"},
      {levels.formatted("i.severity >= 2", "i.severity > 2"), "never-true"},
      {levels.formatted("i.severity < 9", "i.severity <= 3"), "never-true"},
      {levels.formatted("i.severity <= 3", "i.severity < 3"), "never-true"},
      {levels.formatted("i.severity = 2", "i.severity = 2"), "never-true"},
      {levels.formatted("i.severity > 2", "i.severity >= 2"), ""},
      {levels.formatted("i.severity >= 4", "i.severity >= 1"), ""},
      {levels.formatted("i.severity < 3", "i.severity <= 3"), ""},
      {levels.formatted("i.severity = 2", "i.severity = 3"), ""},
      {levels.formatted("i.severity >= 1", "i.id >= 4"), ""},
      {levels.formatted("i.severity <> 1", "i.severity = 4"), ""},
      // A name of FROM hides the same name outside.
      {last.formatted(" JOIN vehicle v ON v.plate = i.plate"), "uncorrelated-exists"},
      {last.formatted(" WHERE i.plate = v.plate"), ""},
      {"SELECT v.plate, (SELECT MAX(v.seats) FROM vehicle v) AS most FROM vehicle v", ""},
      // A text in ORDER BY is no column.
      {"SELECT v.plate, v.seats FROM vehicle v ORDER BY 'seats'", "unstable-order"},
      {"SELECT v.plate, v.seats FROM vehicle v ORDER BY seats", ""},
    };
  }

  @Test(dataProvider = "conditions")
  public void aConditionTellsRowsApart(String sql, String kinds) {
    world.hasWarnings(sql, kinds);
  }

  /** A query, the kind of its note, and a part of what that says. */
  @DataProvider
  static Object[][] notes() {
    return new Object[][] {
      {
        "SELECT d.plate FROM deployment d WHERE NOT EXISTS (SELECT 1 FROM crew c WHERE c.incident_id ="
            + " d.incident_id)",
        "partial-key",
        "Add c.seq = d.seq."
      },
      {
        "SELECT f.kind, SUM(DISTINCT f.amount) AS all_fees FROM fee f GROUP BY f.kind",
        "distinct-hides-repeats",
        "of two that are equal, one is left out"
      },
      {
        "SELECT i.called_at, COUNT(*) AS n FROM incident i GROUP BY i.called_at",
        "groups-of-one",
        "no two incidents share i.called_at"
      },
      {
        "SELECT i.id, f.amount FROM incident i JOIN bill b ON b.incident_id = i.id JOIN fee f ON"
            + " f.kind = i.kind AND f.from_day <= b.on_day",
        "rows-without-partner",
        "no f.kind equals i.kind"
      },
      {
        "SELECT b.id FROM bill b JOIN payment p ON p.bill_id = b.id GROUP BY b.id, b.amount HAVING"
            + " SUM(p.amount) < b.amount",
        "rows-without-partner",
        "loses 2 bills"
      },
    };
  }

  @Test(dataProvider = "notes")
  public void aNoteIsWorthReading(String sql, String kind, String said) {
    world.forEach(
        (engine, lantrel) ->
            assertThat(lantrel.study(sql).findings())
                .as(engine + ": " + sql)
                .anyMatch(
                    each ->
                        each.severity() == Severity.NOTE
                            && each.kind().id().equals(kind)
                            && each.message().contains(said)));
    Repaired.keepsItsWord(sql, world.duckdb());
  }

  /** H2 has no FULL JOIN. */
  @Test
  public void fullJoinKeepsBothSides() {
    String sql =
        "SELECT i.id, b.id AS bill FROM incident i FULL JOIN bill b ON b.incident_id = i.id";
    assertThat(world.duckdb().study(sql).findings()).isEmpty();
    for (String condition : List.of("i.kind = 'fire'", "b.amount > 100")) {
      assertThat(world.duckdb().study(sql + " AND " + condition).findings())
          .as(condition)
          .singleElement()
          .satisfies(
              each -> {
                assertThat(each.kind()).isEqualTo(Kind.FILTER_ON_KEPT_SIDE);
                assertThat(each.message()).contains("the FULL JOIN keeps all of them", "before");
                assertThat(each.repair()).isEmpty();
              });
    }
  }

  /** The key that a number counts in is named, not the first that the table has. */
  @Test
  public void theKeyIsNamedThatCounts() {
    for (String sql :
        List.of(
            "SELECT a.said FROM log_line a JOIN log_line b ON b.line_no = a.line_no + 1",
            "SELECT a.said FROM log_line a WHERE a.line_no = (SELECT MAX(x.line_no) FROM log_line"
                + " x)")) {
      assertThat(world.duckdb().study(sql).findings())
          .as(sql)
          .anyMatch(
              each ->
                  each.severity() == Severity.WARNING
                      && each.evidence()
                          .facts()
                          .contains("a log_line is told apart by incident_id and line_no"));
    }
  }
}
