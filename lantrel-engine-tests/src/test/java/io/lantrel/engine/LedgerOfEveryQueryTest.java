package io.lantrel.engine;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.Study;
import io.lantrel.check.Kind;
import io.lantrel.ledger.Entry;
import io.lantrel.ledger.Figure;
import io.lantrel.ledger.Ledger;
import io.lantrel.ledger.RowsFound;
import io.lantrel.ledger.WithoutJoin;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.stream.Collectors;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Every query that runs has an account, on each engine that runs it. */
public class LedgerOfEveryQueryTest extends OnEveryEngine {

  @DataProvider
  static Object[][] accounts() {
    return new Object[][] {
      {
        "SELECT DISTINCT ON (s.river_id) s.id FROM station s ORDER BY s.river_id, s.id",
        "from 14=14 | distinct 14 merged 3=11"
      },
      {
        "SELECT a.id FROM river a, river b JOIN station s ON s.river_id = a.id WHERE b.id ="
            + " a.flows_into",
        "from 12=12 | join 12 dropped 3 unused 5=9 | join 9 dropped 1 repeated 2 unused 4=10"
      },
      {
        "SELECT a.id FROM river a, river b LEFT JOIN station s ON s.river_id = a.id AND s.id > b.id"
            + " WHERE b.id = a.flows_into",
        "from 12=12 | join 12 repeated 132=144 | join 144 filled 72 repeated 6 unused 2=150 | where"
            + " 150 dropped 139=11"
      },
      {
        "SELECT s.id FROM reading d, station s JOIN sighting g USING (station_id)",
        "from 27=27 | join 27 repeated 351=378 | join 378 dropped 42 repeated 448=784"
      },
      {
        "SELECT s.id FROM station s JOIN river r ON (r.id, 1) = (s.river_id, 1)",
        "from 14=14 | join 14 dropped 1 unused 2=13"
      },
      {
        "SELECT s.id FROM station s JOIN station t ON (t.id, t.capacity) = (s.id, s.capacity)",
        "from 14=14 | join 14=14"
      },
      {
        "SELECT s.id FROM station s QUALIFY ROW_NUMBER() OVER (PARTITION BY s.river_id ORDER BY"
            + " s.id) = 1",
        "from 14=14 | qualify 14 dropped 3=11"
      },
      {
        "SELECT s.id FROM station s ORDER BY s.capacity FETCH FIRST 2 ROWS WITH TIES",
        "from 14=14 | limit 14 cut 12=2"
      },
      {
        "SELECT s.bank, COUNT(*) AS n FROM station s GROUP BY s.bank QUALIFY RANK() OVER (ORDER BY"
            + " COUNT(*) DESC) = 1",
        "from 14=14 | group 14 merged 9=5 | qualify 5 dropped 4=1"
      },
      {
        "SELECT s.id FROM station s JOIN LATERAL (SELECT d.id FROM reading d WHERE d.station_id ="
            + " s.id ORDER BY d.taken_at DESC LIMIT 1) q ON TRUE",
        "from 14=14 | join 14 dropped 2=12"
      },
      {
        "SELECT s.id FROM station s LEFT JOIN LATERAL (SELECT d.id FROM reading d WHERE"
            + " d.station_id = s.id) q ON TRUE",
        "from 14=14 | join 14 filled 2 repeated 14=28"
      },
      {
        "SELECT s.id FROM station s UNION SELECT r.id FROM river r",
        "from 14=14 | union 14 added 12 merged 12=14"
      },
      {
        "SELECT s.id FROM station s UNION ALL SELECT r.id FROM river r UNION ALL SELECT w.id FROM"
            + " warden w",
        "from 14=14 | union 14 added 22=36"
      },
      {
        "SELECT s.river_id FROM station s EXCEPT SELECT r.id FROM river r WHERE r.id < 4",
        "from 14=14 | except 14 merged 3 dropped 3=8"
      },
      {
        "SELECT s.river_id FROM station s INTERSECT SELECT r.id FROM river r WHERE r.id < 4",
        "from 14=14 | intersect 14 merged 3 dropped 8=3"
      },
      {
        "SELECT s.id FROM station s UNION SELECT r.id FROM river r ORDER BY 1 LIMIT 3",
        "from 14=14 | union 14 added 12 merged 12=14 | limit 14 cut 11=3"
      },
      {
        "SELECT s.id FROM station s WHERE s.id < 3 UNION ALL SELECT r.id FROM river r WHERE r.id < 3"
            + " EXCEPT SELECT w.id FROM warden w WHERE w.id = 1",
        "from 2=2 | union 2 added 2=4 | except 4 merged 2 dropped 1=1"
      },
      {"VALUES (1), (2)", "from 2=2"},
      {"SELECT 1 AS one", "from 1=1"},
      {
        "SELECT COUNT(*) AS n FROM station s WHERE s.id > 100",
        "from 14=14 | where 14 dropped 14=0 |" + " group 0 added 1=1"
      },
      {"SELECT s FROM station s", "from 14=14"},
      {"SELECT unnest(ARRAY[1, 2]) AS n FROM station s", "from 14=14 | select 14 repeated 14=28"},
      {
        "WITH a AS (SELECT id FROM river), b AS (SELECT id FROM a WHERE id < 3) SELECT b.id FROM b"
            + " JOIN a ON a.id = b.id",
        "from 2=2 | join 2 unused 10=2"
      },
    };
  }

