package io.lantrel.check;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Study;
import java.util.List;
import org.testng.annotations.AfterClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** A world of ferries that no example uses: ports, lines, fares, sailings, tickets and delays. */
public class FerriesTest {

  private static final List<String> WORLD =
      List.of(
          "CREATE TABLE port (id INTEGER PRIMARY KEY, name VARCHAR(30) NOT NULL, region"
              + " VARCHAR(20));",
          "CREATE TABLE line (id INTEGER PRIMARY KEY, from_port_id INTEGER NOT NULL REFERENCES port"
              + " (id), to_port_id INTEGER NOT NULL REFERENCES port (id), miles INTEGER NOT NULL,"
              + " opened DATE NOT NULL);",
          "CREATE TABLE trip (id INTEGER PRIMARY KEY, from_port_id INTEGER NOT NULL REFERENCES port"
              + " (id), to_port_id INTEGER NOT NULL REFERENCES port (id));",
          "CREATE TABLE sailing (id INTEGER PRIMARY KEY, line_id INTEGER NOT NULL REFERENCES line"
              + " (id), sails_on DATE NOT NULL);",
          "CREATE TABLE traveller (id INTEGER PRIMARY KEY, name VARCHAR(30) NOT NULL);",
          "CREATE TABLE ticket (id INTEGER PRIMARY KEY, sailing_id INTEGER NOT NULL REFERENCES"
              + " sailing (id), traveller_id INTEGER NOT NULL REFERENCES traveller (id), price"
              + " INTEGER NOT NULL);",
          "CREATE TABLE extra (id INTEGER PRIMARY KEY, ticket_id INTEGER NOT NULL REFERENCES ticket"
              + " (id), kind VARCHAR(10) NOT NULL, fee INTEGER NOT NULL);",
          "CREATE TABLE delay (sailing_id INTEGER NOT NULL REFERENCES sailing (id), no INTEGER NOT"
              + " NULL, minutes INTEGER NOT NULL, PRIMARY KEY (sailing_id, no));",
          "CREATE TABLE tariff (line_id INTEGER NOT NULL REFERENCES line (id), valid_from DATE NOT"
              + " NULL, valid_to DATE, fare INTEGER NOT NULL, PRIMARY KEY (line_id, valid_from));",
          "INSERT INTO port VALUES (1, 'Norhaven', 'North'), (2, 'Sudbay', 'South'), (3, 'Elmpoint',"
              + " 'North'), (4, 'Ostcape', NULL);",
          "INSERT INTO line VALUES (1, 1, 2, 40, '2020-01-01'), (2, 2, 1, 40, '2020-01-01'), (3, 1,"
              + " 3, 15, '2021-05-01');",
          "INSERT INTO trip VALUES (1, 1, 2), (2, 3, 3), (3, 2, 1);",
          "INSERT INTO sailing VALUES (1, 1, '2024-01-05'), (2, 2, '2024-01-05'), (3, 1,"
              + " '2024-02-11'), (4, 3, '2024-02-12');",
          "INSERT INTO traveller VALUES (1, 'Adair'), (2, 'Brock'), (3, 'Cole'), (4, 'Dunn');",
          "INSERT INTO ticket VALUES (1, 1, 1, 20), (2, 1, 2, 10), (3, 2, 1, 20), (4, 3, 3, 25), (5,"
              + " 4, 3, 12);",
          "INSERT INTO extra VALUES (1, 1, 'bike', 5), (2, 1, 'meal', 8), (3, 2, 'meal', 8), (4, 4,"
              + " 'bike', 5);",
          "INSERT INTO delay VALUES (1, 1, 5), (1, 2, 5), (3, 1, 30);",
          "INSERT INTO tariff VALUES (1, '2023-01-01', '2024-01-31', 20), (1, '2024-02-01', NULL,"
              + " 22), (2, '2023-01-01', NULL, 20), (3, '2024-02-01', NULL, 12);");

  private final WorldOnEngines world = new WorldOnEngines("ferries", WORLD);

