package io.lantrel.trace;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.Study;
import io.lantrel.engine.DatabaseException;
import io.lantrel.engine.Engine;
import io.lantrel.engine.Rows;
import io.lantrel.engine.ValueText;
import io.lantrel.trace.Answer.Kind;
import io.lantrel.trace.Answer.Outcome;
import io.lantrel.trace.Answer.Source;
import io.lantrel.trace.Answer.TracedValue;
import io.lantrel.world.World;
import io.lantrel.world.WorldGenerator;
import io.lantrel.world.WorldQueries;
import io.lantrel.world.WorldQuery;
import io.lantrel.world.WorldQuery.Head;
import io.lantrel.world.WorldQuery.Term;
import io.lantrel.world.WorldQuery.Use;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.testng.annotations.Test;

/**
 * Rows of worlds made at random, followed through queries made at random: what is said of each is
 * what the engine counts when it is asked about that row alone, and the rows that a result was put
 * together from give it again.
 */
public class TraceInWorldsTest {

  /** {@code -Dlantrel.worlds=200} at full size: some 40,000 rows. */
  private static final int WORLDS = Integer.getInteger("lantrel.worlds", 9);

  private static final int QUERIES = 8;
  private static final int ROWS = 4;

  private static final List<Engine> ENGINES = List.of(Engine.DUCKDB, Engine.SQLITE, Engine.H2);

  /** A condition that is not met, behind the values that tell why. */
  private static final Pattern REASON =
      Pattern.compile(
          "(?:.* is .*, so )?(.*) is (not true|unknown)(?: in any of its .* rows there)?\\.",
          Pattern.DOTALL);

  private int followed;
  private int explained;
  private int lost;
  private int traced;

  @Test
  public void whatIsSaidOfARowIsWhatTheEngineCounts() {
    for (int seed = 0; seed < WORLDS; seed++) {
      World world = new WorldGenerator(4_000 + seed, true, seed % 2 == 0).world();
      Engine engine = ENGINES.get(seed % ENGINES.size());
      try (Lantrel lantrel = Lantrel.open(world.folder(), engine)) {
        WorldQueries queries = new WorldQueries(world, seed, engine.dialect());
        for (int i = 0; i < QUERIES; i++) {
          WorldQuery query = queries.query();
          if (runs(lantrel, query.sql())) {
            uses(query).forEach(use -> follow(lantrel, world, query, use));
            sources(lantrel, world, query);
          }
        }
      }
    }
    System.out.println(
        followed
            + " rows followed, "
            + lost
            + " lost; "
            + explained
            + " reasons; "
            + traced
            + " traced");
    assertThat(followed).isGreaterThan(WORLDS * 40);
    assertThat(lost).isGreaterThan(followed / 20);
    assertThat(explained).isGreaterThan(lost / 20);
    assertThat(traced).isGreaterThan(WORLDS * 2);
  }

  private static Stream<Use> uses(WorldQuery query) {
    return Stream.concat(
        Stream.of(query.first()), query.steps().stream().map(WorldQuery.Step::use));
  }

  private static Study study(Lantrel lantrel, String sql) {
    return lantrel.study(sql, WorldQuery.values());
  }

  private static boolean runs(Lantrel lantrel, String sql) {
    try {
      study(lantrel, sql).result(1);
      return true;
    } catch (DatabaseException refused) {
      return false;
    }
  }

  // ---- rows of tables ----

  private void follow(Lantrel lantrel, World world, WorldQuery query, Use use) {
    List<List<@Nullable String>> rows = world.rows().getOrDefault(use.table().name(), List.of());
    for (List<@Nullable String> row : rows.stream().limit(ROWS).toList()) {
      String key = key(use, row);
      List<Answer> answers = study(lantrel, query.sql()).missing(use.alias() + " where " + key, 5);
      String about = key + "\n" + query.sql() + "\n" + world.words();
      assertThat(answers).as(about).isNotEmpty();
      Answer answer = answers.get(0);
      followed++;
      boolean kept = count(lantrel, query, use, key, query.steps().size()) > 0;
      String told = about + "\n" + answer.sentences();
      if (!kept) {
        lost++;
        assertThat(answer.outcome()).as(told).isEqualTo(Outcome.LOST);
        Kind kind = answer.stage().orElseThrow().kind();
        assertThat(kind).as(told).isIn(Kind.JOIN, Kind.WHERE);
        if (kind == Kind.WHERE && query.wraps().isEmpty()) {
          assertExplained(lantrel, query, use, key, answer, told);
        }
        if (kind == Kind.JOIN && !query.hasCommas()) {
          assertLostThere(lantrel, query, use, key, answer.stage().orElseThrow().join(), told);
        }
      } else if (query.wraps().isEmpty() && query.head() != Head.HAVING) {
        assertThat(answer.outcome()).as(told).isIn(Outcome.PRESENT, Outcome.MERGED);
      } else if (answer.outcome() == Outcome.LOST && query.wraps().isEmpty()) {
        assertThat(answer.stage().orElseThrow().kind()).as(told).isEqualTo(Kind.HAVING);
      }
    }
  }