  private static boolean runs(Study study) {
    return study.inspection().isComplete()
        && study.inspection().refusal().isEmpty()
        && study.findings().stream()
            .noneMatch(
                each -> each.kind() == Kind.DOES_NOT_RUN || each.severity().id().equals("error"));
  }

  @Test(dataProvider = "accounts")
  public void isAccountedForWhereItRuns(String sql, String expected) {
    List<Engine> told = new ArrayList<>();
    all()
        .forEach(
            (engine, lantrel) -> {
              Study study = lantrel.study(sql);
              if (runs(study)) {
                assertThat(words(study.ledger())).as("%s: %s", engine, sql).isEqualTo(expected);
                told.add(engine);
              }
            });
    assertThat(told).as(sql).isNotEmpty();
  }

  private static String words(Ledger ledger) {
    return ledger.entries().stream()
        .map(LedgerOfEveryQueryTest::words)
        .collect(Collectors.joining(" | "));
  }

  private static String words(Entry entry) {
    String changes =
        entry.changes().stream()
            .filter(change -> change.rows() > 0)
            .filter(change -> change.figure().sign() != 0 || entry.kind() == Entry.Kind.JOIN)
            .map(change -> " " + lower(change.figure()) + " " + change.rows())
            .collect(Collectors.joining());
    return lower(entry.kind()) + " " + entry.before() + changes + "=" + entry.after();
  }

  private static String lower(Object word) {
    return word.toString().toLowerCase(Locale.ROOT);
  }

  private static final String UP =
      "WITH RECURSIVE up (id, flows_into, lvl) AS (SELECT r.id, r.flows_into, 0 FROM river r WHERE"
          + " r.id = 5 UNION ALL SELECT r.id, r.flows_into, up.lvl + 1 FROM river r JOIN up ON r.id"
          + " = up.flows_into) SELECT u.id, u.lvl FROM up u";

  private static final String ROUND =
      "WITH RECURSIVE near (id) AS (SELECT s.id FROM station s WHERE s.id = 1 UNION SELECT o.id FROM"
          + " near n JOIN station m ON m.id = n.id JOIN station o ON o.river_id = m.river_id)"
          + " SELECT near.id FROM near";

  @DataProvider
  static Object[][] parts() {
    return new Object[][] {
      {
        UP,
        "up",
        "from 1=1 | level 1 added 1=2 | level 2 added 1=3 | level 3 added 1=4 | level 4 added 1=5 | level 5=5"
      },
      {
        "SELECT q.id FROM (SELECT s.id FROM station s UNION SELECT r.id FROM river r) q",
        "q",
        "from 14=14 | union 14 added 12 merged 12=14"
      },
      {
        "SELECT s.id FROM station s WHERE s.river_id IN (SELECT r.id FROM river r WHERE r.id > 9)",
        "the subquery in WHERE",
        "from 12=12 | where 12 dropped 9=3"
      },
      {
        "SELECT s.id, (SELECT COUNT(*) FROM river r) AS n FROM station s",
        "the subquery in SELECT",
        "from 12=12 | group 12 merged 11=1"
      },
      {
        "SELECT s.id FROM station s WHERE s.id > (SELECT MIN(r.id) FROM river r) AND s.id < (SELECT"
            + " MAX(w.id) FROM warden w WHERE w.id < 5)",
        "subquery 2 in WHERE",
        "from 10=10 | where 10 dropped 6=4 | group 4 merged 3=1"
      },
    };
  }

  @Test(dataProvider = "parts")
  public void soIsEachQueryInIt(String sql, String part, String expected) {
    all()
        .forEach(
            (engine, lantrel) -> {
              Ledger ledger = lantrel.study(sql).ledger();
              Ledger found =
                  ledger.parts().stream()
                      .filter(each -> each.name().equals(part))
                      .findFirst()
                      .orElseThrow();
              assertThat(words(found)).as("%s: %s", engine, sql).isEqualTo(expected);
              assertThat(ledger.untold()).isEmpty();
            });
  }

