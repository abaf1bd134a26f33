package io.lantrel.engine;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.lantrel.Study;
import io.lantrel.sql.Dialect;
import io.lantrel.trace.Answer;
import io.lantrel.trace.Answer.Source;
import io.lantrel.trace.TraceException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** What became of rows of the river watch, alike on every engine. */
public class TraceTest extends OnEveryEngine {

  private static Object[][] onEach(Object[][] cases) {
    List<Object[]> all = new ArrayList<>();
    for (Engine engine : RiverDatabases.engines()) {
      for (Object[] each : cases) {
        Object[] row = new Object[each.length + 1];
        row[0] = engine;
        System.arraycopy(each, 0, row, 1, each.length);
        all.add(row);
      }
    }
    return all.toArray(Object[][]::new);
  }

  private static final String JOINED =
      "SELECT s.name, r.name AS river, w.family_name AS keeper FROM station s"
          + " JOIN river r ON r.id = s.river_id LEFT JOIN warden w ON w.id = s.keeper_id"
          + " WHERE s.capacity > 5 ORDER BY s.id";
  private static final String GROUPED =
      "SELECT r.name, COUNT(d.id) AS n, MAX(d.temperature) AS warmest FROM river r"
          + " JOIN station s ON s.river_id = r.id JOIN reading d ON d.station_id = s.id"
          + " GROUP BY r.id, r.name HAVING COUNT(d.id) > 2 ORDER BY r.id";
  private static final String WITHIN =
      "SELECT s.name, q.n FROM station s JOIN (SELECT d.station_id, COUNT(*) AS n FROM reading d"
          + " WHERE d.temperature > 6 GROUP BY d.station_id) q ON q.station_id = s.id"
          + " ORDER BY s.id";
  private static final String NAMED =
      "WITH deep (station_id, low) AS (SELECT d.station_id, MIN(d.depth_cm) FROM reading d"
          + " GROUP BY d.station_id) SELECT s.name, p.low FROM station s"
          + " LEFT JOIN deep p ON p.station_id = s.id ORDER BY s.id";
  private static final String WALK =
      "WITH RECURSIVE up (id, flows_into, lvl) AS (SELECT r.id, r.flows_into, 0 FROM river r WHERE"
          + " r.id = 5 UNION ALL SELECT r.id, r.flows_into, up.lvl + 1 FROM river r JOIN up ON"
          + " r.id = up.flows_into) SELECT u.id, u.lvl FROM up u ORDER BY u.lvl";

  /** A partner that is near, by values of every sort. */
  private static final String SINCE =
      "SELECT g.species_id, d.id AS reading, d.depth_cm - 1 AS less FROM sighting g LEFT JOIN reading"
          + " d ON d.station_id = g.station_id AND d.taken_at < g.seen_on AND d.temperature < 11.5"
          + " ORDER BY g.station_id, g.species_id, g.seen_on";

  private static final String CAPITALS =
      "SELECT r.name, u.up FROM river r LEFT JOIN (SELECT UPPER(x.name) AS up FROM river x) u ON"
          + " u.up = r.name ORDER BY r.id";

  private static final String MANY =
      "SELECT s.id, r.id AS river, w.id AS warden, COUNT(*) AS n FROM station s CROSS JOIN river r"
          + " CROSS JOIN warden w GROUP BY s.id, r.id, w.id HAVING s.id <> 3 ORDER BY s.id, r.id,"
          + " w.id";
  private static final String STARS =
      "SELECT * FROM (SELECT s.id AS station, s.river_id FROM station s) q JOIN river r ON r.id ="
          + " q.river_id ORDER BY q.station";
  private static final String TWICE =
      "WITH w AS (SELECT s.id, s.name FROM station s) SELECT DISTINCT a.id, b.name FROM w a JOIN w b"
          + " ON b.id = a.id ORDER BY a.id";
  private static final String EITHER =
      "SELECT s.name FROM station s JOIN river r ON r.id = s.river_id AND (r.id = s.id OR s.id > 20)";

  /** Grouped by every column that is shown: not every engine knows that a key is enough. */
  private static final String KEYED =
      "SELECT r.id, r.name, COUNT(*) AS n FROM river r JOIN station s ON s.river_id = r.id JOIN"
          + " reading d ON d.station_id = s.id GROUP BY r.id, r.name ORDER BY r.id";

