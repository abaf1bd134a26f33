package io.lantrel.hierarchy;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.catalog.Reference;
import io.lantrel.engine.Engine;
import io.lantrel.engine.NamedRow;
import io.lantrel.world.World;
import io.lantrel.world.WorldGenerator;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.testng.annotations.Test;

/**
 * Tables that refer to themselves, made at random, with circles and rows that refer to nothing: the
 * trees are those that following each row upwards, in plain Java, tells.
 */
public class HierarchyInWorldsTest {

  /** {@code -Dlantrel.worlds=400} at full size. */
  private static final int WORLDS = Integer.getInteger("lantrel.worlds", 40);

  private static final List<Engine> ENGINES =
      List.of(Engine.DUCKDB, Engine.SQLITE, Engine.H2, Engine.HSQLDB);

  private int tables;
  private int circles;
  private int pairs;

  @Test
  public void treesAreWhatTheRowsSay() {
    for (int seed = 0; seed < WORLDS; seed++) {
      World world = new WorldGenerator(6_000 + seed, true, seed % 3 == 0).world();
      List<World.Reference> own =
          world.references().stream()
              .filter(World.Reference::isOwn)
              .filter(each -> each.columns().size() == 1)
              .toList();
      if (own.isEmpty()) {
        continue;
      }
      World knotted = knotted(world, own.get(0), seed);
      try (Lantrel lantrel = Lantrel.open(knotted.folder(), ENGINES.get(seed % ENGINES.size()))) {
        check(lantrel, knotted, own.get(0), seed % 2 == 0 ? 1_000 : 3);
      }
    }
    assertThat(tables).isGreaterThan(WORLDS / 4);
    assertThat(circles).isGreaterThan(WORLDS / 8);
    assertThat(pairs).isGreaterThan(WORLDS / 2);
  }

  /** Some rows are made to refer to each other in a circle, or to nothing. */
  private static World knotted(World world, World.Reference reference, int seed) {
    List<List<@Nullable String>> rows = new ArrayList<>();
    world
        .rows()
        .getOrDefault(reference.from(), List.of())
        .forEach(row -> rows.add(new ArrayList<>(row)));
    int at = column(world, reference.from(), reference.columns().get(0));
    int key = column(world, reference.from(), reference.targetColumns().get(0));
    int size = rows.size();
    if (size > 2 && seed % 2 == 1) {
      rows.get(0).set(at, rows.get(1).get(key));
      rows.get(1).set(at, rows.get(seed % 4 == 1 ? 0 : 1).get(key));
    }
    Map<String, List<List<@Nullable String>>> all = new LinkedHashMap<>(world.rows());
    all.put(reference.from(), rows);
    return new World(world.tables(), all);
  }

  private static int column(World world, String table, String name) {
    List<World.Column> columns = world.table(table).columns();
    for (int i = 0; i < columns.size(); i++) {
      if (columns.get(i).name().equals(name)) {
        return i;
      }
    }
    throw new AssertionError(name);
  }

  private void check(Lantrel lantrel, World world, World.Reference reference, int most) {
    tables++;
    int at = column(world, reference.from(), reference.columns().get(0));
    int key = column(world, reference.from(), reference.targetColumns().get(0));
    Map<String, @Nullable String> above = new LinkedHashMap<>();
    for (List<@Nullable String> row : world.rows().getOrDefault(reference.from(), List.of())) {
      above.put(Objects.requireNonNull(row.get(key)), row.get(at));
    }
    Hierarchy hierarchy =
        lantrel.hierarchy(
            HierarchyWish.of(reference.from()).by(reference.columns().get(0)).showing(0, most));
    String about = hierarchy + "\n" + world.words();
    circles += new TreesByHand(above, Map.of(), about).compare(hierarchy);
    if (most > above.size()) {
      assertThat(hierarchy.hidden()).as(about).isZero();
    }
    between(lantrel, hierarchy.reference(), above, about);
  }

  /** From each row to another one of the table: the shortest way up and down again. */
  private void between(
      Lantrel lantrel, Reference reference, Map<String, @Nullable String> above, String about) {
    HierarchyWish wish =
        HierarchyWish.of(reference.from().name()).by(reference.fromColumns().get(0));
    List<String> keys = List.copyOf(above.keySet());
    for (int i = 0; i < Math.min(keys.size(), 12); i++) {
      String one = keys.get(i);
      String other = keys.get((i * 5 + 2) % keys.size());
      RowsBetween found = lantrel.between(wish, one, other);
      String pair = one + " and " + other + " in " + about;
      List<String> upOfOne = TreesByHand.up(one, above);
      List<String> upOfOther = TreesByHand.up(other, above);
      int shortest =
          upOfOne.stream()
              .filter(upOfOther::contains)
              .mapToInt(each -> upOfOne.indexOf(each) + upOfOther.indexOf(each))
              .min()
              .orElse(-1);
      assertThat(found.distance().orElse(-1)).as(pair).isEqualTo(shortest);
      assertThat(found.first().values().get(0)).as(pair).isEqualTo(one);
      assertThat(found.second().values().get(0)).as(pair).isEqualTo(other);
      List<String> way = new ArrayList<>();
      found.up().forEach(row -> way.add(row.values().get(0)));
      for (int at = 1; at < way.size(); at++) {
        assertThat(above.get(way.get(at - 1))).as(pair).isEqualTo(way.get(at));
      }
      String lower = found.common().isPresent() ? way.get(way.size() - 1) : null;
      for (NamedRow row : found.down()) {
        String next = row.values().get(0);
        if (lower != null) {
          assertThat(above.get(next)).as(pair).isEqualTo(lower);
        }
        lower = next;
      }
      pairs += shortest > 0 ? 1 : 0;
    }
  }
}
