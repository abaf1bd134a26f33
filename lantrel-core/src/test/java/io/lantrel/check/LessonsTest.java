package io.lantrel.check;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.engine.Engine;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.testng.annotations.AfterClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/**
 * Courses, who attends which lesson and who passed which examination: links of two tables with more
 * to say, truth values that are not known, mentors of mentors, money of several kinds.
 */
public class LessonsTest {

  private static final List<String> WORLD =
      List.of(
          "CREATE TABLE tutor (id INTEGER PRIMARY KEY, name VARCHAR(20) NOT NULL, mentor_id INTEGER"
              + " REFERENCES tutor (id));",
          "CREATE TABLE pupil (id INTEGER PRIMARY KEY, name VARCHAR(20) NOT NULL, mail VARCHAR(20));",
          "CREATE TABLE course (id INTEGER PRIMARY KEY, title VARCHAR(20), tutor_id INTEGER REFERENCES"
              + " tutor (id), monitor_id INTEGER REFERENCES pupil (id));",
          "CREATE TABLE enrolment (course_id INTEGER NOT NULL REFERENCES course (id), pupil_id INTEGER"
              + " NOT NULL REFERENCES pupil (id), left_on DATE, PRIMARY KEY (course_id, pupil_id));",
          "CREATE TABLE lesson (id INTEGER PRIMARY KEY, course_id INTEGER NOT NULL REFERENCES course"
              + " (id), held_on DATE NOT NULL, minutes INTEGER);",
          "CREATE TABLE attendance (lesson_id INTEGER NOT NULL REFERENCES lesson (id), pupil_id INTEGER"
              + " NOT NULL REFERENCES pupil (id), present BOOLEAN, PRIMARY KEY (lesson_id,"
              + " pupil_id));",
          "CREATE TABLE payment (id INTEGER PRIMARY KEY, pupil_id INTEGER NOT NULL REFERENCES pupil"
              + " (id), amount INTEGER NOT NULL);",
          "CREATE TABLE hire (id INTEGER PRIMARY KEY, pupil_id INTEGER NOT NULL REFERENCES pupil (id),"
              + " fee INTEGER NOT NULL);",
          "INSERT INTO tutor VALUES (1, 'Ames', NULL), (2, 'Birk', 1), (3, 'Corl', 1), (4, 'Dunn', 2);",
          "INSERT INTO pupil VALUES (1, 'Orr', 'o@x'), (2, 'Pell', NULL), (3, 'Quin', 'q@x'), (4,"
              + " 'Rusk', NULL);",
          "INSERT INTO course VALUES (1, 'Reading', 1, 1), (2, 'Writing', 2, NULL), (3, 'Sums', NULL,"
              + " 3), (4, 'Sums', 1, NULL), (5, 'Games', 4, NULL);",
          "INSERT INTO enrolment VALUES (1, 1, NULL), (1, 2, '2025-02-01'), (2, 2, NULL), (2, 3, NULL),"
              + " (3, 4, '2026-01-01');",
          "INSERT INTO lesson VALUES (1, 1, '2024-03-04', 45), (2, 1, '2025-03-04', 45), (3, 2,"
              + " '2025-04-01', 90), (4, 3, '2026-04-09', NULL);",
          "INSERT INTO attendance VALUES (1, 1, TRUE), (1, 2, FALSE), (2, 1, NULL), (2, 2, NULL), (3, 2,"
              + " TRUE), (3, 3, NULL);",
          "INSERT INTO payment VALUES (1, 1, 20), (2, 2, 20), (3, 2, 35), (4, 1, 20);",
          "INSERT INTO hire VALUES (1, 1, 20), (2, 3, 15);");

  private final WorldOnEngines world = new WorldOnEngines("lessons", WORLD);

  @AfterClass
  void close() {
    world.close();
  }