  private static final String LEAST =
      "SELECT s.name FROM station s WHERE s.capacity > (SELECT MIN(x.capacity) + 4 FROM station x"
          + " WHERE x.river_id = s.river_id) ORDER BY s.id";

  /**
   * So many sides that to ask of each would be too much; SQLite itself reads no more than 1,000.
   */
  private static final String SIDES =
      "SELECT s.name FROM station s WHERE s.capacity = 0"
          + " OR s.capacity = 1000".repeat(900)
          + " ORDER BY s.id";

  private static final String BETWEEN =
      "SELECT s.name FROM station s WHERE s.id + 20 BETWEEN (SELECT MIN(x.id) FROM river x) AND"
          + " (SELECT MAX(x.id) FROM river x)";

  private static final String BOTH =
      "SELECT s.bank FROM station s WHERE s.capacity > 8 UNION SELECT k.code FROM bank_kind k";

  /** Rows that lie outside all bounds, on either side of them, or beside a comma. */
  private static final String ABOVE =
      "SELECT s.name, r.name AS river FROM station s JOIN river r ON s.capacity > r.length_km";

  private static final String INSIDE =
      "SELECT s.name, r.name AS river FROM station s, river r WHERE s.capacity * 20 BETWEEN r.flow AND"
          + " r.length_km AND s.id > 0";

  private static final String OPEN =
      "SELECT s.name, r.name AS river FROM station s JOIN river r ON s.river_id BETWEEN r.id AND"
          + " r.length_km";

  @DataProvider
  static Object[][] followed() {
    return onEach(
        new Object[][] {
          {JOINED, "station where id = 14", "lost", "1", "s.river_id is NULL"},
          {JOINED, "station where id = 7", "lost", "where", "s.capacity is 3"},
          {JOINED, "s where name = 'Mill Weir'", "present", "", "as row 1"},
          {JOINED, "warden where id = 1", "lost", "2", "w.id is 1"},
          {JOINED, "station where id = 99", "no-such-row", "", "none where id = 99"},
          {GROUPED, "station where id = 7", "lost", "2", "no row of reading d"},
          {GROUPED, "reading where id = 10", "present", "", "in the group of"},
          {GROUPED, "reading where id = 13", "present", "", "in the group of"},
          {GROUPED, "river where id = 7", "lost", "2", "reading d"},
          {GROUPED, "reading where station_id = 12", "lost", "having", "is not true"},
          {WITHIN, "reading where id = 7", "lost", "where", "is unknown"},
          {WITHIN, "reading where id = 9", "present", "", "as row"},
          {WITHIN, "reading where id = 13", "lost", "where", "within q"},
          {WITHIN, "station where id = 7", "lost", "1", "no row of q"},
          {NAMED, "reading where id = 9", "present", "", "as row 3"},
          {WALK, "river where id = 2", "present", "", "as row 4"},
          {KEYED, "river where id = 7", "lost", "2", "no row of reading d"},
          {KEYED, "river where id = 1", "present", "", "in the group of row 1"},
          {KEYED, "reading where id = 10", "present", "", "in the group of row 2"},
          {MANY, "station where id = 3", "lost", "having", "s.id <> 3 is not true"},
          {MANY, "station where id = 14", "present", "", "behind its first 1,000 rows"},
          {MANY + " LIMIT 5", "station where id = 14", "lost", "limit", "that LIMIT 5 takes"},
          {STARS, "station where id = 2", "present", "", "as row 2"},
          {
            SINCE,
            "reading where id = 4",
            "lost",
            "1",
            "Near it is sighting 2 (1, 2026-03-02): g.seen_on is 2026-03-02, so d.taken_at <"
                + " g.seen_on is not true."
          },
          {STARS, "station where id = 14", "lost", "1", "q.river_id is NULL"},
          {TWICE, "station where id = 2", "present", "", "as row 2"},
          {BOTH.replace("UNION", "UNION ALL"), "station where id = 1", "present", "", "as row"},
          {EITHER, "station where id = 14", "lost", "1", "no row of river r meets"},
          {
            ABOVE,
            "station where id = 14",
            "lost",
            "1",
            "Near it is river 5 (Pellow Brook): r.length_km is 7, so s.capacity > r.length_km is"
          },
          {
            INSIDE,
            "station where id = 11",
            "lost",
            "1",
            "Near it is river 1 (Ombrel): r.flow is 38"
          },
          {OPEN, "station where id = 14", "lost", "1", "BETWEEN r.id AND r.length_km."},
          {BOTH, "station where id = 1", "merged", "union", "UNION made one row"},
          {BOTH, "station where id = 2", "lost", "where", "s.capacity > 8"},
          {LEAST, "station where id = 1", "lost", "where", "and the subquery is 12, so"},
          {LEAST, "station where id = 14", "lost", "where", "and the subquery is NULL, so"},
          {LEAST, "station where id = 14", "lost", "where", "is unknown"},
          {LEAST.replace("> (", "> 99 + ("), "station where id = 3", "lost", "where", "is 10, so"},
          {SIDES, "station where id = 7", "lost", "where", "s.capacity is 3, so s.capacity = 0 OR"},
          {SIDES, "station where id = 7", "lost", "where", "OR … (898 more) is not true"},
          {
            BETWEEN,
            "station where id = 4",
            "lost",
            "where",
            "(SELECT MIN(x.id) FROM river AS x) is 1"
          },
        });
  }