  /** Rows that a recursion meets again are found, and not taken once more. */
  @Test
  public void whereARecursionStopsIsTold() {
    all()
        .forEach(
            (engine, lantrel) -> {
              if (engine != Engine.H2) {
                Ledger near = lantrel.study(ROUND).ledger().parts().get(0);
                Entry last = near.entries().get(near.entries().size() - 1);
                assertThat(last.words()).as(engine.toString()).isEqualTo("level 2: nothing new");
                assertThat(words(near))
                    .isEqualTo(
                        "from 1=1 | level 1 added 2 merged 1=2 | level 2 added 2 merged 2=2");
                assertThat(again(near))
                    .as(engine.toString())
                    .containsExactly("they were found before: 1", "they were found before: 1, 2");
              }
            });
  }

  /** The rows that the levels of a recursion find once more. */
  private static List<String> again(Ledger recursion) {
    return recursion.entries().stream()
        .flatMap(entry -> entry.changes().stream())
        .filter(change -> change.figure() == Figure.MERGED)
        .map(
            change ->
                change.causes().get(0).reason()
                    + ": "
                    + String.join(
                        ", ",
                        change.causes().get(0).examples().stream()
                            .map(row -> String.join(" ", row.values()))
                            .toList()))
        .toList();
  }

  @DataProvider
  static Object[][] outside() {
    String of = "FROM reading d WHERE d.station_id = s.id";
    return new Object[][] {
      {"SELECT s.id FROM station s WHERE EXISTS (SELECT 1 " + of + ")", "14: 2 4 8 of 26"},
      {"SELECT s.id FROM station s WHERE NOT EXISTS (SELECT 1 " + of + ")", "14: 2 4 8 of 26"},
      {
        "SELECT s.id, (SELECT MAX(d.temperature) " + of + ") AS t FROM station s WHERE s.id < 8",
        "7: 1 1 5 of 14"
      },
      {
        "SELECT s.id FROM station s JOIN river r ON r.id = s.river_id WHERE 8 < (SELECT"
            + " MAX(d.temperature) "
            + of
            + " AND d.temperature > r.id)",
        "13: 3 3 7 of 19"
      },
    };
  }

  @Test(dataProvider = "outside")
  public void whatASubqueryFindsForTheRowsOutsideIsCounted(String sql, String expected) {
    for (Map.Entry<Engine, Lantrel> each : all().entrySet()) {
      RowsFound found = each.getValue().study(sql).ledger().found().get(0);
      String words =
          found.outside()
              + ": "
              + found.none()
              + " "
              + found.one()
              + " "
              + found.several()
              + " of "
              + found.found();
      assertThat(words).as("%s: %s", each.getKey(), sql).isEqualTo(expected);
    }
  }

  /** What LATERAL makes falls away with a join only if it is made of that join's columns. */
  @Test
  public void onlyWhatIsMadeOfAJoinFallsAwayWithIt() {
    String sql =
        "SELECT s.id FROM station s LEFT JOIN river r ON r.id = s.river_id JOIN LATERAL (SELECT d.id"
            + " FROM reading d WHERE d.station_id = s.id) q ON TRUE";
    for (Engine engine : List.of(Engine.DUCKDB, Engine.POSTGRESQL)) {
      Lantrel lantrel = at(engine);
      WithoutJoin apart = lantrel.study(sql).without(2);
      assertThat(apart.along()).isEmpty();
      assertThat(apart.other()).isEqualTo(apart.rows()).isEqualTo(26);
      WithoutJoin joined =
          lantrel.study(sql.replace("d.station_id = s.id", "d.id = r.id")).without(2);
      assertThat(joined.along()).containsExactly("JOIN q");
      assertThat(joined.other()).isEqualTo(14);
    }
  }

  @DataProvider
  static Object[][] untold() {
    return new Object[][] {
      {"SELECT s FROM station s", "it uses a row of a table as one value"},
      {
        "SELECT s.id FROM station s JOIN river r ON EXISTS (SELECT 1 FROM reading d WHERE"
            + " d.station_id = s.id AND d.id = r.id)",
        "the subquery in ON is looked at for each row"
      },
      {
        "SELECT s.id FROM station s WHERE EXISTS (SELECT 1 FROM reading d WHERE d.station_id = s.id"
            + " UNION SELECT 2 FROM river r WHERE r.id = s.id)",
        "the subquery in WHERE is looked at for each row"
      },
    };
  }

  @Test(dataProvider = "untold")
  public void whatHasNoAccountSaysWhy(String sql, String expected) {
    List<Engine> told = new ArrayList<>();
    all()
        .forEach(
            (engine, lantrel) -> {
              Study study = lantrel.study(sql);
              if (runs(study)) {
                assertThat(study.ledger().untold()).as("%s: %s", engine, sql).hasSize(1);
                assertThat(study.ledger().untold().get(0)).contains(expected);
                told.add(engine);
              }
            });
    assertThat(told).isNotEmpty();
  }
}