  @AfterClass
  void close() {
    world.close();
  }

  private static final String LAST_OF_ALL =
      "(SELECT s.line_id, s.id, s.sails_on FROM sailing s ORDER BY s.sails_on DESC, s.id LIMIT 1) x";
  private static final String WITHOUT_MEAL =
      "SELECT t.id FROM ticket t LEFT JOIN extra e ON e.ticket_id = t.id WHERE ";
  private static final String BY_LINE =
      "(SELECT s.line_id, COUNT(DISTINCT %s) AS n FROM sailing s JOIN ticket t ON t.sailing_id ="
          + " s.id GROUP BY s.line_id%s) q";
  private static final String FARES =
      " FROM sailing s JOIN tariff f ON f.line_id = s.line_id%s GROUP BY s.id";

  /** A query, and the kinds of its warnings. */
  @DataProvider
  static Object[][] queries() {
    return new Object[][] {
      // LIMIT goes before the join.
      {
        "SELECT l.id, x.sails_on FROM line l LEFT JOIN " + LAST_OF_ALL + " ON x.line_id = l.id",
        "uncorrelated-exists"
      },
      {
        "WITH x AS (SELECT s.line_id, s.sails_on FROM sailing s ORDER BY s.sails_on DESC, s.id LIMIT"
            + " 1) SELECT l.id, x.sails_on FROM line l LEFT JOIN x ON l.id = x.line_id",
        "uncorrelated-exists"
      },
      // The last sailing of all and its line; the lines that do not have it; of several, and by
      // key.
      {"SELECT l.id, x.sails_on FROM line l JOIN " + LAST_OF_ALL + " ON x.line_id = l.id", ""},
      {
        "SELECT l.id FROM line l LEFT JOIN "
            + LAST_OF_ALL
            + " ON x.line_id = l.id WHERE x.id IS NULL",
        ""
      },
      {
        "SELECT t.id, x.sails_on FROM ticket t LEFT JOIN "
            + LAST_OF_ALL
            + " ON x.id = t.sailing_id",
        ""
      },
      {
        "SELECT l.id, COUNT(x.id) AS n FROM line l LEFT JOIN "
            + LAST_OF_ALL.replace("LIMIT 1", "LIMIT 3")
            + " ON x.line_id = l.id GROUP BY l.id",
        ""
      },
      {
        "SELECT l.id, x.n FROM line l LEFT JOIN (SELECT s.line_id, COUNT(*) AS n FROM sailing s GROUP"
            + " BY s.line_id ORDER BY n DESC, s.line_id LIMIT 1) x ON x.line_id = l.id",
        ""
      },
      // A mean of parts that is called one of wholes.
      {
        "SELECT AVG(d.minutes) AS delay_per_sailing FROM sailing s JOIN delay d ON d.sailing_id = s.id",
        "repeated-in-total"
      },
      {
        "SELECT s.line_id, AVG(d.minutes) AS minutes_per_sailing FROM sailing s JOIN delay d ON"
            + " d.sailing_id = s.id GROUP BY s.line_id",
        "repeated-in-total"
      },
      {
        "SELECT s.id, AVG(d.minutes) AS minutes_per_sailing FROM sailing s JOIN delay d ON"
            + " d.sailing_id = s.id GROUP BY s.id",
        ""
      },
      // Within each group a sailing has one.
      {"SELECT d.no, AVG(d.minutes) AS minutes_per_sailing FROM delay d GROUP BY d.no", ""},
      {"SELECT AVG(d.minutes) AS minutes_per_delay FROM delay d", ""},
      // A rate of every time there was.
      {"SELECT s.id, SUM(f.fare) AS fare" + String.format(FARES, ""), "partial-key"},
      {"SELECT s.id, AVG(f.fare) AS fare" + String.format(FARES, ""), "partial-key"},
      {
        "SELECT s.id, SUM(f.fare) AS fare FROM sailing s JOIN line l ON l.id = s.line_id JOIN tariff f"
            + " ON f.line_id = l.id GROUP BY s.id",
        "partial-key"
      },
      {
        "SELECT s.id, SUM(f.fare) AS fare"
            + String.format(
                FARES,
                " AND f.valid_from <= s.sails_on AND (f.valid_to >= s.sails_on OR f.valid_to IS NULL)"),
        ""
      },
      // A line has its own opening, and its fares are its own.
      {
        "SELECT l.id, l.opened, AVG(f.fare) AS fare FROM line l JOIN tariff f ON f.line_id = l.id"
            + " GROUP BY l.id, l.opened",
        ""
      },
      // One port cannot be both ends; of the trips one goes round.
      {
        "SELECT l.id, p.name FROM line l JOIN port p ON p.id = l.from_port_id AND p.id = l.to_port_id",
        "never-true"
      },
      {
        "SELECT l.id, p.name FROM port p JOIN line l ON l.from_port_id = p.id AND l.to_port_id = p.id",
        "never-true"
      },
      {
        "SELECT l.id, p.name FROM line l LEFT JOIN port p ON p.id = l.from_port_id AND l.to_port_id ="
            + " p.id",
        ""
      },
      {
        "SELECT t.id, p.name FROM trip t JOIN port p ON p.id = t.from_port_id AND p.id = t.to_port_id",
        "rows-without-partner"
      },
      {
        "SELECT l.id, a.name AS from_port, b.name AS to_port FROM line l JOIN port a ON a.id ="
            + " l.from_port_id JOIN port b ON b.id = l.to_port_id",
        ""
      },
      // What is in several groups is counted in each.
      {
        "SELECT SUM(q.n) AS travellers FROM " + String.format(BY_LINE, "t.traveller_id", ""),
        "repeated-in-total"
      },
      {"SELECT SUM(q.n) AS tickets FROM " + String.format(BY_LINE, "t.id", ""), ""},
      {"SELECT SUM(q.n) AS n FROM " + String.format(BY_LINE, "t.traveller_id", ""), ""},
      {"SELECT MAX(q.n) AS travellers FROM " + String.format(BY_LINE, "t.traveller_id", ""), ""},
      {
        "SELECT SUM(q.n) AS travellers FROM "
            + String.format(BY_LINE, "t.traveller_id", " HAVING COUNT(*) > 1"),
        ""
      },
      // Two rows with the same value are two.
      {
        "SELECT s.id, COUNT(DISTINCT d.minutes) AS delays FROM sailing s LEFT JOIN delay d ON"
            + " d.sailing_id = s.id GROUP BY s.id",
        "uncounted-rows"
      },
      {
        "SELECT s.id, COUNT(DISTINCT d.no) AS delays FROM sailing s LEFT JOIN delay d ON d.sailing_id"
            + " = s.id GROUP BY s.id",
        ""
      },
      {
        "SELECT s.id, COUNT(DISTINCT d.minutes) AS lengths FROM sailing s LEFT JOIN delay d ON"
            + " d.sailing_id = s.id GROUP BY s.id",
        ""
      },
      {"SELECT COUNT(DISTINCT e.fee) AS extras FROM extra e", "uncounted-rows"},
    };
  }

