package io.lantrel.engine;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.Study;
import io.lantrel.compare.CompareOptions;
import io.lantrel.compare.Comparison;
import io.lantrel.compare.Verdict;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.stream.Collectors;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Results put together at random, compared on all engines, within one and across two. */
public class CompareTest extends OnEveryEngine {

  /** How many pairs an engine gets; {@code -Dlantrel.pairs=2000} at full size. */
  private static final int PAIRS = Integer.getInteger("lantrel.pairs", 40);

  /** HSQLDB and MariaDB take 'a' and 'a ' for equal in EXCEPT, which comparing does not. */
  private static final Set<Engine> EXCEPT_ALL =
      Set.of(Engine.DUCKDB, Engine.POSTGRESQL, Engine.HSQLDB, Engine.MARIADB);

  private static final List<List<String>> VALUES =
      List.of(
          List.of("1", "2", "CAST(NULL AS %INT)", "-7", "2000000000"),
          List.of("'a'", "'A'", "'a '", "''", "CAST(NULL AS %TEXT)", "'ä'", "'NULL'"),
          List.of("1.50", "-0.25", "CAST(NULL AS DECIMAL(8, 2))", "0.00", "99999.99"),
          List.of("'2024-02-29'", "'1999-12-31'", "NULL"));

  /** Rows as positions in {@link #VALUES}. */
  private record Bag(List<List<Integer>> rows) {

    static Bag random(Random random) {
      List<List<Integer>> rows = new ArrayList<>();
      int size = random.nextInt(7);
      for (int i = 0; i < size; i++) {
        rows.add(VALUES.stream().map(values -> random.nextInt(values.size())).toList());
        if (random.nextInt(3) == 0) {
          rows.add(rows.get(random.nextInt(rows.size())));
        }
      }
      return new Bag(rows);
    }

    /** Another one that is close to it. */
    Bag changed(Random random) {
      List<List<Integer>> other = new ArrayList<>(rows);
      Collections.shuffle(other, random);
      if (!other.isEmpty() && random.nextInt(3) > 0) {
        int at = random.nextInt(other.size());
        switch (random.nextInt(3)) {
          case 0 -> other.remove(at);
          case 1 -> other.add(other.get(at));
          default -> {
            List<Integer> row = new ArrayList<>(other.get(at));
            int column = random.nextInt(row.size());
            row.set(column, (row.get(column) + 1) % VALUES.get(column).size());
            other.set(at, row);
          }
        }
      }
      return new Bag(other);
    }

    String sql(Engine engine) {
      String start = "SELECT * FROM (" + row(engine, zeros()) + " AND 1 = 0";
      return rows.stream()
          .map(row -> " UNION ALL " + row(engine, row))
          .collect(Collectors.joining("", start, ") AS t"));
    }

    private static List<Integer> zeros() {
      return VALUES.stream().map(values -> 0).toList();
    }

    private static String row(Engine engine, List<Integer> row) {
      String number = engine == Engine.MARIADB ? "SIGNED" : "INTEGER";
      String text = engine == Engine.MARIADB ? "CHAR(20)" : "VARCHAR(20)";
      String first = VALUES.get(0).get(row.get(0)).replace("%INT", number);
      String second = VALUES.get(1).get(row.get(1)).replace("%TEXT", text);
      // SQLite keeps days as texts, and makes numbers of them in a CAST.
      String day = VALUES.get(3).get(row.get(3));
      return "SELECT CAST("
          + first
          + " AS "
          + number
          + ") AS n, CAST("
          + second
          + " AS "
          + text
          + ") AS t, CAST("
          + VALUES.get(2).get(row.get(2))
          + " AS DECIMAL(8, 2)) AS d, "
          + (engine == Engine.SQLITE ? day : "CAST(" + day + " AS DATE)")
          + " AS taken FROM bank_kind WHERE code = 'W'";
    }

    Map<List<Integer>, Integer> counts() {
      Map<List<Integer>, Integer> counts = new HashMap<>();
      rows.forEach(row -> counts.merge(row, 1, Integer::sum));
      return counts;
    }

