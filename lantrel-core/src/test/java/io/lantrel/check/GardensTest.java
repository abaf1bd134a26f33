package io.lantrel.check;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.testng.annotations.AfterClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/**
 * Plots, who leases them and with whom, fees and meters: readings that follow each other, what only
 * tells whose row it is, days written as texts, lists of who is in one of several roles.
 */
public class GardensTest {

  private static final List<String> WORLD =
      List.of(
          "CREATE TABLE member (id INTEGER PRIMARY KEY, name VARCHAR(20) NOT NULL, left_on DATE);",
          "CREATE TABLE plot (no VARCHAR(6) PRIMARY KEY, area INTEGER NOT NULL);",
          "CREATE TABLE lease (id INTEGER PRIMARY KEY, plot_no VARCHAR(6) NOT NULL REFERENCES plot"
              + " (no), member_id INTEGER NOT NULL REFERENCES member (id), partner_id INTEGER"
              + " REFERENCES member (id), from_date DATE NOT NULL, to_date DATE, rent INTEGER NOT"
              + " NULL);",
          "CREATE TABLE fee (id INTEGER PRIMARY KEY, member_id INTEGER NOT NULL REFERENCES member (id),"
              + " due_year INTEGER NOT NULL, amount INTEGER NOT NULL);",
          "CREATE TABLE meter (plot_no VARCHAR(6) NOT NULL REFERENCES plot (no), read_on DATE NOT NULL,"
              + " litres INTEGER NOT NULL, PRIMARY KEY (plot_no, read_on));",
          "INSERT INTO member VALUES (1, 'Moor', NULL), (2, 'Fenn', NULL), (3, 'Hale', '2023-12-31'),"
              + " (4, 'Rook', '2024-06-30'), (5, 'Wade', NULL);",
          "INSERT INTO plot VALUES ('A1', 100), ('A2', 120), ('B1', 150), ('B2', 90);",
          "INSERT INTO lease VALUES (1, 'A1', 1, 2, '2015-03-01', NULL, 120), (2, 'A2', 2, NULL,"
              + " '2016-04-01', '2020-03-31', 140), (3, 'A2', 4, 5, '2020-04-01', '2024-06-30', 150),"
              + " (4, 'B1', 3, NULL, '2009-11-05', NULL, 90), (5, 'B1', 5, 1, '2024-01-01', NULL, 60);",
          "INSERT INTO fee VALUES (1, 1, 2024, 40), (2, 2, 2024, 40), (3, 3, 2024, 9), (4, 1, 2025, 45),"
              + " (5, 5, 2025, 100);",
          "INSERT INTO meter VALUES ('A1', '2024-12-31', 1200), ('A1', '2025-12-31', 2600), ('A2',"
              + " '2024-12-31', 800), ('A2', '2025-12-31', 1500), ('B1', '2025-12-31', 900);");

  private final WorldOnEngines world = new WorldOnEngines("gardens", WORLD);

  @AfterClass
  void close() {
    world.close();
  }