  @Test(dataProvider = "queries")
  public void whatIsWrongIsTold(String sql, String kinds) {
    world.hasWarnings(sql, kinds);
    Repaired.keepsItsWord(sql, world.duckdb());
  }

  /** What is sought of the extras of a ticket, and whether one may pass by another of them. */
  @DataProvider
  static Object[][] conditionsOfExtras() {
    return new Object[][] {
      {"e.id IS NULL OR e.kind <> 'meal'", true},
      {"NOT (e.kind = 'meal') OR e.ticket_id IS NULL", true},
      {"t.price > 5 AND (e.id IS NULL OR e.kind NOT IN ('meal', 'cabin'))", true},
      {"e.id IS NULL OR e.kind <> 'cabin'", false},
      {"e.id IS NULL OR e.fee > 7", false},
      {"e.id IS NULL", false},
      {"t.id > 1 AND (e.id IS NULL OR e.kind <> 'meal')", false},
    };
  }

  /** What has another extra may be meant: a note. */
  @Test(dataProvider = "conditionsOfExtras")
  public void whatPassesByAnotherIsANote(String condition, boolean told) {
    String sql = WITHOUT_MEAL + condition;
    String shown = sql.replace("SELECT t.id", "SELECT t.id, e.kind");
    world.forEach(
        (engine, lantrel) -> {
          assertThat(told(lantrel.study(sql))).as(engine + sql).isEqualTo(told);
          assertThat(told(lantrel.study(shown))).as(engine + shown).isFalse();
        });
    world.hasWarnings(sql, "");
  }

