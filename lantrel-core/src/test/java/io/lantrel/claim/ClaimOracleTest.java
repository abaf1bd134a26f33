package io.lantrel.claim;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.Study;
import io.lantrel.engine.DatabaseException;
import io.lantrel.engine.Engine;
import io.lantrel.engine.Rows;
import io.lantrel.resolve.Resolution;
import io.lantrel.resolve.Resolver;
import io.lantrel.sql.ParameterValues;
import io.lantrel.sql.SqlReader;
import io.lantrel.sql.SyntaxException;
import io.lantrel.world.World;
import io.lantrel.world.WorldGenerator;
import io.lantrel.world.WorldQueries;
import io.lantrel.world.WorldQuery;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;
import org.testng.annotations.Test;

/**
 * Claims about queries made at random, in worlds that may break their keys and references, beside
 * what a few lines of Java make of the rows themselves.
 */
public class ClaimOracleTest {

  private static final int WORLDS = Integer.getInteger("lantrel.worlds", 8);
  private static final int QUERIES = 10;

  /** More rows are not worth the time here. */
  private static final int MOST = 500;

  private static final List<Engine> ENGINES = List.of(Engine.DUCKDB, Engine.SQLITE, Engine.H2);

  private int compared;
  private int brokenOnes;

  @Test
  public void verdictsAreWhatTheRowsSay() {
    for (int seed = 0; seed < WORLDS; seed++) {
      World world = new WorldGenerator(31_000 + seed, seed % 2 == 0, seed % 3 == 0).world();
      Engine engine = ENGINES.get(seed % ENGINES.size());
      try (Lantrel lantrel = Lantrel.open(world.folder(), engine)) {
        WorldQueries queries = new WorldQueries(world, seed, engine.dialect());
        for (int i = 0; i < QUERIES; i++) {
          query(queries.query().sql(), lantrel, world);
        }
      }
    }
    System.out.println(compared + " claims beside the rows, " + brokenOnes + " broken");
    assertThat(compared).isGreaterThan(WORLDS * 30);
    assertThat(brokenOnes).isGreaterThan(WORLDS * 5).isLessThan(compared);
  }

  private void query(String sql, Lantrel lantrel, World world) {
    Optional<List<String>> names = names(sql, lantrel);
    if (names.isEmpty()) {
      return;
    }
    Study study = lantrel.study(sql, WorldQuery.values());
    Rows rows;
    try {
      rows = study.result(MOST);
    } catch (DatabaseException refused) {
      return;
    }
    if (rows.cut()) {
      return;
    }
    Map<String, Boolean> wanted = wanted(names.get(), rows);
    Verification found = study.verify(wanted.keySet().toArray(String[]::new));
    assertThat(found.rows()).hasValue(rows.size());
    for (CheckedClaim claim : found.claims()) {
      String told = claim + "\n" + sql + "\n" + rows + "\n" + world.words();
      if (claim.verdict() == Verdict.UNDECIDED) {
        assertThat(claim.reason()).as(told).contains("nothing to show it");
        continue;
      }
      boolean met = wanted.getOrDefault(claim.claim().text(), false);
      assertThat(claim.verdict().isMet()).as(told).isEqualTo(met);
      compared++;
      brokenOnes += met ? 0 : 1;
    }
  }

  /** The headings of a query; empty if two are alike or it has an error. */
  private static Optional<List<String>> names(String sql, Lantrel lantrel) {
    try {
      ParameterValues values = ParameterValues.of(WorldQuery.values());
      Resolution resolution =
          Resolver.resolve(
              values.in(SqlReader.readQuery(sql, lantrel.catalog().dialect())), lantrel.catalog());
      List<String> names =
          resolution.result().outputs().stream().map(output -> output.name()).toList();
      boolean clear = names.stream().distinct().count() == names.size();
      return resolution.problems().isEmpty() && clear ? Optional.of(names) : Optional.empty();
    } catch (SyntaxException unread) {
      return Optional.empty();
    }
  }

  // ---- the oracle ----