  private static final String SHOWN =
      "SELECT q.place, r.name AS river, COUNT(d.id) AS n FROM (SELECT s.id, s.name AS place, s.river_id"
          + " FROM station s) q JOIN river r ON r.id = q.river_id LEFT JOIN reading d ON d.station_id"
          + " = q.id GROUP BY q.place, r.name ORDER BY q.place";

  @DataProvider
  static Object[][] expected() {
    return onEach(
        new Object[][] {
          {SHOWN, "place = 'Spare Float'", "lost", "q.river_id is NULL"},
          {SHOWN, "place = 'Mill Weir'", "present", "It is in the result, as row 6."},
          {SHOWN, "river = 'Oldcut'", "lost", "no row of q meets"},
          {SHOWN, "place = 'Mill Weir' AND n = 99", "present", "in the group of row"},
          {SHOWN, "n = 99 AND place = 'Mill Weir'", "present", "is not about its columns"},
          {SHOWN, "river = 'Nowhere'", "no-such-row", "river has none where name = 'Nowhere'"},
          {BOTH, "bank = 'X'", "no-such-row", "none where"},
        });
  }

  /** Why an outer join found nothing, and what it nearly found. */
  @Test(dataProvider = "engines")
  public void whatAnOuterJoinMissedIsTold(Engine engine) {
    assertThat(study(engine, SINCE).trace(1, 5).sentences())
        .contains(
            "less is NULL because d.depth_cm is: no row of reading d was found at LEFT JOIN reading d.",
            "Near it is reading 1: d.taken_at is 2026-03-02 08:00:00, so d.taken_at < g.seen_on is not"
                + " true.");
    // MariaDB sets capitals aside, and finds it.
    if (engine != Engine.MARIADB) {
      assertThat(study(engine, CAPITALS).trace(1, 5).sentences())
          .anyMatch(
              each -> each.endsWith("is 'OMBREL', which differs from 'Ombrel' only in capitals."));
    }
  }

  @Test(dataProvider = "expected")
  public void valuesThatWereExpectedAreLedBack(
      Engine engine, String sql, String values, String outcome, String words) {
    Answer answer = study(engine, sql).missing(values, 1).get(0);
    assertThat(answer.outcome().id()).as(answer.sentences().toString()).isEqualTo(outcome);
    assertThat(String.join(" ", answer.sentences())).contains(words).doesNotContain("lantrel_");
  }

  @Test(dataProvider = "engines")
  public void whatIsWorkedOutCannotBeLedBack(Engine engine) {
    assertThatThrownBy(() -> study(engine, SHOWN).missing("n = 99", 1))
        .isInstanceOf(TraceException.class)
        .hasMessageContaining("no row of the result meets n = 99");
    assertThatThrownBy(() -> study(engine, SHOWN).missing("plce = 'x'", 1))
        .isInstanceOf(TraceException.class)
        .hasMessageContaining("the result has no column plce; close to it: place");
  }

