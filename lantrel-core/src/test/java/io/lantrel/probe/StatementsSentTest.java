package io.lantrel.probe;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.RiverWatchFolder;
import io.lantrel.Study;
import io.lantrel.catalog.Constraint;
import io.lantrel.catalog.Reference;
import io.lantrel.draft.Draft;
import io.lantrel.draft.Drafter;
import io.lantrel.draft.Wish;
import io.lantrel.engine.Database;
import io.lantrel.engine.Engine;
import io.lantrel.engine.Limits;
import io.lantrel.engine.LiveDatabase;
import io.lantrel.engine.SampleData;
import io.lantrel.hierarchy.HierarchyWish;
import io.lantrel.hierarchy.asked.BetweenRows;
import io.lantrel.hierarchy.asked.HierarchyMaker;
import io.lantrel.ledger.Naming;
import io.lantrel.ledger.RowShare;
import io.lantrel.sample.SampleWish;
import io.lantrel.sample.asked.RowsOfQueries;
import io.lantrel.sample.asked.SampleMaker;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.survey.SurveyWish;
import io.lantrel.survey.Surveyor;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Set;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.testng.annotations.AfterClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** What an answer costs: an engine that takes a third of a second for any statement must do. */
public class StatementsSentTest {

  private static final String ONE =
      "SELECT s.name FROM station s LEFT JOIN river r ON r.id = s.river_id";

  private static final String FIVE =
      "SELECT d.id, s.name, r.name, w.given_name, b.label FROM reading d"
          + " LEFT JOIN station s ON s.id = d.station_id"
          + " LEFT JOIN river r ON r.id = s.river_id"
          + " LEFT JOIN warden w ON w.id = s.keeper_id"
          + " LEFT JOIN bank_kind b ON b.code = s.bank"
          + " LEFT JOIN river f ON f.id = r.flows_into";

  private final Lantrel lantrel = Lantrel.open(RiverWatchFolder.data());

  @AfterClass
  void close() {
    lantrel.close();
  }

  private static String downstream(String kind, int joins) {
    return "SELECT s.name FROM station s "
        + kind
        + " river r1 ON r1.id = s.river_id "
        + IntStream.rangeClosed(2, joins)
            .mapToObj(
                i -> kind + " river r" + i + " ON r" + i + ".id = r" + (i - 1) + ".flows_into")
            .collect(Collectors.joining(" "));
  }