  private static Map<String, Boolean> wanted(List<String> names, Rows rows) {
    Map<String, Boolean> wanted = new LinkedHashMap<>();
    int size = rows.size();
    wanted.put(size + " rows", true);
    wanted.put(size + 1 + " rows", false);
    wanted.put("at least " + (size + 1) + " rows", false);
    wanted.put("at most " + size + " rows", true);
    wanted.put("no rows", size == 0);
    for (int i = 0; i < names.size(); i++) {
      int column = i;
      String name = names.get(i);
      wanted.put("one row per " + name, isOncePer(List.of(column), rows));
      wanted.put("no null in " + name, all(rows, row -> row.get(column) != null));
      boolean numbers = rows.rows().stream().anyMatch(row -> row.get(column) instanceof Number);
      if (numbers
          && all(rows, row -> row.get(column) == null || row.get(column) instanceof Number)) {
        wanted.put(name + " between 2 and 4", all(rows, row -> isBetween(row.get(column))));
        wanted.put(name + " is one of 1, 3", all(rows, row -> isOneOrThree(row.get(column))));
      }
      for (int other = 0; other < i; other++) {
        wanted.put(
            "one row per " + names.get(other) + ", " + name,
            isOncePer(List.of(other, column), rows));
      }
    }
    return wanted;
  }

  private static boolean all(Rows rows, Predicate<List<@Nullable Object>> holds) {
    return rows.rows().stream().allMatch(holds);
  }

  private static boolean isOncePer(List<Integer> columns, Rows rows) {
    Map<List<String>, Integer> seen = new HashMap<>();
    for (List<@Nullable Object> row : rows.rows()) {
      List<String> key = new ArrayList<>();
      columns.forEach(column -> key.add(text(row.get(column))));
      if (seen.merge(key, 1, Integer::sum) > 1) {
        return false;
      }
    }
    return true;
  }

  private static String text(@Nullable Object value) {
    return value instanceof Number number
        ? "n" + new BigDecimal(number.toString()).stripTrailingZeros().toPlainString()
        : value == null ? "" : "t" + value;
  }

  private static boolean isBetween(@Nullable Object value) {
    if (value == null) {
      return true;
    }
    BigDecimal number = new BigDecimal(value.toString());
    return number.compareTo(BigDecimal.valueOf(2)) >= 0
        && number.compareTo(BigDecimal.valueOf(4)) <= 0;
  }

  private static boolean isOneOrThree(@Nullable Object value) {
    if (value == null) {
      return true;
    }
    BigDecimal number = new BigDecimal(value.toString());
    return number.compareTo(BigDecimal.ONE) == 0 || number.compareTo(BigDecimal.valueOf(3)) == 0;
  }

  // ---- suggestions ----

  /** Whatever is suggested can be read again, and is met again. */
  @Test
  public void suggestionsAreMet() {
    int suggested = 0;
    for (int seed = 0; seed < WORLDS; seed++) {
      World world = new WorldGenerator(33_000 + seed, seed % 2 == 0, seed % 3 == 0).world();
      Engine engine = ENGINES.get(seed % ENGINES.size());
      try (Lantrel lantrel = Lantrel.open(world.folder(), engine)) {
        WorldQueries queries = new WorldQueries(world, seed, engine.dialect());
        for (int i = 0; i < QUERIES; i++) {
          String sql = queries.query().sql();
          if (names(sql, lantrel).isPresent()) {
            suggested += suggested(sql, lantrel);
          }
        }
      }
    }
    assertThat(suggested).isGreaterThan(WORLDS * 5);
  }

  private static int suggested(String sql, Lantrel lantrel) {
    Study study = lantrel.study(sql, WorldQuery.values());
    List<CheckedClaim> claims = study.suggestedClaims();
    String[] texts = claims.stream().map(each -> each.claim().text()).toArray(String[]::new);
    Verification again = lantrel.study(sql, WorldQuery.values()).verify(texts);
    assertThat(again.problems()).as(sql).isEmpty();
    assertThat(again.claims()).as(sql).allMatch(each -> each.verdict().isMet());
    StringBuilder commented = new StringBuilder();
    claims.forEach(each -> commented.append("-- claim: ").append(each.claim().text()).append('\n'));
    Study written = lantrel.study(commented + sql, WorldQuery.values());
    assertThat(written.claims().stream().map(Claim::text)).containsExactly(texts);
    return claims.size();
  }
}