  private static final String ATTENDED =
      "SELECT l.held_on, p.name, a.present FROM lesson l JOIN enrolment e ON e.course_id = l.course_id"
          + " JOIN pupil p ON p.id = e.pupil_id LEFT JOIN attendance a ON a.lesson_id = l.id";
  private static final String UP =
      "WITH RECURSIVE up (id, name, mentor_id) AS (SELECT t.id, t.name, t.mentor_id FROM tutor t WHERE"
          + " t.id = 4 UNION ALL SELECT t.id, t.name, t.mentor_id FROM tutor t JOIN up ON ";
  private static final String INCOME =
      "SELECT SUM(q.amount) AS income FROM (SELECT y.amount FROM payment y UNION SELECT h.fee FROM hire"
          + " h) q";

  private static final String BOTH =
      "SELECT y.pupil_id FROM payment y WHERE y.amount IN (20, 35) GROUP BY y.pupil_id HAVING ";

  /** A query and the warnings that it must have; none where it is right. */
  @DataProvider
  static Object[][] queries() {
    return new Object[][] {
      // what a lesson has of all pupils, beside each of them
      {ATTENDED, "partial-key"},
      {ATTENDED + " AND a.pupil_id = p.id", ""},
      {ATTENDED + " AND a.pupil_id = e.pupil_id", ""},
      {
        "SELECT p.name, l.held_on, COUNT(a.present) AS known FROM pupil p CROSS JOIN lesson l LEFT JOIN attendance a ON"
            + " l.id = a.lesson_id GROUP BY p.id, p.name, l.id, l.held_on",
        "partial-key"
      },
      {
        "SELECT l.held_on, p.name AS monitor, COUNT(a.pupil_id) AS n FROM course c LEFT JOIN pupil p ON p.id ="
            + " c.monitor_id JOIN lesson l ON l.course_id = c.id LEFT JOIN attendance a ON a.lesson_id = l.id"
            + " GROUP BY l.id, l.held_on, p.id, p.name",
        ""
      },
      {
        "SELECT p.name, a.lesson_id, o.present AS another FROM pupil p JOIN attendance a ON a.pupil_id ="
            + " p.id JOIN attendance o ON o.lesson_id = a.lesson_id WHERE o.pupil_id <> p.id",
        ""
      },
      // a step that stands still
      {UP + "t.mentor_id = up.mentor_id) SELECT up.name FROM up", "endless-recursion"},
      {UP + "up.id = t.id) SELECT up.name FROM up", "endless-recursion"},
      {UP + "t.id = up.mentor_id) SELECT up.name FROM up", ""},
      {
        "WITH RECURSIVE up (id, mentor_id, n) AS (SELECT t.id, t.mentor_id, 1 FROM tutor t WHERE t.id = 4"
            + " UNION ALL SELECT t.id, t.mentor_id, up.n + 1 FROM tutor t JOIN up ON t.id = up.mentor_id"
            + " AND up.n < 9) SELECT up.id, up.n FROM up",
        ""
      },
      // of what is not known it is not known either
      {"SELECT a.lesson_id, a.pupil_id FROM attendance a WHERE NOT a.present", "null-comparison"},
      {
        "SELECT a.lesson_id, a.pupil_id FROM attendance a WHERE NOT a.present AND a.present IS NOT NULL",
        ""
      },
      {"SELECT a.lesson_id, a.pupil_id FROM attendance a WHERE NOT COALESCE(a.present, FALSE)", ""},
      // shares
      {
        "SELECT a.pupil_id, AVG(CASE WHEN a.present THEN 1 END) AS share FROM attendance a GROUP BY"
            + " a.pupil_id",
        "count-ignores-condition"
      },
      {
        "SELECT AVG(CASE WHEN a.present THEN 100 WHEN NOT a.present THEN 100 END) AS p FROM attendance"
            + " a",
        "count-ignores-condition"
      },
      {
        "SELECT a.pupil_id, AVG(CASE WHEN a.present THEN 1.0 ELSE 0 END) AS share FROM attendance a GROUP"
            + " BY a.pupil_id",
        ""
      },
      {
        "SELECT a.pupil_id, AVG(CASE WHEN a.present THEN 1 WHEN NOT a.present THEN 0 END) AS share FROM"
            + " attendance a GROUP BY a.pupil_id",
        ""
      },
      {
        "SELECT l.course_id, AVG(CASE WHEN a.present THEN l.minutes END) AS mean FROM lesson l JOIN"
            + " attendance a ON a.lesson_id = l.id GROUP BY l.course_id",
        ""
      },
      // money that is the same by chance
      {INCOME, "union-removes-rows"},
      {INCOME.replace("UNION", "UNION ALL"), ""},
      {INCOME.replace("y.amount FROM", "y.id, y.amount FROM").replace("h.fee", "h.id, h.fee"), ""},
      {INCOME.replace("SUM(q.amount)", "MAX(q.amount)"), ""},
      // what is counted, and what it is called
      {
        "SELECT c.title, COUNT(e.left_on) AS pupils FROM course c LEFT JOIN enrolment e ON e.course_id ="
            + " c.id GROUP BY c.id, c.title",
        "uncounted-rows"
      },
      {"SELECT COUNT(p.mail) AS pupils FROM pupil p", "uncounted-rows"},
      {"SELECT COUNT(l.minutes) AS number_of_lessons FROM lesson l", "uncounted-rows"},
      {"SELECT COUNT(p.mail) AS with_mail, COUNT(*) AS pupils FROM pupil p", ""},
      {"SELECT COUNT(p.mail) AS pupils FROM pupil p WHERE p.id IN (1, 3)", ""},
      {
        "SELECT c.title, COUNT(e.pupil_id) AS pupils FROM course c LEFT JOIN enrolment e ON e.course_id"
            + " = c.id GROUP BY c.id, c.title",
        ""
      },
      {"SELECT COUNT(DISTINCT c.tutor_id) AS tutors FROM course c", ""},
      // who has each that is listed
      {BOTH + "COUNT(*) = 2", "repeated-in-total"},
      {BOTH + "COUNT(y.id) >= 2", "repeated-in-total"},
      {BOTH + "COUNT(DISTINCT y.amount) = 2", ""},
      {BOTH + "COUNT(*) > 1", ""},
      {BOTH.replace("IN (20, 35)", "NOT IN (1, 2)") + "COUNT(*) = 2", ""},
      {
        "SELECT e.pupil_id FROM enrolment e WHERE e.course_id IN (1, 2) GROUP BY e.pupil_id HAVING"
            + " COUNT(*) = 2",
        ""
      },
      // parts of a window by a name that two share
      {
        "SELECT c.title, l.held_on, COUNT(*) OVER (PARTITION BY c.title) AS lessons FROM lesson l JOIN"
            + " course c ON c.id = l.course_id",
        "grouped-by-name"
      },
      {
        "SELECT c.title, l.held_on, COUNT(*) OVER (PARTITION BY c.title, c.id) AS lessons FROM lesson l"
            + " JOIN course c ON c.id = l.course_id",
        ""
      },
    };
  }