  /** Before that join the row is there, if its table is; behind it, it is not. */
  private static void assertLostThere(
      Lantrel lantrel, WorldQuery query, Use use, String key, int join, String told) {
    WorldQuery joins =
        new WorldQuery(query.first(), query.steps(), List.of(), Head.PLAIN, List.of());
    List<Use> before = uses(joins).limit(join).toList();
    if (before.contains(use)) {
      assertThat(count(lantrel, joins, use, key, join - 1)).as(told).isPositive();
    }
    assertThat(count(lantrel, joins, use, key, join)).as(told).isZero();
  }

  /** What is said not to be true, or to be unknown, is so for the joined rows of that row. */
  private void assertExplained(
      Lantrel lantrel, WorldQuery query, Use use, String key, Answer answer, String told) {
    for (String sentence : answer.sentences().subList(1, answer.sentences().size())) {
      Matcher reason = REASON.matcher(sentence);
      if (reason.matches()) {
        explained++;
        String condition = "(" + reason.group(1) + ")";
        assertThat(joined(lantrel, query, use, key, condition)).as(told).isZero();
        if (reason.group(2).equals("unknown")) {
          assertThat(joined(lantrel, query, use, key, "NOT " + condition)).as(told).isZero();
        }
      }
    }
  }

  /** How many joined rows with that row meet a condition. */
  private static long joined(
      Lantrel lantrel, WorldQuery query, Use use, String key, String condition) {
    List<Term> where = List.of(new Term(condition, Set.of()));
    return count(
        lantrel,
        new WorldQuery(query.first(), query.steps(), where, Head.PLAIN, List.of()),
        use,
        key,
        query.steps().size());
  }

  private static String key(Use use, List<@Nullable String> row) {
    List<String> terms = new ArrayList<>();
    for (int i = 0; i < use.table().key().size(); i++) {
      World.Column column = use.table().columns().get(i);
      boolean number = column.type().startsWith("INT");
      String value = String.valueOf(row.get(i));
      terms.add(column.name() + " = " + (number ? value : "'" + value + "'"));
    }
    return String.join(" AND ", terms);
  }

  /** How many joined rows with that row the engine counts, after so many joins and WHERE. */
  private static long count(Lantrel lantrel, WorldQuery query, Use use, String key, int steps) {
    List<Term> where = new ArrayList<>(query.where());
    String qualified =
        use.table().key().stream()
            .reduce(
                key,
                (text, column) -> text.replace(column + " =", use.alias() + "." + column + " ="),
                (a, b) -> b);
    where.add(new Term(qualified, Set.of(use.alias())));
    WorldQuery counted =
        new WorldQuery(
            query.first(), query.steps().subList(0, steps), where, Head.PLAIN, List.of());
    Rows rows = study(lantrel, "SELECT COUNT(*) AS n FROM (" + counted.sql() + ") AS x").result(1);
    return rows.figure(0);
  }

  // ---- rows of results ----

  private void sources(Lantrel lantrel, World world, WorldQuery query) {
    boolean simple = query.head() == Head.PLAIN || query.head() == Head.GROUPED;
    if (!simple || !query.wraps().isEmpty()) {
      return;
    }
    Study study = study(lantrel, query.sql());
    Rows result = study.result(3);
    for (int i = 0; i < result.size(); i++) {
      Answer answer;
      try {
        answer = study.trace(i + 1, 20);
      } catch (TraceException failure) {
        throw new AssertionError(
            "row " + (i + 1) + "\n" + query.sql() + "\n" + world.words() + result, failure);
      }
      String about = "row " + (i + 1) + "\n" + query.sql() + "\n" + world.words() + answer;
      assertThat(answer.outcome()).as(about).isEqualTo(Outcome.PRESENT);
      List<Source> first =
          firstOfEach(answer.sources().stream().filter(each -> !each.table().isEmpty()).toList());
      assertThat(first).as(about).hasSize((int) uses(query).count());
      List<Term> where = new ArrayList<>(query.where());
      for (Source source : first) {
        where.add(new Term(restriction(world, source), Set.of(source.use())));
      }
      WorldQuery alone = new WorldQuery(query.first(), query.steps(), where, Head.PLAIN, List.of());
      Rows again = study(lantrel, alone.sql()).result(5);
      List<@Nullable String> wanted = texts(result.rows().get(i));
      if (query.head() == Head.PLAIN) {
        assertThat(again.rows().stream().map(TraceInWorldsTest::texts)).as(about).contains(wanted);
      } else {
        assertThat(again.rows().stream().map(row -> texts(row).get(0)))
            .as(about)
            .contains(wanted.get(0));
      }
      traced++;
    }
  }

  /** Of each table use the row that comes first: those belong together. */
  private static List<Source> firstOfEach(List<Source> sources) {
    Map<String, Source> first = new LinkedHashMap<>();
    sources.forEach(each -> first.putIfAbsent(each.use(), each));
    return List.copyOf(first.values());
  }

  private static String restriction(World world, Source source) {
    World.Table table = world.table(source.table());
    List<String> terms = new ArrayList<>();
    for (String column : table.key()) {
      String value =
          source.values().stream()
              .filter(each -> each.name().equals(column))
              .map(TracedValue::value)
              .findFirst()
              .orElse(null);
      terms.add(
          source.use()
              + "."
              + column
              + (value == null ? " IS NULL" : " = '" + value.replace("'", "''") + "'"));
    }
    return String.join(" AND ", terms);
  }

  private static List<@Nullable String> texts(List<@Nullable Object> row) {
    return row.stream()
        .map(value -> value == null ? null : ValueText.of(value))
        .collect(Collectors.toList());
  }
}