  @Test(dataProvider = "followed")
  public void aRowIsFollowed(
      Engine engine, String sql, String row, String outcome, String step, String words) {
    List<Answer> answers = study(engine, sql).missing(row, 1);
    Answer answer = answers.get(0);
    assertThat(answer.outcome().id()).as(answer.sentences().toString()).isEqualTo(outcome);
    assertThat(answer.stage().map(Answer.Stage::id).orElse("")).isEqualTo(step);
    assertThat(String.join(" ", answer.sentences())).contains(words).doesNotContain("lantrel_");
  }

  /** Where a value is NULL, no partner is nearer than another. */
  @Test(dataProvider = "engines")
  public void nothingIsNearWhatIsNotKnown(Engine engine) {
    assertThat(study(engine, OPEN).missing("station where id = 14", 1).get(0).sentences())
        .noneMatch(each -> each.startsWith("Near"));
  }

  @DataProvider
  static Object[][] refused() {
    return onEach(
        new Object[][] {
          {"SELECT s.river_id FROM station s EXCEPT SELECT r.id FROM river r", "EXCEPT"},
          {
            "SELECT q.id FROM (SELECT s.id FROM station s INTERSECT SELECT r.id FROM river r) q",
            "EXCEPT"
          },
          {
            "SELECT * FROM (SELECT s.id FROM station s) q UNION SELECT r.id FROM river r",
            "write out the columns"
          },
        });
  }

  /** A mark would change what is equal there: rather nothing is told than something wrong. */
  @Test(dataProvider = "refused")
  public void whatAMarkWouldChangeIsNotFollowed(Engine engine, String sql, String words) {
    assertThatThrownBy(() -> study(engine, sql).missing("station where id = 1", 1))
        .isInstanceOf(TraceException.class)
        .hasMessageContaining(words)
        .hasMessageContaining("cannot be followed through this query");
  }

  /** Where a key groups its table, it still does so in the text that is marked. */
  @Test(dataProvider = "engines")
  public void aKeyStillGroupsItsTable(Engine engine) {
    // Sample data has its keys in the catalog alone, which HSQLDB does not know of.
    if (engine.dialect().has(Dialect.Rule.KEY_GROUPS_ITS_TABLE) && engine != Engine.HSQLDB) {
      String sql = KEYED.replace("GROUP BY r.id, r.name", "GROUP BY r.id");
      assertThat(study(engine, sql).missing("river where id = 1", 1).get(0).sentences().get(0))
          .isEqualTo("river 1 (Ombrel) is in the result, in the group of row 1.");
      assertThat(study(engine, sql).trace(1, 20).sources().get(0).values().get(0).value())
          .isEqualTo("1");
    }
  }

  @DataProvider
  static Object[][] traced() {
    return onEach(
        new Object[][] {
          {JOINED, 1, "station s 1, river r 1, warden w 2"},
          {JOINED, 4, "station s 4, river r 2, warden w none at LEFT JOIN warden w"},
          {GROUPED, 1, "river r 1, station s 1, reading d 1"},
          {WITHIN, 1, "station s 1, q q 1 (reading d 1; reading d 2; reading d 3)"},
          {NAMED, 1, "station s 1, p p 1 (reading d 1; reading d 2; reading d 3)"},
          {WALK, 3, "u u 3 (river r 3; up up 4 (river r 4; up up 5 (river r 5)))"},
          {NAMED, 7, "station s 7, p p none at LEFT JOIN deep p"},
          {"SELECT s.name FROM station s ORDER BY s.id LIMIT 3 OFFSET 2", 2, "station s 4"},
        });
  }

  @Test(dataProvider = "traced")
  public void aRowOfTheResultIsPutTogetherAgain(
      Engine engine, String sql, int number, String sources) {
    Answer answer = study(engine, sql).trace(number, 20);
    assertThat(answer.outcome().id()).isEqualTo("present");
    Map<String, Source> first = new LinkedHashMap<>();
    answer.sources().forEach(each -> first.putIfAbsent(each.use(), each));
    assertThat(String.join(", ", first.values().stream().map(TraceTest::words).toList()))
        .as(answer.toString())
        .isEqualTo(sources);
  }