  /** A query, how many findings it has, and how many statements check and ledger send at most. */
  @DataProvider
  static Object[][] prices() {
    return new Object[][] {
      {ONE, 1, 3, 3},
      {ONE + " WHERE r.flow > 0", 1, 4, 3},
      {FIVE, 2, 3, 3},
      {FIVE + " WHERE f.flow > 0", 2, 4, 3},
      {FIVE.replace("LEFT JOIN", "JOIN"), 6, 4, 3},
      {downstream("LEFT JOIN", 20), 1, 3, 5},
      {downstream("LEFT JOIN", 20) + " WHERE r20.flow > 0", 1, 4, 5},
      {downstream("JOIN", 20), 5, 4, 4},
      {
        "SELECT r.name, SUM(s.capacity) AS c, COUNT(*) AS n FROM river r JOIN station s ON"
            + " s.river_id = r.id JOIN reading d ON d.station_id = s.id GROUP BY r.name",
        3,
        4,
        5
      },
      // Totals of several tables, what HAVING drops, ties, days: in the rounds of the others.
      {
        "SELECT r.id, SUM(s.capacity * r.length_km) AS c, SUM(d.depth_cm + s.capacity) AS e FROM"
            + " river r LEFT JOIN station s ON s.river_id = r.id LEFT JOIN reading d ON d.station_id"
            + " = s.id GROUP BY r.id HAVING SUM(s.capacity) < 900",
        3,
        4,
        5
      },
      {
        "SELECT d.id, ROW_NUMBER() OVER (PARTITION BY d.station_id ORDER BY d.depth_cm > 0) AS n FROM"
            + " reading d WHERE d.taken_at BETWEEN DATE '2026-03-01' AND DATE '2026-06-14'",
        2,
        4,
        2
      },
      // What is empty: in the rounds of the others, and one more for the values that there are.
      {"SELECT s.name FROM station s WHERE s.name = 'Mill Wier'", 1, 3, 2},
      {
        "SELECT q.name FROM (SELECT s.name FROM station s WHERE s.bank = 'X') q UNION ALL SELECT"
            + " r.name FROM river r WHERE r.id IN (SELECT t.river_id FROM station t)",
        1,
        3,
        3
      },
      // Texts that are not written alike: constants, groups, parts of subqueries in one question.
      {
        "SELECT w.given_name FROM warden w WHERE w.family_name = 'merrow' AND w.given_name <> 'x'"
            + " AND w.family_name NOT IN ('A', 'B')",
        1,
        4,
        2
      },
      {
        "SELECT s.side, s.name, COUNT(*) AS n, COUNT(DISTINCT s.name) AS names FROM (SELECT name,"
            + " CASE WHEN id < 4 THEN LOWER(bank) ELSE bank END AS side FROM station) s GROUP BY"
            + " s.side, s.name",
        1,
        4,
        1
      },
      {
        "SELECT w.given_name FROM warden w WHERE w.family_name IN (SELECT x.family_name FROM warden x"
            + " WHERE x.id > 3) AND w.given_name <> 'zed'",
        0,
        2,
        3
      },
      // What a heading names, months of years, each of a list: in one question with the others.
      {
        "SELECT EXTRACT(MONTH FROM d.taken_at) AS m, COUNT(d.temperature) AS readings FROM reading d"
            + " WHERE d.station_id IN (1, 2) GROUP BY EXTRACT(MONTH FROM d.taken_at) HAVING COUNT(*)"
            + " = 2",
        1,
        3,
        2
      },
      // The greatest values of a group, which several of its rows have.
      {
        "SELECT d.station_id, MAX(d.taken_at) AS last_at, MAX(d.depth_cm) AS last_depth, MIN(d.temperature)"
            + " AS last_warmth FROM reading d GROUP BY d.station_id",
        1,
        2,
        1
      },
      // Units, sums of nothing, the first of several rows, conditions behind an equality.
      {
        "SELECT q.river_id, SUM(q.amount) AS total FROM (SELECT s.river_id, s.capacity AS amount, s.bank"
            + " AS unit FROM station s) q GROUP BY q.river_id",
        1,
        2,
        1
      },
      {
        "SELECT s.name, s.capacity - (SELECT SUM(g.head_count) FROM sighting g WHERE g.station_id ="
            + " s.id) AS room FROM station s WHERE (SELECT SUM(h.head_count) FROM sighting h WHERE"
            + " h.station_id = s.id) < 50",
        1,
        3,
        3
      },
      {
        "SELECT DISTINCT ON (d.station_id) d.station_id, d.taken_at AS last_on, d.depth_cm FROM reading"
            + " d ORDER BY d.station_id, d.taken_at",
        1,
        3,
        2
      },
      {
        "SELECT r.name FROM river r JOIN station s ON s.river_id = r.id AND s.capacity > 900 WHERE r.id"
            + " = 1",
        1,
        3,
        4
      },
      // Keys and parts of keys: a right query is asked nothing, a wrong one in the rounds of
      // others.
      {
        "SELECT d.station_id, COUNT(d.id) AS n FROM station s LEFT JOIN reading d ON d.station_id = s.id"
            + " GROUP BY d.station_id",
        1,
        4,
        3
      },
      {
        "SELECT s.id, COUNT(d.id) AS n FROM station s LEFT JOIN reading d ON d.station_id = s.id"
            + " GROUP BY s.id",
        0,
        2,
        3
      },
      {
        "SELECT s.name FROM station s WHERE s.capacity IN (SELECT MAX(x.capacity) FROM station x"
            + " GROUP BY x.river_id)",
        1,
        3,
        3
      },
      {
        "SELECT s.name, k.label FROM (SELECT id, name, CASE WHEN id < 4 THEN LOWER(bank) ELSE bank END"
            + " AS side FROM station) s LEFT JOIN bank_kind k ON k.code = s.side",
        1,
        4,
        3
      },
      {"SELECT r.name FROM river r WHERE r.flows_into <> 6 AND r.length_km > 90", 1, 3, 2},
      {"SELECT AVG(DISTINCT s.capacity) AS usual FROM station s", 1, 3, 1},
      {
        "SELECT AVG(q.m) AS usual FROM (SELECT d.station_id, AVG(d.depth_cm) AS m FROM reading d GROUP BY"
            + " d.station_id) q",
        1,
        2,
        1
      },
      {
        "SELECT LAG(g.head_count) OVER (PARTITION BY g.station_id ORDER BY g.seen_on) AS was FROM"
            + " sighting g",
        1,
        3,
        1
      },
      {
        "SELECT g.seen_on, COUNT(DISTINCT g.species_id) AS sightings FROM sighting g GROUP BY"
            + " g.seen_on",
        1,
        2,
        1
      },
      {ONE + " AND r.flow > 100000", 2, 4, 4},
      {
        "SELECT s.name, COUNT(*) AS n FROM station s GROUP BY s.name HAVING COUNT(*) > 1000",
        1,
        2,
        2
      },
      // The next row by key, every row a start, a total that several share.
      {
        "SELECT a.name, b.name AS next FROM station a JOIN station b ON b.keeper_id = a.keeper_id AND"
            + " b.id = a.id + 1",
        1,
        2,
        4
      },
      {
        "WITH RECURSIVE t (id, level) AS (SELECT id, 1 FROM river UNION ALL SELECT r.id, t.level + 1"
            + " FROM t JOIN river r ON r.flows_into = t.id) SELECT id, level FROM t",
        1,
        6,
        7
      },
      {
        "SELECT s.id, s.capacity - q.n AS rest FROM station s JOIN (SELECT river_id, SUM(capacity)"
            + " AS n FROM station GROUP BY river_id) q ON q.river_id = s.river_id",
        2,
        4,
        3
      },
      {
        "SELECT s.name, q.id FROM station s CROSS JOIN LATERAL (SELECT d.id FROM reading d WHERE"
            + " d.station_id = s.id ORDER BY d.id LIMIT 1) q",
        1,
        4,
        2
      },
      // What a total is of, what is left out of a key or a CASE: in the rounds of the others.
      {
        "SELECT s.name, CASE WHEN s.capacity < 6 THEN 'small' WHEN s.capacity > 6 THEN "
            + "'large' END AS size FROM station s",
        1,
        2,
        1
      },
      {
        "SELECT d.id, g.species_id, g.head_count FROM reading d JOIN sighting g ON "
            + "g.station_id = d.station_id",
        1,
        2,
        4
      },
      {"SELECT SUM(d.depth_cm) / COUNT(*) AS mean FROM reading d", 1, 3, 1},
      {"SELECT AVG(d.depth_cm) AS mean_per_station FROM reading d", 1, 2, 1},
      {
        "SELECT SUM(d.depth_cm * g.head_count) AS product FROM reading d JOIN sighting g "
            + "ON g.station_id = d.station_id WHERE g.species_id = 2",
        1,
        2,
        4
      },
      {
        "SELECT g.station_id, g.seen_on, SUM(d.depth_cm) AS depths FROM sighting g JOIN "
            + "reading d ON d.station_id = g.station_id WHERE g.species_id = 2 GROUP BY "
            + "g.station_id, g.seen_on",
        1,
        2,
        4
      },
      {
        "SELECT s.id, COUNT(g.seen_on) - q.n AS more FROM station s LEFT JOIN sighting g "
            + "ON g.station_id = s.id LEFT JOIN (SELECT d.station_id, COUNT(*) AS n FROM "
            + "reading d GROUP BY d.station_id) q ON q.station_id = s.id GROUP BY s.id, q.n",
        1,
        3,
        4
      },
      // Equal names among pairs, groups of a few: in the rounds of the others.
      {
        "SELECT a.family_name, b.family_name AS other FROM warden a JOIN warden b ON a.family_name <"
            + " b.family_name",
        1,
        3,
        4
      },
      {
        "SELECT s.name FROM station s JOIN reading d ON d.station_id = s.id GROUP BY s.id, s.name"
            + " HAVING COUNT(*) < 3",
        1,
        4,
        3
      },
      // One row of all joined, one line of several that passes, counts of different values added.
      {
        "SELECT s.name, x.depth_cm FROM station s LEFT JOIN (SELECT d.station_id, d.depth_cm FROM"
            + " reading d ORDER BY d.taken_at DESC, d.id LIMIT 1) x ON x.station_id = s.id",
        1,
        2,
        2
      },
      {
        "SELECT DISTINCT s.id FROM station s LEFT JOIN sighting g ON g.station_id = s.id WHERE"
            + " g.species_id IS NULL OR g.species_id <> 4",
        2,
        2,
        3
      },
      {
        "SELECT SUM(q.n) AS species FROM (SELECT g.station_id, COUNT(DISTINCT g.species_id) AS n"
            + " FROM sighting g GROUP BY g.station_id) q",
        1,
        2,
        1
      },
    };
  }