    /** How many rows of this one are not in another one. */
    long without(Bag other) {
      Map<List<Integer>, Integer> there = other.counts();
      return counts().entrySet().stream()
          .mapToLong(row -> Math.max(0, row.getValue() - there.getOrDefault(row.getKey(), 0)))
          .sum();
    }
  }

  @Test(dataProvider = "engines")
  public void findsWhatTheRowsThemselvesSay(Engine engine) {
    Random random = new Random(13);
    Lantrel lantrel = at(engine);
    for (int i = 0; i < PAIRS; i++) {
      Bag one = Bag.random(random);
      Bag other = random.nextInt(4) == 0 ? Bag.random(random) : one.changed(random);
      holds(
          one,
          other,
          compared(lantrel, one.sql(engine), lantrel, other.sql(engine)),
          engine.title());
    }
  }

  /** A database of one's own is not taken for small: checksums come first where there are some. */
  @Test(dataProvider = "engines")
  public void findsTheSameInALiveDatabase(Engine engine) {
    Random random = new Random(17);
    try (Lantrel live = Lantrel.connect(RiverDatabases.access(engine))) {
      for (int i = 0; i < PAIRS / 2; i++) {
        Bag one = Bag.random(random);
        Bag other = one.changed(random);
        holds(
            one,
            other,
            compared(live, one.sql(engine), live, other.sql(engine)),
            "live " + engine.title());
      }
    }
  }

  @Test(dataProvider = "engines")
  public void findsTheSameAcrossTwoEngines(Engine engine) {
    Random random = new Random(31);
    Engine next = RiverDatabases.engines().get((RiverDatabases.engines().indexOf(engine) + 1) % 6);
    for (int i = 0; i < PAIRS / 2; i++) {
      Bag one = Bag.random(random);
      Bag other = one.changed(random);
      Comparison comparison = compared(at(engine), one.sql(engine), at(next), other.sql(next));
      holds(one, other, comparison, engine.title() + " and " + next.title());
    }
  }

  private static Comparison compared(Lantrel here, String one, Lantrel there, String other) {
    return here.study(one).compare(there.study(other), CompareOptions.USUAL.byRowsAlone());
  }

  private static void holds(Bag one, Bag other, Comparison comparison, String where) {
    String what = where + "\n" + one + "\n" + other + "\n" + comparison;
    long onlyOne = one.without(other);
    long onlyOther = other.without(one);
    boolean same = onlyOne + onlyOther == 0;
    assertThat(comparison.verdict().isSame()).as(what).isEqualTo(same);
    assertThat(comparison.verdict()).isNotEqualTo(Verdict.UNDECIDED);
    assertThat(comparison.first()).as(what).hasValue(one.rows().size());
    assertThat(comparison.second()).as(what).hasValue(other.rows().size());
    comparison
        .differences()
        .ifPresent(
            found -> {
              assertThat(found.onlyFirst() + found.changed()).as(what).isEqualTo(onlyOne);
              assertThat(found.onlySecond() + found.changed()).as(what).isEqualTo(onlyOther);
              assertThat(found.hasMore()).as(what).isFalse();
            });
  }

  /** The engine's own word: rows that EXCEPT ALL leaves, both ways. */
  @Test(dataProvider = "engines")
  public void agreesWithTheEnginesOwnExceptAll(Engine engine) throws SQLException {
    if (!EXCEPT_ALL.contains(engine)) {
      assertThat(engine).isIn(Engine.SQLITE, Engine.H2);
      return;
    }
    boolean pads = engine == Engine.HSQLDB || engine == Engine.MARIADB;
    Random random = new Random(7);
    try (Connection connection = RiverDatabases.writing(RiverDatabases.access(engine));
        Statement statement = connection.createStatement()) {
      for (int i = 0; i < PAIRS; i++) {
        Bag one = Bag.random(random);
        Bag other = one.changed(random);
        boolean unclear = pads && (one + "" + other).matches("(?s).*\\[\\d+, [12], .*");
        if (unclear) {
          continue;
        }
        long left = count(statement, one.sql(engine), other.sql(engine));
        long right = count(statement, other.sql(engine), one.sql(engine));
        Comparison comparison =
            compared(at(engine), one.sql(engine), at(engine), other.sql(engine));
        assertThat(comparison.verdict().isSame())
            .as(one + "\n" + other + "\n" + comparison)
            .isEqualTo(left + right == 0);
      }
    }
  }