  @Test(dataProvider = "queries")
  public void hasItsWarnings(String sql, String kinds) {
    world.hasWarnings(sql, kinds);
  }

  /** The window of a running total, and how many rows are like one before; 0 if all is told. */
  @DataProvider
  static Object[][] windows() {
    return new Object[][] {
      {"ORDER BY y.amount", 2L},
      {"PARTITION BY y.pupil_id ORDER BY y.amount", 1L},
      {"ORDER BY y.pupil_id DESC ROWS BETWEEN UNBOUNDED PRECEDING AND CURRENT ROW", 2L},
      {"ORDER BY y.amount, y.pupil_id", 1L},
      {"ORDER BY y.amount, y.id", 0L},
      {"PARTITION BY y.pupil_id", 0L},
    };
  }

  @Test(dataProvider = "windows")
  public void runningTotalsTakeWhatIsAlikeAtOnce(String window, long alike) {
    String sql = "SELECT y.id, SUM(y.amount) OVER (" + window + ") AS total FROM payment y";
    world.forEach(
        (engine, lantrel) -> {
          List<Finding> found =
              lantrel.study(sql).findings().stream()
                  .filter(each -> each.kind() == Kind.UNSTABLE_ORDER)
                  .toList();
          assertThat(found).as(engine + sql).hasSize(alike == 0 ? 0 : 1);
          assertThat(found)
              .allSatisfy(
                  each ->
                      assertThat(each.evidence().figures())
                          .containsEntry("rows like one before", alike));
        });
    Repaired.keepsItsWord(sql, world.duckdb());
  }