  private static boolean told(Study study) {
    return study.findings().stream()
        .filter(each -> each.kind() == Kind.OUTER_JOIN_CANCELLED)
        .anyMatch(
            each ->
                each.severity() == Severity.NOTE
                    && each.message().startsWith("WHERE looks at one"));
  }

  /** The figures that stand in the words. */
  @DataProvider
  static Object[][] words() {
    return new Object[][] {
      {
        "SELECT l.id, x.sails_on FROM line l LEFT JOIN " + LAST_OF_ALL + " ON x.line_id = l.id",
        "x is one row of all, since LIMIT goes before the join, and not one for each l.id: 2 rows get"
            + " none, though there are rows of 3 values of s.line_id. Number them with ROW_NUMBER()"
            + " OVER (PARTITION BY s.line_id ORDER BY s.sails_on DESC, s.id) in place of LIMIT, and"
            + " join number 1."
      },
      {
        WITHOUT_MEAL + "e.id IS NULL OR e.kind <> 'meal'",
        "WHERE looks at one line at a time: 1 ticket passes by an extra that meets e.kind <> 'meal',"
            + " and has another that does not. If none may fail it, ask with NOT EXISTS for an extra"
            + " that does."
      },
      {
        "SELECT SUM(q.n) AS travellers FROM " + String.format(BY_LINE, "t.traveller_id", ""),
        "SUM(q.n) adds counts of what is different within each group: 2 values of t.traveller_id are"
            + " in several groups, and counted in each. Count over all rows at once: COUNT(DISTINCT"
            + " t.traveller_id)."
      },
      {
        "SELECT COUNT(DISTINCT e.fee) AS extras FROM extra e",
        "COUNT(DISTINCT e.fee) counts rows with the same fee as one, and is called extras: 2 for 4"
            + " extras. Count what each extra has of its own: e.id."
      },
      // The number of a delay is its own within a sailing only.
      {
        "SELECT s.id, COUNT(DISTINCT d.minutes) AS delays FROM sailing s LEFT JOIN delay d ON"
            + " d.sailing_id = s.id GROUP BY s.id",
        "COUNT(DISTINCT d.minutes) counts rows with the same minutes as one, and is called delays: 2"
            + " for 3 delays. No single column tells them apart: count them before they are joined."
      },
      {
        "SELECT s.line_id, AVG(d.minutes) AS minutes_per_sailing FROM sailing s JOIN delay d ON"
            + " d.sailing_id = s.id GROUP BY s.line_id",
        "AVG(d.minutes) is the mean of a delay, and is called minutes_per_sailing: once a sailing has"
            + " several in its group. Put the values of each sailing together in a query in FROM, and"
            + " take the mean of these."
      },
      {
        "SELECT l.id, p.name FROM line l JOIN port p ON p.id = l.from_port_id AND p.id = l.to_port_id",
        "p is one port, and cannot be that of l.from_port_id and that of l.to_port_id at once, which"
            + " are never the same here: 3 rows have two. Join port once for each."
      },
    };
  }

  @Test(dataProvider = "words")
  public void itSaysHowMany(String sql, String words) {
    world.forEach(
        (engine, lantrel) ->
            assertThat(lantrel.study(sql).findings().stream().map(Finding::message))
                .as(engine + sql)
                .contains(words));
  }
}