  private static long count(Statement statement, String one, String other) throws SQLException {
    String sql = "SELECT COUNT(*) FROM (" + one + " EXCEPT ALL " + other + ") AS x";
    try (ResultSet rows = statement.executeQuery(sql)) {
      rows.next();
      return rows.getLong(1);
    }
  }

  private static final String STATIONS = "SELECT id, name, capacity FROM station";

  /** Both are planned for their columns; then the rows are counted, or compared, or fetched. */
  @DataProvider
  static Object[][] prices() {
    return new Object[][] {
      {"proven", "SELECT s.id, s.name, s.capacity FROM station s", 3, 3},
      {
        "proven by a key",
        "SELECT s.id, s.name, s.capacity FROM station s LEFT JOIN river r ON r.id = s.river_id",
        4,
        3
      },
      {"the same", STATIONS + " WHERE id > 0", 3, 3},
      {"other", "SELECT id, name, capacity + 1 AS capacity FROM station", 4, 5},
    };
  }

  @Test(dataProvider = "prices")
  public void asksLittle(String name, String other, long small, long summed) {
    for (Engine engine : RiverDatabases.engines()) {
      try (Lantrel live = Lantrel.connect(RiverDatabases.access(engine))) {
        boolean sums = engine == Engine.DUCKDB || engine == Engine.POSTGRESQL;
        boolean compared = name.equals("other");
        assertThat(sent(live, other))
            .as("live " + engine)
            .isEqualTo(sums || !compared ? summed : small);
      }
      if (engine.isEmbedded()) {
        assertThat(sent(at(engine), other)).as("sample in " + engine).isEqualTo(small);
      }
    }
  }

  private static long sent(Lantrel lantrel, String other) {
    Study first = lantrel.study(STATIONS);
    Study second = lantrel.study(other);
    first.compare(second, CompareOptions.USUAL);
    return first.statementsSent() + second.statementsSent();
  }

  /** Some products keep 1.5 and 0.15 as 15, and their checksums are of that. */
  @Test(dataProvider = "engines")
  public void numbersOfTwoTypesGoByTheirValue(Engine engine) {
    String sql = "SELECT CAST(%s AS DECIMAL(%s)) AS d FROM river";
    try (Lantrel live = Lantrel.connect(RiverDatabases.access(engine))) {
      Comparison other =
          compared(live, sql.formatted("1.5", "4, 1"), live, sql.formatted("0.15", "6, 2"));
      assertThat(other.verdict()).isEqualTo(Verdict.DIFFERENT);
      Comparison same =
          compared(live, sql.formatted("1.5", "4, 1"), live, sql.formatted("1.50", "6, 2"));
      assertThat(same.verdict()).isEqualTo(Verdict.SAME_HERE);
    }
  }

  /** The driver takes ? for a parameter where a statement is prepared. */
  @Test
  public void readsTheOperatorsOfPostgreSqlThatAreSpeltWithQuestionMarks() {
    String sql = "SELECT id FROM river WHERE CAST('{\"a\": 1}' AS jsonb) ?| ARRAY['a']";
    Lantrel lantrel = at(Engine.POSTGRESQL);
    Comparison comparison = compared(lantrel, sql, lantrel, "SELECT id FROM river");
    assertThat(comparison.verdict()).as(comparison + "").isEqualTo(Verdict.SAME_HERE);
  }

  /** Not every product counts a query in FROM that has two columns of one name. */
  @Test(dataProvider = "engines")
  public void countsRowsWhoseHeadingsAreAlike(Engine engine) {
    String sql =
        "SELECT s.name, r.name FROM station s JOIN river r ON r.id = s.river_id"
            + " UNION SELECT name, name FROM river";
    assertThat(at(engine).study(sql).rows(1).count()).isEqualTo(25);
  }
}