  @Test(dataProvider = "prices")
  public void areFew(String sql, int findings, int check, int ledger) {
    Study checked = lantrel.study(sql);
    assertThat(checked.inspection().isComplete()).as(sql).isTrue();
    long sent = checked.statementsSent();
    Study accounted = lantrel.study(sql);
    accounted.ledger();
    assertThat(List.of((long) checked.findings().size(), sent, accounted.statementsSent()))
        .as(sql)
        .isEqualTo(List.of((long) findings, (long) check, (long) ledger));
  }

  /**
   * Rows that are looked at: the query, a count if not all are here; one statement for all steps.
   */
  @Test
  public void rowsCostLittleMoreThanTheQuery() {
    Study whole = lantrel.study(ONE);
    assertThat(whole.rows(100).count()).isEqualTo(whole.rows(100).rows().size());
    assertThat(whole.statementsSent()).isEqualTo(2);
    Study cut = lantrel.study(ONE);
    cut.rows(3);
    assertThat(cut.statementsSent()).isEqualTo(2);
    Study accounted = lantrel.study(FIVE);
    accounted.ledger(0);
    Study stepped = lantrel.study(FIVE);
    assertThat(stepped.steps(3)).hasSize(6);
    assertThat(stepped.statementsSent()).isEqualTo(accounted.statementsSent() + 1);
    Study one = lantrel.study(FIVE);
    assertThat(one.step(4, 3)).isEqualTo(stepped.steps(3).get(3));
  }