  /** A query, and the kinds of its warnings. */
  @DataProvider
  static Object[][] queries() {
    String used =
        "SELECT m.plot_no, m.read_on, m.litres - LAG(m.litres) OVER (%s) AS used FROM meter m";
    String soFar = "SELECT f.member_id, f.id, SUM(f.amount) OVER (%s) AS %s FROM fee f";
    String dearest =
        "SELECT l.plot_no, MAX(l.rent) AS rent, MIN(l.%s) AS %s FROM lease l GROUP BY l.plot_no";
    return new Object[][] {
      // The reading before the first of a plot is that of another plot.
      {String.format(used, "ORDER BY m.plot_no, m.read_on"), "partial-key"},
      {String.format(used, "PARTITION BY m.plot_no ORDER BY m.read_on"), ""},
      {String.format(used, "PARTITION BY m.plot_no ORDER BY m.plot_no, m.read_on"), ""},
      {
        "SELECT m.plot_no, LAG(m.litres) OVER (ORDER BY m.plot_no, m.read_on) AS b FROM meter m",
        "partial-key"
      },
      {"SELECT m.plot_no, LAG(m.litres) OVER (ORDER BY m.plot_no, m.litres) AS b FROM meter m", ""},
      {
        "SELECT m.plot_no, CASE WHEN LAG(m.plot_no) OVER (ORDER BY m.plot_no, m.read_on) = m.plot_no"
            + " THEN m.litres - LAG(m.litres) OVER (ORDER BY m.plot_no, m.read_on) END AS used FROM"
            + " meter m",
        ""
      },
      // One that is called running stands still.
      {String.format(soFar, "PARTITION BY f.member_id", "so_far"), "unstable-order"},
      {String.format(soFar, "", "running_total") + " ORDER BY f.id", "unstable-order"},
      {String.format(soFar, "PARTITION BY f.member_id", "of_member"), ""},
      {String.format(soFar, "PARTITION BY f.id", "so_far"), "groups-of-one"},
      {String.format(soFar, "PARTITION BY f.member_id ORDER BY f.id", "so_far"), ""},
      // The least of references is nobody's but that of its own row.
      {String.format(dearest, "member_id", "member_id"), "values-of-several-rows"},
      {String.format(dearest, "member_id", "first_member"), ""},
      {
        "SELECT l.plot_no, MAX(l.rent) AS rent, MIN(l.member_id) AS member_id FROM lease l WHERE"
            + " l.to_date IS NULL AND l.plot_no <> 'B1' GROUP BY l.plot_no",
        ""
      },
      {"SELECT MIN(l.member_id) AS member_id, MAX(l.partner_id) AS partner_id FROM lease l", ""},
      // Days and numbers letter by letter; where they are written alike, nothing changes.
      {
        "SELECT l.id FROM lease l WHERE CAST(l.from_date AS VARCHAR(10)) > '2020-1-1'",
        "type-mismatch"
      },
      {
        "SELECT l.id FROM lease l WHERE '2016-4-1' <= CAST(l.from_date AS VARCHAR(10))",
        "type-mismatch"
      },
      {"SELECT l.id FROM lease l WHERE CAST(l.from_date AS VARCHAR(10)) > '2020-01-01'", ""},
      {"SELECT f.id FROM fee f WHERE CAST(f.amount AS VARCHAR(10)) > '5'", "type-mismatch"},
      {"SELECT f.id FROM fee f WHERE CAST(f.due_year AS VARCHAR(10)) > '2024'", ""},
      {
        "SELECT m.name FROM member m WHERE EXISTS (SELECT 1 FROM fee f WHERE f.member_id = m.id AND"
            + " CAST(f.amount AS VARCHAR(10)) < '5')",
        "type-mismatch"
      },
      // A reference below what is none, and none below it.
      {
        "SELECT f.member_id, f.due_year FROM fee f UNION ALL SELECT l.rent, l.member_id FROM lease l",
        "swapped-columns"
      },
      {
        "SELECT f.amount, f.member_id FROM fee f UNION ALL SELECT l.member_id, l.rent FROM lease l",
        "swapped-columns"
      },
      {
        "SELECT l.member_id, l.partner_id FROM lease l UNION ALL SELECT f.member_id, f.amount FROM"
            + " fee f",
        ""
      },
      {
        "SELECT l.member_id, l.rent FROM lease l UNION ALL SELECT f.member_id, f.amount FROM fee f",
        ""
      },
    };
  }

  @Test(dataProvider = "queries")
  public void warningsAre(String sql, String kinds) {
    world.hasWarnings(sql, kinds);
  }

  /** A condition that two columns differ, and whether just one of them is NULL in some rows. */
  @DataProvider
  static Object[][] differences() {
    String known = " AND m.left_on IS NOT NULL AND l.to_date IS NOT NULL";
    return new Object[][] {
      {"m.left_on <> l.to_date", true},
      {"l.to_date <> m.left_on AND l.rent > 0", true},
      {"m.left_on <> l.from_date", true},
      {"m.left_on <> l.to_date" + known, false},
      {"m.left_on <> l.to_date AND l.plot_no = 'A2' AND m.left_on > '2000-01-01'", false},
      {"NOT (m.left_on = l.to_date)", true},
      {"NOT l.from_date = m.left_on AND l.rent > 0", true},
      {"NOT (m.left_on <> l.to_date)", false},
      {"m.id <> l.rent", false},
      {"m.left_on < l.to_date", false},
    };
  }

