package io.lantrel.check;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.engine.Engine;
import io.lantrel.world.World;
import io.lantrel.world.WorldGenerator;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/**
 * Faults written over every reference of worlds made at random: they are told where plain Java
 * finds harm in the rows, with its figures, and nowhere else.
 */
public class HarmInWorldsTest {

  /** {@code -Dlantrel.worlds=400} at full size. */
  private static final int WORLDS = Integer.getInteger("lantrel.worlds", 15);

  /** Those that rank rows, by which ties are found. */
  private static final List<Engine> ENGINES = List.of(Engine.DUCKDB, Engine.SQLITE, Engine.H2);

  /** What is looked at, along one reference. */
  private interface Look {
    /** Whether there is harm. */
    boolean at(Lantrel lantrel, World world, World.Reference reference);
  }

  @DataProvider
  static Object[][] looks() {
    return new Object[][] {
      {"totals through queries in FROM and WITH", (Look) HarmInWorldsTest::totals},
      {"the first of a list", (Look) HarmInWorldsTest::first},
      {"counts by a condition", (Look) HarmInWorldsTest::counts},
      {"a part of a reference through WITH", (Look) HarmInWorldsTest::part},
    };
  }

  @Test(dataProvider = "looks")
  public void isToldWhereTheRowsShowIt(String what, Look look) {
    int harmful = 0;
    int harmless = 0;
    for (int seed = 0; seed < WORLDS; seed++) {
      World world = new WorldGenerator(9_000 + seed, true, seed % 2 == 0).world();
      try (Lantrel lantrel = Lantrel.open(world.folder(), ENGINES.get(seed % ENGINES.size()))) {
        for (World.Reference each : world.references()) {
          if (look.at(lantrel, world, each)) {
            harmful++;
          } else {
            harmless++;
          }
        }
      }
    }
    assertThat(harmful).as(what).isGreaterThan(WORLDS / 8);
    assertThat(harmless).as(what).isGreaterThan(WORLDS / 8);
  }

  /** Each row of the parent comes once for each child, or once if it has none. */
  private static boolean totals(Lantrel lantrel, World world, World.Reference reference) {
    String size = size(world, reference.target());
    long counted = 0;
    long once = 0;
    Map<List<@Nullable String>, Integer> children = new LinkedHashMap<>();
    values(world, reference.from(), reference.columns())
        .forEach(row -> children.merge(row, 1, Integer::sum));
    List<String> columns = new ArrayList<>(reference.targetColumns());
    columns.add(size);
    for (List<@Nullable String> row : values(world, reference.target(), columns)) {
      if (row.get(row.size() - 1) != null) {
        once++;
        counted += Math.max(1, children.getOrDefault(row.subList(0, row.size() - 1), 0));
      }
    }
    String inner =
        "SELECT p."
            + size
            + " AS v, c."
            + world.table(reference.from()).label()
            + " AS k FROM "
            + reference.target()
            + " p LEFT JOIN "
            + reference.from()
            + " c ON "
            + reference.condition("c", "p");
    for (String sql :
        List.of(
            "SELECT SUM(x.v) AS v FROM (" + inner + ") x",
            "WITH x AS (" + inner + ") SELECT COUNT(x.v) AS n, COUNT(*) AS m FROM x")) {
      Optional<Finding> found = found(lantrel, sql, Kind.REPEATED_IN_TOTAL);
      assertThat(found.isPresent()).as(sql + "\n" + world.words()).isEqualTo(counted > once);
      if (found.isPresent()) {
        assertThat(found.get().evidence().figures())
            .as(sql + "\n" + world.words())
            .containsEntry("counted", counted)
            .containsEntry("counted once each", once);
      }
    }
    return counted > once;
  }