  /** A part of the rows: how many there are, then rounds as for all of them. */
  @DataProvider
  static Object[][] parts() {
    return new Object[][] {
      {"SELECT s.name FROM station s", 2},
      {ONE, 3},
      {FIVE + " WHERE f.flow > 0", 3},
      {"SELECT r.id FROM river r JOIN station s ON s.river_id = r.id WHERE s.capacity > 4", 4},
      {downstream("JOIN", 20) + " WHERE r20.flow > 0", 3},
    };
  }

  @Test(dataProvider = "parts")
  public void aPartOfTheRowsCostsFewStatements(String sql, long statements) {
    Study study = lantrel.study(sql);
    assertThat(study.ledgerAbout(RowShare.percent(60), Naming.some(3)).isWhole()).isFalse();
    assertThat(study.statementsSent()).as(sql).isEqualTo(statements);
  }

  /** A row of a result: the query, and one statement for each block that is gone into. */
  @Test
  public void aTracedRowCostsAStatementForEachBlock() {
    Study plain = lantrel.study(ONE);
    assertThat(plain.trace(1, 5).sources()).hasSize(2);
    assertThat(plain.statementsSent()).isEqualTo(2);
    Study within =
        lantrel.study(
            "SELECT q.station_id, q.n FROM (SELECT d.station_id, COUNT(*) AS n FROM reading d GROUP BY"
                + " d.station_id) q JOIN station s ON s.id = q.station_id");
    assertThat(within.trace(1, 5).sources()).hasSize(2);
    assertThat(within.statementsSent()).isEqualTo(3);
  }

