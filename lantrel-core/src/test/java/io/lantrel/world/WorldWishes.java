package io.lantrel.world;

import io.lantrel.draft.Wish;
import io.lantrel.world.World.Table;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;

/** Wishes at random over a world: all that can be wished for, in every combination. */
public final class WorldWishes {

  private static final List<String> FIGURES =
      List.of("sum of", "average of", "least of", "greatest", "count of", "count of different");

  private final World world;
  private final Random random;

  public WorldWishes(World world, long seed) {
    this.world = world;
    this.random = new Random(seed);
  }

  private boolean sometimes(int percent) {
    return random.nextInt(100) < percent;
  }

  private <T> T any(List<T> some) {
    return some.get(random.nextInt(some.size()));
  }

  public Wish wish() {
    List<String> items = new ArrayList<>();
    boolean figures = sometimes(40);
    for (int i = 1 + random.nextInt(4); i > 0; i--) {
      String item = figures && sometimes(50) ? figure() : column();
      if (!items.contains(item)) {
        items.add(item);
      }
    }
    Wish wish = Wish.show(items.toArray(String[]::new));
    if (sometimes(25)) {
      wish = wish.keepEvery(any(world.tables()).name());
    }
    if (sometimes(30)) {
      wish = wish.where(condition(any(world.tables())));
    }
    if (sometimes(20)) {
      Table table = any(world.tables());
      wish = sometimes(50) ? wish.without(table.name()) : wish.without(table.name(), test(table));
    }
    if (sometimes(20)) {
      wish = wish.orderBy(sometimes(80) ? any(items) + (sometimes(50) ? " desc" : "") : column());
    }
    if (sometimes(10)) {
      wish = wish.pairsOf(any(world.tables()).name(), any(world.tables()).name());
    }
    if (sometimes(10)) {
      Table table = hierarchy();
      wish =
          switch (random.nextInt(3)) {
            case 0 -> wish.below(table.name(), test(table));
            case 1 -> wish.below(table.name());
            default -> wish.above(table.name(), test(table));
          };
    }
    if (sometimes(figures ? 15 : 3)) {
      wish = wish.overBranchesOf(hierarchy().name());
    }
    return sometimes(15) ? wish.withEveryPair() : wish;
  }

  /** Mostly a table that refers to itself. */
  private Table hierarchy() {
    List<Table> own =
        world.references().stream()
            .filter(World.Reference::isOwn)
            .map(each -> world.table(each.from()))
            .toList();
    return own.isEmpty() || sometimes(20) ? any(world.tables()) : any(own);
  }

  /** Of a table, or of what one is called by a reference to it. */
  private String column() {
    Table table = any(world.tables());
    String column = any(table.columns()).name();
    if (sometimes(15) && !world.references().isEmpty()) {
      World.Reference reference = any(world.references());
      Table target = world.table(reference.target());
      String role = reference.columns().get(reference.columns().size() - 1);
      return role + "." + any(target.columns()).name();
    }
    return table.name() + "." + column;
  }

  private String figure() {
    Table table = any(world.tables());
    if (sometimes(40)) {
      return "count of " + table.name();
    }
    String figure = any(FIGURES);
    boolean number = figure.startsWith("sum") || figure.startsWith("average");
    String column = number ? table.name() + "_size" : any(table.columns()).name();
    return figure + " " + table.name() + "." + column;
  }

  private String condition(Table table) {
    return switch (random.nextInt(3)) {
      case 0 -> table.name() + "." + any(table.columns()).name() + " IS NOT NULL";
      case 1 -> table.name() + "." + test(table);
      default -> table.name() + "." + table.label() + " <> 'none'";
    };
  }

  private static String test(Table table) {
    return table.name() + "_size > 2";
  }
}