  /** Who left and has a lease without an end differs too, and is left out. */
  @Test(dataProvider = "differences")
  public void whatDiffersForNullIsNoted(String condition, boolean noted) {
    String sql =
        "SELECT m.name FROM member m JOIN lease l ON l.member_id = m.id WHERE " + condition;
    world.forEach(
        (engine, lantrel) ->
            assertThat(
                    lantrel.study(sql).findings().stream()
                        .filter(each -> each.kind() == Kind.NULL_COMPARISON)
                        .map(Finding::severity))
                .as(engine + sql)
                .isEqualTo(noted ? List.of(Severity.NOTE) : List.of()));
    Repaired.keepsItsWord(sql, world.duckdb());
  }

  /** What is said of who left, and whether those who stayed are told of as left out. */
  @DataProvider
  static Object[][] daysOfNow() {
    return new Object[][] {
      {"NOT (m.left_on < CURRENT_DATE)", true},
      {"m.left_on <> current_date", true},
      {"m.left_on NOT BETWEEN '1990-01-01' AND CURRENT_DATE", true},
      {"NOT (m.left_on < CURRENT_DATE) OR m.left_on IS NULL", false},
      {"m.left_on < CURRENT_DATE", false},
    };
  }

  /** What differs from row to row without a column is no value that is left out. */
  @DataProvider
  static Object[][] valuesWithoutATable() {
    return new Object[][] {
      {"l.partner_id <> LENGTH(CURRENT_USER)", true},
      {"NOT (l.partner_id = LENGTH(UPPER(CURRENT_SCHEMA)) + 1)", true},
      {"l.partner_id <> RANDOM()", false},
      {"l.partner_id NOT BETWEEN 9 AND 10 + RANDOM()", false},
      {"l.partner_id <> rowid", false},
    };
  }

  @Test(dataProvider = "valuesWithoutATable")
  public void aUserIsTheSameForEveryRowAndARowIdIsNot(String condition, boolean told) {
    String sql = "SELECT l.id FROM lease l WHERE " + condition;
    assertThat(
            world.duckdb().study(sql).findings().stream()
                .anyMatch(each -> each.kind() == Kind.NULL_COMPARISON))
        .as(sql)
        .isEqualTo(told);
  }

  @Test(dataProvider = "daysOfNow")
  public void todayIsTheSameForEveryRow(String condition, boolean told) {
    String sql = "SELECT m.name FROM member m WHERE " + condition;
    world.forEach(
        (engine, lantrel) ->
            assertThat(
                    lantrel.study(sql).findings().stream()
                        .anyMatch(each -> each.kind() == Kind.NULL_COMPARISON))
                .as(engine + sql)
                .isEqualTo(told));
    Repaired.keepsItsWord(sql, world.duckdb());
  }

  /** Who is in one of several roles is listed once on purpose: that is no note. */
  @Test
  public void aListOfWhoIsInSeveralRolesIsNoNote() {
    String roles = "SELECT l.member_id FROM lease l UNION SELECT l.partner_id FROM lease l";
    String tables = "SELECT f.member_id FROM fee f UNION SELECT l.partner_id FROM lease l";
    String keys = "SELECT m.id FROM member m WHERE m.id < 3 UNION SELECT f.member_id FROM fee f";
    String amounts = "SELECT l.rent FROM lease l UNION SELECT f.amount FROM fee f";
    String unlike = "SELECT l.member_id FROM lease l UNION SELECT f.amount FROM fee f";
    world.forEach(
        (engine, lantrel) -> {
          assertThat(lantrel.study(roles).findings()).as(engine + roles).isEmpty();
          assertThat(lantrel.study(tables).findings()).as(engine + tables).isEmpty();
          for (String sql : List.of(keys, amounts, unlike)) {
            assertThat(lantrel.study(sql).findings())
                .as(engine + sql)
                .extracting(each -> each.kind().id())
                .containsExactly("union-removes-rows");
          }
        });
  }
}