  /** Why an outer join found nothing costs none where a value is NULL, else one for each join. */
  @Test
  public void soDoesEachJoinThatFoundNothing() {
    Study empty = lantrel.study(ONE + " ORDER BY s.river_id NULLS FIRST");
    assertThat(empty.trace(1, 5).sentences()).anyMatch(each -> each.contains("s.river_id is NULL"));
    assertThat(empty.statementsSent()).isEqualTo(2);
    for (int joins : List.of(1, 2, 6)) {
      Study study =
          lantrel.study(
              "SELECT s.name FROM station s "
                  + IntStream.rangeClosed(1, joins)
                      .mapToObj(
                          i ->
                              String.format(
                                  "LEFT JOIN river r%1$d ON r%1$d.id = s.river_id AND"
                                      + " r%1$d.flow > 1000",
                                  i))
                      .collect(Collectors.joining(" ")));
      assertThat(study.trace(1, 5).sources()).hasSize(1 + joins);
      assertThat(study.statementsSent()).isEqualTo(2 + Math.min(4, joins));
    }
  }

  /** What a subquery found for it is one more, for each; ten are there, and eight looked at. */
  @Test
  public void soDoesEachSubqueryOfATracedRow() {
    String exists = "EXISTS (SELECT 1 FROM reading d WHERE d.station_id = s.id)";
    for (int subqueries : List.of(1, 2, 10)) {
      Study study =
          lantrel.study(
              ONE + " WHERE " + String.join(" AND ", Collections.nCopies(subqueries, exists)));
      assertThat(study.trace(1, 5).sources()).hasSize(2 + Math.min(8, subqueries));
      assertThat(study.statementsSent()).isEqualTo(2 + Math.min(8, subqueries));
    }
  }

  /** A UNION is one for each of its parts: three subqueries of three parts are more than eight. */
  @Test
  public void theirStatementsAreBoundedTogether() {
    String some = "SELECT d.id FROM reading d WHERE d.station_id = s.id";
    String exists = "EXISTS (" + String.join(" UNION ", some, some, some) + ")";
    Study study = lantrel.study(ONE + " WHERE " + String.join(" AND ", exists, exists, exists));
    assertThat(study.trace(1, 5).sentences())
        .contains("Of the subqueries only the first 2 were gone into.");
    assertThat(study.statementsSent()).isEqualTo(2 + 6);
  }

  /** A row of a table, which query, and how many statements tell what became of it. */
  @DataProvider
  static Object[][] followed() {
    String inner = ONE.replace("LEFT JOIN", "JOIN");
    return new Object[][] {
      // Which row, the counts of the steps, the result.
      {ONE, "station where id = 14", 3},
      // Which row, the counts, why.
      {inner, "station where id = 14", 3},
      {inner + " WHERE r.flow > 1000", "station where id = 4", 4},
      // The partner that is near is one more.
      {inner + " AND r.flow > 1000", "station where id = 4", 5},
      {FIVE.replace("LEFT JOIN", "JOIN"), "reading where id = 10", 3},
      {ONE + " ORDER BY s.id LIMIT 2", "station where id = 4", 4},
      {"SELECT q.name FROM (" + ONE + ") q", "station where id = 4", 4},
      {ONE, "station where id = 99", 1},
      // What the subquery of a condition gives is one more.
      {
        inner + " WHERE r.flow > (SELECT 1000 + MAX(x.flow) FROM river x)",
        "station where id = 4",
        5
      },
    };
  }

  @Test(dataProvider = "followed")
  public void aFollowedRowCostsFew(String sql, String row, int statements) {
    Study study = lantrel.study(sql);
    assertThat(study.missing(row, 1)).hasSize(1);
    assertThat(study.statementsSent()).as(sql).isEqualTo(statements);
  }