  /** Groups in several ways at once, each traced row with the stations that went into it. */
  @Test(dataProvider = "engines")
  public void groupsThatLeaveOutKeysAreThoseOfAllTheirValues(Engine engine) {
    if (engine == Engine.SQLITE || engine == Engine.H2) {
      return;
    }
    String counted =
        "SELECT s.bank, s.river_id, COUNT(*) AS n FROM station s WHERE s.river_id IS"
            + " NOT NULL AND s.bank IS NOT NULL GROUP BY ";
    List<String> ways =
        engine == Engine.MARIADB
            ? List.of("s.bank, s.river_id WITH ROLLUP")
            : List.of(
                "ROLLUP (s.bank, s.river_id)",
                "CUBE (s.bank, s.river_id)",
                "GROUPING SETS ((s.bank), (s.river_id), ())",
                "s.bank, ROLLUP (s.river_id)");
    for (String way : ways) {
      Study study = study(engine, counted + way);
      int rows = study.result().size();
      assertThat(rows).isGreaterThan(5);
      for (int row = 1; row <= rows; row++) {
        Answer answer = study.trace(row, 99);
        assertThat(answer.sources().size())
            .as("%s, row %s: %s", way, row, answer)
            .isEqualTo(Integer.parseInt(String.valueOf(answer.values().get(2).value())));
      }
    }
  }

  /** A third has no end, and single precision no constant. */
  @Test(dataProvider = "engines")
  public void aRowOfInexactNumbersIsFound(Engine engine) {
    String single = engine == Engine.MARIADB ? "FLOAT" : "REAL";
    String sql = "SELECT CAST(r.id AS " + single + ") / 3 AS third FROM river r ORDER BY r.id";
    for (int row = 1; row <= 4; row++) {
      assertThat(words(study(engine, sql).trace(row, 5).sources().get(0)))
          .isEqualTo("river r " + row);
    }
  }

  private static String words(Source source) {
    String key =
        source.filled().isEmpty() && !source.values().isEmpty()
            ? String.valueOf(source.values().get(0).value())
            : source.filled();
    String within = String.join("; ", source.sources().stream().map(TraceTest::words).toList());
    String name = source.table().isEmpty() ? source.use() : source.table() + " " + source.use();
    return name + (key.isEmpty() ? "" : " " + key) + (within.isEmpty() ? "" : " (" + within + ")");
  }

  @Test(dataProvider = "engines")
  public void aggregatesSayWhatWentIn(Engine engine) {
    Answer answer =
        study(
                engine,
                "SELECT s.name, COUNT(d.temperature) AS n, COUNT(DISTINCT d.station_id) AS one"
                    + " FROM station s JOIN reading d ON d.station_id = s.id WHERE s.id = 3"
                    + " GROUP BY s.id, s.name")
            .trace(1, 20);
    assertThat(answer.sentences().get(0))
        .startsWith("COUNT(d.temperature) is over ")
        .contains("; 1 NULL left out.");
    assertThat(answer.sentences().get(1)).endsWith(" is over 3; 3 equal left out.");
  }