  /** One cause, one finding: of several windows, and of month and quarter of one date. */
  @DataProvider
  static Object[][] once() {
    String over = " OVER (PARTITION BY c.title ORDER BY l.minutes)";
    String from = " FROM lesson l JOIN course c ON c.id = l.course_id";
    return new Object[][] {
      {
        Kind.GROUPED_BY_NAME,
        "SELECT l.id, SUM(l.id)" + over + " AS a, COUNT(*)" + over + " AS b" + from
      },
      {
        Kind.UNSTABLE_ORDER,
        "SELECT y.id, SUM(y.amount) OVER (ORDER BY y.pupil_id) AS a, COUNT(*) OVER (ORDER BY y.pupil_id)"
            + " AS b FROM payment y"
      },
      {
        Kind.MONTH_OF_SEVERAL_YEARS,
        "SELECT QUARTER(l.held_on) AS q, MONTH(l.held_on) AS m, COUNT(*) AS n FROM lesson l GROUP BY"
            + " QUARTER(l.held_on), MONTH(l.held_on)"
      },
    };
  }

  @Test(dataProvider = "once")
  public void isSaidOnce(Kind kind, String sql) {
    assertThat(world.duckdb().study(sql).findings())
        .filteredOn(each -> each.kind() == kind)
        .hasSize(1);
  }

  @DataProvider
  static Object[][] subtotals() {
    String of = " AS n FROM (SELECT e.course_id, COUNT(*) AS n FROM enrolment e GROUP BY ";
    return new Object[][] {
      {"SELECT SUM(q.n)" + of + "ROLLUP (e.course_id)) q", true},
      {"SELECT COUNT(*)" + of + "GROUPING SETS ((e.course_id), ())) q", true},
      {"SELECT SUM(q.n)" + of + "ROLLUP (e.course_id)) q WHERE q.course_id IS NOT NULL", false},
      {"SELECT MAX(q.n)" + of + "ROLLUP (e.course_id)) q", false},
      {"SELECT COUNT(q.course_id)" + of + "ROLLUP (e.course_id)) q", false},
      {"SELECT SUM(q.n)" + of + "ROLLUP (e.course_id) HAVING GROUPING(e.course_id) = 0) q", false},
      {"SELECT SUM(q.n)" + of + "e.course_id) q", false},
      {"SELECT q.course_id, SUM(q.n)" + of + "CUBE (e.course_id)) q GROUP BY q.course_id", false},
    };
  }

  @Test(dataProvider = "subtotals")
  public void subtotalsAreNotAddedOnceMore(String sql, boolean added) {
    assertThat(
            world.duckdb().study(sql).findings().stream()
                .anyMatch(each -> each.kind() == Kind.REPEATED_IN_TOTAL))
        .isEqualTo(added);
  }