  /** Queries of every sort, and how many statements their account takes. */
  @DataProvider
  static Object[][] accounts() {
    String station = "SELECT s.id FROM station s";
    String river = "SELECT r.id FROM river r";
    String up =
        "WITH RECURSIVE up AS (SELECT r.id, r.flows_into FROM river r WHERE r.id = 5 UNION SELECT"
            + " r.id, r.flows_into FROM river r JOIN up ON r.id = up.flows_into) SELECT up.id FROM up";
    String readings = "(SELECT 1 FROM reading d WHERE d.station_id = s.id)";
    return new Object[][] {
      // The second names the rows that are merged and taken away.
      {station + " UNION " + river, 2},
      {station + " UNION ALL " + river, 1},
      {station + " UNION ALL " + river + " EXCEPT SELECT w.id FROM warden w", 2},
      {up, 5},
      {up.replace("UNION", "UNION ALL"), 5},
      {station + " WHERE EXISTS " + readings, 3},
      {station + " WHERE s.river_id > 3", 2},
      {station + " WHERE s.river_id NOT IN (SELECT r.flows_into FROM river r)", 3},
      {
        station + " JOIN LATERAL (SELECT d.id FROM reading d WHERE d.station_id = s.id) q ON TRUE",
        3
      },
      {"SELECT DISTINCT ON (s.bank) s.id FROM station s", 2},
      {
        "SELECT s.bank, COUNT(*) AS n FROM station s GROUP BY s.bank HAVING COUNT(*) > 2 ORDER BY n"
            + " LIMIT 1",
        2
      },
      {"SELECT 1 AS one", 1},
      {"VALUES (1), (2)", 1},
    };
  }

  @Test(dataProvider = "accounts")
  public void anAccountOfAnySortCostsFew(String sql, int statements) {
    Study study = lantrel.study(sql);
    assertThat(study.ledger().untold()).isEmpty();
    assertThat(study.statementsSent()).as(sql).isEqualTo(statements);
  }

  /** The account, and all changed queries in one statement; what joins give in another one. */
  @Test
  public void otherJoinsCostAStatementMore() {
    String sql = FIVE.replace("LEFT JOIN", "JOIN");
    Study account = lantrel.study(sql);
    assertThat(account.ledger().entries()).hasSize(6);
    Study others = lantrel.study(sql);
    assertThat(others.otherJoins(JoinKind.LEFT, 0, Naming.some(3))).hasSize(5);
    assertThat(others.statementsSent()).isEqualTo(account.statementsSent() + 1);
    Study without = lantrel.study(sql);
    assertThat(without.without(3).step()).isEqualTo(3);
    assertThat(without.statementsSent()).isEqualTo(1);
  }

  /** Whether there is such a row, at which number, and what became of those behind it. */
  @Test
  public void expectedValuesCostTwoStatementsMore() {
    Study rows = lantrel.study(ONE);
    assertThat(rows.missing("station where name = 'Spare Float'", 1)).hasSize(1);
    Study values = lantrel.study(ONE + " WHERE r.id > 0");
    assertThat(values.missing("name = 'Spare Float'", 1)).hasSize(1);
    assertThat(values.statementsSent()).isEqualTo(rows.statementsSent() + 3);
  }

  /** References that somebody gives are looked at in one go. */
  @Test
  public void referencesThatAreGivenCostOneStatement() {
    SampleData data = SampleData.load(RiverWatchFolder.data(), Engine.DUCKDB, Limits.usual());
    try (Database database = data.database()) {
      List<Constraint> given = data.catalog().references().stream().map(Constraint::of).toList();
      long before = database.statementsSent();
      assertThat(new HeldConstraints().broken(given, database)).isNotEmpty();
      assertThat(database.statementsSent() - before).isEqualTo(1);
    }
  }