  /** Of the children of a parent several may have the least size. */
  private static boolean first(Lantrel lantrel, World world, World.Reference reference) {
    String size = size(world, reference.from());
    List<String> columns = new ArrayList<>(reference.columns());
    columns.add(size);
    Map<List<@Nullable String>, List<BigDecimal>> sizes = new LinkedHashMap<>();
    List<List<@Nullable String>> parents =
        values(world, reference.target(), reference.targetColumns());
    for (List<@Nullable String> row : values(world, reference.from(), columns)) {
      List<@Nullable String> refers = row.subList(0, row.size() - 1);
      if (row.get(row.size() - 1) != null && parents.contains(refers)) {
        sizes
            .computeIfAbsent(refers, key -> new ArrayList<>())
            .add(new BigDecimal(Objects.requireNonNull(row.get(row.size() - 1))));
      }
    }
    long ties =
        sizes.values().stream()
            .filter(
                each -> {
                  BigDecimal least = each.stream().reduce(each.get(0), BigDecimal::min);
                  return each.stream().filter(one -> one.compareTo(least) == 0).count() > 1;
                })
            .count();
    String sql =
        "SELECT p."
            + world.table(reference.target()).label()
            + ", (SELECT c."
            + world.table(reference.from()).label()
            + " FROM "
            + reference.from()
            + " c WHERE "
            + reference.condition("c", "p")
            + " AND c."
            + size
            + " IS NOT NULL ORDER BY c."
            + size
            + " LIMIT 1) AS least FROM "
            + reference.target()
            + " p";
    Optional<Finding> found = found(lantrel, sql, Kind.UNSTABLE_ORDER);
    assertThat(found.isPresent()).as(sql + "\n" + world.words()).isEqualTo(ties > 0);
    found.ifPresent(
        finding ->
            assertThat(finding.evidence().figures())
                .as(sql + "\n" + world.words())
                .containsEntry("rows outside with several that come first", ties));
    return ties > 0;
  }

  /** All rows are counted, whatever the condition says. */
  private static boolean counts(Lantrel lantrel, World world, World.Reference reference) {
    String size = size(world, reference.from());
    List<List<@Nullable String>> rows = values(world, reference.from(), List.of(size));
    long large =
        rows.stream()
            .map(row -> row.get(0))
            .filter(value -> value != null && new BigDecimal(value).intValue() >= 6)
            .count();
    String sql =
        "SELECT COUNT(CASE WHEN c.%s >= 6 THEN 1 ELSE 0 END) AS large FROM %s c"
            .formatted(size, reference.from());
    Finding found = found(lantrel, sql, Kind.COUNT_IGNORES_CONDITION).orElseThrow();
    assertThat(found.evidence().figures())
        .as(sql + "\n" + world.words())
        .containsEntry("rows counted", (long) rows.size())
        .containsEntry("rows that meet it", large);
    assertThat(found.severity()).isEqualTo(large == rows.size() ? Severity.NOTE : Severity.WARNING);
    String mended = found.repair().orElseThrow().sql();
    assertThat(lantrel.study(mended).result().rows().get(0).get(0).toString())
        .isEqualTo(String.valueOf(large));
    return large < rows.size() && large > rows.size() / 3;
  }

  /** A reference of several columns needs all of them. */
  private static boolean part(Lantrel lantrel, World world, World.Reference reference) {
    String whole = reference.condition("x", "p");
    String part = whole.replaceAll(" AND .*", "");
    String sql =
        "WITH x AS (SELECT * FROM "
            + reference.from()
            + ") SELECT x."
            + world.table(reference.from()).label()
            + ", p."
            + world.table(reference.target()).label()
            + " FROM x JOIN "
            + reference.target()
            + " p ON ";
    assertThat(found(lantrel, sql + whole, Kind.PARTIAL_KEY)).as(sql + whole).isEmpty();
    boolean several = reference.columns().size() > 1;
    assertThat(found(lantrel, sql + part, Kind.PARTIAL_KEY).isPresent())
        .as(sql + part)
        .isEqualTo(several);
    return several;
  }

  private static Optional<Finding> found(Lantrel lantrel, String sql, Kind kind) {
    return lantrel.study(sql).findings().stream().filter(each -> each.kind() == kind).findFirst();
  }

  private static String size(World world, String table) {
    return world.table(table).columns().stream()
        .map(World.Column::name)
        .filter(name -> name.endsWith("_size"))
        .findFirst()
        .orElseThrow();
  }

  /** Some columns of all rows of a table. */
  private static List<List<@Nullable String>> values(
      World world, String table, List<String> names) {
    List<String> all = world.table(table).columns().stream().map(World.Column::name).toList();
    List<List<@Nullable String>> values = new ArrayList<>();
    for (List<@Nullable String> row : world.rows().getOrDefault(table, List.of())) {
      List<@Nullable String> own = new ArrayList<>();
      names.forEach(name -> own.add(row.get(all.indexOf(name))));
      values.add(own);
    }
    return values;
  }
}