  /** A query, and what its subqueries found for its first row. */
  @DataProvider
  static Object[][] found() {
    String station = "SELECT s.id FROM station s WHERE s.id = 1 AND ";
    return onEach(
        new Object[][] {
          {
            station + "EXISTS (SELECT 1 FROM reading d WHERE d.station_id = s.id)",
            "station s 1 | the subquery in WHERE (reading d 1; reading d 2; reading d 3)"
          },
          {
            station + "s.river_id IN (SELECT r.id FROM river r WHERE r.flow > 3)",
            "station s 1 | the subquery in WHERE (river r 1)"
          },
          {
            station
                + "s.bank IN (SELECT b.code FROM bank_kind b) AND 500 > (SELECT SUM(o.capacity)"
                + " FROM station o WHERE o.river_id = s.river_id)",
            "station s 1 | subquery 1 in WHERE (bank_kind b W)"
                + " | subquery 2 in WHERE 20 (station o 1; station o 2)"
                + " | SUM(o.capacity) is over 12, 8."
          },
          {
            station + "NOT EXISTS (SELECT 1 FROM reading d WHERE d.station_id = s.id + 1000)",
            "station s 1 | No row was found by the subquery in WHERE."
          },
          {
            station
                + "s.id + 1000 NOT IN (SELECT x.station_id FROM sighting x UNION SELECT 0 FROM river y)",
            "station s 1 | No row was found by the subquery in WHERE."
          },
          {
            station
                + "s.id IN (SELECT x.station_id FROM reading x WHERE x.id < 3 UNION SELECT b.id FROM"
                + " river b UNION ALL SELECT d.station_id FROM sighting d WHERE d.station_id > 5)",
            "station s 1 | the subquery in WHERE (reading x 1; reading x 2; river b 1)"
          },
          {
            "SELECT s.id, (SELECT MIN(b.id) FROM river b WHERE b.id = s.river_id UNION SELECT"
                + " MIN(c.id) FROM river c WHERE c.id = s.river_id) AS flow FROM station s WHERE"
                + " s.id = 1",
            "station s 1 | the subquery in SELECT 1 (river b 1; river c 1) | MIN(b.id) is over 1. |"
                + " MIN(c.id) is over 1."
          },
          {
            station
                + "s.id NOT IN (SELECT x.station_id FROM sighting x WHERE x.station_id > 5 EXCEPT"
                + " SELECT 0 FROM river y)",
            "station s 1 | What the subquery in WHERE found is not followed."
          },
          {
            "SELECT d.id, (SELECT COUNT(e.id) FROM reading e WHERE e.station_id = d.station_id AND"
                + " e.taken_at > d.taken_at) AS later FROM reading d WHERE d.id = 1",
            "reading d 1 | the subquery in SELECT 2 (reading e 2; reading e 3)"
                + " | COUNT(e.id) is over 2, 3."
          },
          {
            "SELECT s.name FROM station s JOIN river r ON r.id = s.river_id AND EXISTS (SELECT 1 FROM"
                + " station t WHERE t.name > s.name AND t.river_id = r.id) WHERE s.id = 2",
            "station s 2 | river r 1 | the subquery in ON (station t 1)"
          },
          {
            "SELECT s.id, (SELECT d.depth_cm FROM reading d WHERE d.station_id = s.id ORDER BY"
                + " d.depth_cm DESC, d.id LIMIT 1) AS deepest FROM station s WHERE s.id = 2",
            "station s 2 | the subquery in SELECT 210 (reading d 4)"
          },
          {
            "SELECT s.id, (SELECT MAX(d.depth_cm) FROM reading d JOIN station o ON o.id ="
                + " d.station_id LEFT JOIN river r ON r.id = o.river_id AND r.id > s.id WHERE o.id ="
                + " s.id) AS deepest FROM station s WHERE s.id = 2",
            "station s 2 | the subquery in SELECT 210 (reading d 4; reading d 5; station o 2; river r"
                + " null) | MAX(d.depth_cm) is over 210, 170."
          },
        });
  }

  @Test(dataProvider = "found")
  public void whatSubqueriesFoundIsToldBelowThem(Engine engine, String sql, String expected) {
    Answer answer = study(engine, sql).trace(1, 20);
    List<String> told = new ArrayList<>();
    answer.sources().forEach(source -> told.add(words(source)));
    told.addAll(answer.sentences());
    assertThat(String.join(" | ", told)).as(sql).isEqualTo(expected);
  }

  /** What LATERAL found is told below what it goes by, where an engine has it. */
  @Test
  public void soIsWhatLateralFound() {
    String sql =
        "SELECT s.id, q.id AS reading FROM station s JOIN LATERAL (SELECT d.id FROM reading d WHERE"
            + " d.station_id = s.id ORDER BY d.taken_at DESC LIMIT 2) q ON TRUE WHERE s.id = 1 ORDER"
            + " BY q.id";
    for (Engine engine : List.of(Engine.DUCKDB, Engine.POSTGRESQL)) {
      assertThat(study(engine, sql).trace(1, 20).sources().stream().map(TraceTest::words).toList())
          .as(engine.toString())
          .containsExactly("station s 1", "q q 2 (reading d 3; reading d 2)");
    }
  }

  private Study study(Engine engine, String sql) {
    return at(engine).study(sql);
  }
}