  /** Other engines are not asked, and where columns come from is read off the tree. */
  @Test
  public void whatIsKnownOfOtherEnginesCostsNothing() {
    Study usual = lantrel.study(ONE + " ORDER BY s.bank");
    assertThat(usual.findings()).isNotNull();
    try (Lantrel other = Lantrel.open(RiverWatchFolder.data())) {
      Study also = other.alsoOn(Set.of(Engine.MARIADB)).study(ONE + " ORDER BY s.bank");
      assertThat(also.findings()).hasSize(usual.findings().size() + 1);
      assertThat(also.statementsSent()).isEqualTo(usual.statementsSent());
      Study origins = other.study(ONE);
      assertThat(origins.origins()).hasSize(1);
      assertThat(origins.statementsSent()).isZero();
    }
  }

  /** All tables are looked at, whichever are shown; values are two more for each table. */
  @Test
  public void aSurveyCostsSoManyStatements() {
    SampleData data = SampleData.load(RiverWatchFolder.data(), Engine.DUCKDB, Limits.usual());
    try (Database database = data.database()) {
      SurveyWish few = SurveyWish.all().only(each -> each.name().startsWith("st"));
      List<Long> sent = new ArrayList<>();
      for (SurveyWish wish : List.of(SurveyWish.all(), few, few.withValues())) {
        long before = database.statementsSent();
        new Surveyor(data.catalog(), database, wish, doing -> {}).survey();
        sent.add(database.statementsSent() - before);
      }
      assertThat(sent).isEqualTo(List.of(29L, 18L, 20L));
    }
  }

  /** The survey (29), and rounds that ask for all columns and references of a table at once. */
  @Test
  public void aSampleCostsSoManyStatements() {
    SampleData data = SampleData.load(RiverWatchFolder.data(), Engine.DUCKDB, Limits.usual());
    try (Database database = data.database()) {
      SampleWish wish = SampleWish.usual().ofRows(40);
      long before = database.statementsSent();
      new SampleMaker(data.catalog(), database, wish, doing -> {})
          .make(new RowsOfQueries(Set.of(), List.of(), List.of(), List.of(), List.of()));
      assertThat(database.statementsSent() - before).isEqualTo(66);
    }
  }

  /** What a draft promises costs no more than to verify claims in its text. */
  @Test
  public void promisesCostWhatClaimsCost() {
    Draft draft = lantrel.drafts(Wish.show("station.name", "river.name")).get(0);
    Study study = lantrel.study(draft.sql());
    study.verify(draft.claims().toArray(String[]::new)).assertMet();
    assertThat(study.statementsSent()).isEqualTo(2);
  }

  private static final String SHIPS =
      "CREATE TABLE port (id INTEGER PRIMARY KEY, name VARCHAR(9));"
          + "CREATE TABLE ship (id INTEGER PRIMARY KEY, name VARCHAR(9), home_id INTEGER NOT NULL"
          + " REFERENCES port (id), yard_id INTEGER NOT NULL REFERENCES port (id));"
          + "CREATE TABLE call (id INTEGER PRIMARY KEY, ship_id INTEGER NOT NULL REFERENCES ship"
          + " (id))";

  /** A wish, how many drafts it has, and what they cost a database that lives. */
  @DataProvider
  static Object[][] drafts() {
    Wish keepers = Wish.show("station.name", "keeper.family_name");
    return new Object[][] {
      {keepers, 1, 0},
      // each reading is of a station: so it is promised, and that is looked at once
      {Wish.show("reading.id", "station.name"), 1, 1},
      {Wish.show("reading.id", "station.name", "keeper.family_name"), 1, 1},
      {Wish.show("river.name", "count of sighting"), 1, 0},
      {Wish.show("sighting.seen_on", "species.name", "station.name", "bank_kind.label"), 1, 1},
      // two ways, looked at together; and item by item
      {Wish.show("call.id", "ship.name", "port.name"), 2, 1},
      {Wish.show("ship.name", "port.name").continuing("SELECT c.id FROM call c"), 2, 2},
      {
        Wish.show("station.name", "station.bank", "river.name")
            .continuing("SELECT d.id FROM reading d"),
        1,
        1
      },
    };
  }