  /** Rows of two values: as the engine sees it, how many rows are neither in nor out. */
  @Test
  public void tellsHowManyRowsAreUnknown() {
    String sql =
        "SELECT e.course_id, e.pupil_id FROM enrolment e WHERE (e.course_id, e.pupil_id) NOT IN"
            + " (SELECT c.id, c.monitor_id FROM course c)";
    Finding found = world.duckdb().study(sql).findings().get(0);
    assertThat(found.kind()).isEqualTo(Kind.NOT_IN_NULL);
    assertThat(found.evidence().figures()).containsEntry("rows for which it is unknown", 2L);
    assertThat(found.message()).contains("2 rows", "c.monitor_id IS NOT NULL");
    Repaired.keepsItsWord(sql, world.duckdb());
    assertThat(world.duckdb().study(sql.replace("c.monitor_id FROM", "c.id FROM")).findings())
        .noneMatch(each -> each.kind() == Kind.NOT_IN_NULL);
  }

  private static final String MONTH = "EXTRACT(MONTH FROM l.held_on)";

  /** How engines that have no EXTRACT take the month, or can take it otherwise. */
  private static final Map<Engine, List<String>> MONTHS =
      Map.of(
          Engine.DUCKDB,
          List.of(
              MONTH,
              "MONTH(l.held_on)",
              "strftime(l.held_on, '%m')",
              "date_part('month', l.held_on)"),
          Engine.SQLITE,
          List.of("strftime('%m', l.held_on)"),
          Engine.H2,
          List.of(MONTH, "MONTH(l.held_on)"));

  /** The condition behind FROM, and how many groups are of several years. */
  @DataProvider
  static Object[][] years() {
    return new Object[][] {
      {"COUNT(*)", "", 2L},
      {"SUM(l.minutes)", " JOIN course c ON c.id = l.course_id", 2L},
      {"COUNT(*)", " WHERE l.id < 4", 1L},
      {"COUNT(*)", " WHERE l.id > 2 AND l.id < 4", 0L},
      {"MAX(l.minutes)", "", 0L},
      {"AVG(l.minutes)", "", 0L},
    };
  }

  @Test(dataProvider = "years")
  public void monthsOfSeveralYearsAreOneGroup(String total, String more, long several) {
    world.forEach(
        (engine, lantrel) -> {
          for (String month : Optional.ofNullable(MONTHS.get(engine)).orElseThrow()) {
            String sql =
                "SELECT "
                    + month
                    + " AS m, "
                    + total
                    + " AS n FROM lesson l"
                    + more
                    + " GROUP BY "
                    + month;
            List<Finding> found =
                lantrel.study(sql).findings().stream()
                    .filter(each -> each.kind() == Kind.MONTH_OF_SEVERAL_YEARS)
                    .toList();
            assertThat(found).as(engine + sql).hasSize(several == 0 ? 0 : 1);
            assertThat(found)
                .as(engine + sql)
                .allSatisfy(
                    each ->
                        assertThat(each.evidence().figures())
                            .containsEntry("of several years", several));
          }
        });
  }

  @Test
  public void theYearOfAMonthIsShownBesideIt() {
    Repaired.keepsItsWord(
        "SELECT " + MONTH + " AS m, COUNT(*) AS n FROM lesson l GROUP BY " + MONTH, world.duckdb());
    String lines = MONTH.replace(" ", "\n");
    Finding found =
        world
            .duckdb()
            .study("SELECT " + lines + " AS m, COUNT(*) AS n FROM lesson l GROUP BY " + lines)
            .findings()
            .get(0);
    assertThat(found.message()).contains("group by EXTRACT(YEAR FROM l.held_on) too");
    assertThat(found.repair()).isPresent();
    assertThat(
            world
                .duckdb()
                .study(
                    "SELECT EXTRACT(YEAR FROM l.held_on) AS y, "
                        + MONTH
                        + " AS m, COUNT(*) AS n FROM lesson l GROUP BY 1, 2")
                .findings())
        .noneMatch(each -> each.kind() == Kind.MONTH_OF_SEVERAL_YEARS);
  }
}