  @Test(dataProvider = "drafts")
  public void eachReferenceOfADraftIsLookedAtOnce(Wish wish, int drafts, long statements)
      throws SQLException {
    try (Connection connection = DriverManager.getConnection("jdbc:h2:mem:")) {
      try (Statement statement = connection.createStatement()) {
        statement.execute("RUNSCRIPT FROM '" + RiverWatchFolder.data() + "/schema.sql'");
        statement.execute(SHIPS);
      }
      LiveDatabase live = LiveDatabase.lent(connection, Limits.usual());
      try (Database database = live.database()) {
        long before = database.statementsSent();
        UnaryOperator<List<Reference>> kept = new KeptReferences(new HeldConstraints(), database);
        assertThat(new Drafter(live.catalog(), kept).drafts(wish)).hasSize(drafts);
        assertThat(database.statementsSent() - before).as(wish.toString()).isEqualTo(statements);
      }
    }
  }

  /** All of it: rows, levels, rows. The upper levels: what lies below as well. */
  @Test
  public void aHierarchyCostsFew() {
    SampleData data = SampleData.load(RiverWatchFolder.data(), Engine.DUCKDB, Limits.usual());
    try (Database database = data.database()) {
      long before = database.statementsSent();
      HierarchyMaker.make(database, data.catalog(), HierarchyWish.of("river"));
      long whole = database.statementsSent();
      HierarchyMaker.make(database, data.catalog(), HierarchyWish.of("river").showing(1, 9));
      assertThat(List.of(whole - before, database.statementsSent() - whole))
          .isEqualTo(List.of(2L, 3L));
      long known = database.statementsSent();
      BetweenRows.of(database, data.catalog(), HierarchyWish.of("river"), "4", "8");
      assertThat(database.statementsSent() - known).isEqualTo(1);
    }
  }

  /** Whether it is taken, how many rows there are, and in the part; its claims, and the rows. */
  @Test
  public void aPartOfTheRowsIsVerifiedInFewStatements() {
    Study study = lantrel.study("SELECT d.id, d.depth_cm FROM reading d WHERE d.id > 0");
    study.verifyAbout(RowShare.percent(40), "no null in depth_cm", "at most 2 rows", "no rows");
    assertThat(study.statementsSent()).isEqualTo(5);
    Study proven = lantrel.study("SELECT d.id FROM reading d WHERE d.id > 0");
    proven.verifyAbout(RowShare.percent(40), "one row per id");
    assertThat(proven.statementsSent()).isEqualTo(2);
  }

  /** What one bad question costs: only its own answer. */
  @Test
  public void aBadQuestionCostsOnlyItself() {
    Study study =
        lantrel.study(
            "SELECT CAST(s.name AS INTEGER) AS n FROM station s JOIN river r ON r.id = s.river_id");
    assertThat(study.findings())
        .extracting(finding -> finding.kind().id())
        .containsExactly("does-not-run", "rows-without-partner");
    assertThat(study.statementsSent()).isEqualTo(13);
  }

  /** Whether a recursion ends is one statement more, and only where that is not sure anyway. */
  @Test
  public void whetherARecursionEndsCostsOneStatement() {
    String walk =
        "WITH RECURSIVE t AS (SELECT r.id, r.flows_into FROM river r WHERE %s UNION ALL SELECT"
            + " r.id, r.flows_into FROM river r JOIN t ON %s) SELECT t.id FROM t";
    Study up = lantrel.study(String.format(walk, "r.id = 5", "r.id = t.flows_into"));
    Study down = lantrel.study(String.format(walk, "r.flows_into IS NULL", "r.flows_into = t.id"));
    assertThat(up.findings()).isEmpty();
    assertThat(down.findings()).isEmpty();
    assertThat(up.statementsSent()).isEqualTo(down.statementsSent() + 1);
  }

  /** What the database does not take is only planned, and nothing that resembles it is tried. */
  @Test
  public void aRefusedQueryCostsOneStatement() {
    Study study = lantrel.study("SELECT lower(s.id, 1) AS n FROM station s, river r");
    assertThat(study.inspection().refusal()).isPresent();
    assertThat(study.findings())
        .extracting(finding -> finding.kind().id())
        .containsExactly("cross-product");
    assertThat(study.statementsSent()).isEqualTo(1);
  }
}
