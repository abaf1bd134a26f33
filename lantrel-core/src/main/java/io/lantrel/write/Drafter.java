package io.lantrel.write;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Reference;
import io.lantrel.catalog.Table;
import io.lantrel.write.Paths.Hop;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** Writes queries for wishes over the references of a catalog. */
public final class Drafter {

  /** So many readings of one wish are written at most. */
  private static final int MOST = 4;

  private final Catalog catalog;
  private final Paths paths;

  /**
   * @param catalog with the references to go along; those that a survey observed can be among them
   */
  public Drafter(Catalog catalog) {
    this.catalog = catalog;
    this.paths = new Paths(catalog);
  }

  /**
   * The drafts for a wish: several if the tables hang together in several ways, the best first.
   *
   * @throws WishException if a name means nothing or several things, or no reference connects the
   *     tables
   */
  public List<Draft> drafts(Wish wish) {
    if (wish.shown().isEmpty()) {
      throw new WishException("say what the result should show, as station.name");
    }
    if (wish.walk().isPresent()) {
      return List.of(new WalkDraft(catalog, wish).draft());
    }
    List<Draft> drafts = new ArrayList<>();
    Set<String> texts = new LinkedHashSet<>();
    // The first way for each table but one, which takes its second, third … way.
    int ways = 1;
    for (int way = 0; way < ways && drafts.size() < MOST; way++) {
      Tree tree = new Tree(catalog, paths, way);
      Draft draft =
          wish.pairs().isPresent()
              ? new PairsDraft(tree, wish).draft()
              : new SelectDraft(tree, wish).draft();
      ways = Math.max(ways, tree.ways());
      if (texts.add(draft.sql())) {
        drafts.add(draft);
      }
    }
    return drafts;
  }

  /** How the tables of one draft hang together, as far as it was asked for. */
  static final class Tree {
    private final Catalog catalog;
    private final Paths paths;
    private final Uses uses;
    private final int way;
    private int ways = 1;
    private boolean turned;
    private final Map<Use, Leg> legs = new LinkedHashMap<>();
    private final List<Use> reached = new ArrayList<>();

    Tree(Catalog catalog, Paths paths, int way) {
      this(catalog, paths, new Uses(catalog), way);
    }

    private Tree(Catalog catalog, Paths paths, Uses uses, int way) {
      this.catalog = catalog;
      this.paths = paths;
      this.uses = uses;
      this.way = way;
    }

    /** One for a query within the draft. */
    Tree apart() {
      return new Tree(catalog, paths, uses.apart(), 0);
    }

    /** One that only tells how things would hang together. */
    Tree onTrial() {
      return new Tree(catalog, paths, 0);
    }

    Paths paths() {
      return paths;
    }

    Catalog catalog() {
      return catalog;
    }

    Uses uses() {
      return uses;
    }

    int ways() {
      return ways;
    }

    void begin(Use main) {
      reached.add(main);
    }

    /** In the order in which they can be joined. */
    List<Leg> legs() {
      return List.copyOf(legs.values());
    }

    List<Leg> from(Use start, Use target) {
      List<Leg> path = new ArrayList<>();
      Use at = target;
      while (!at.equals(start) && legs.containsKey(at)) {
        Leg leg = legs.get(at);
        path.add(0, leg);
        at = leg.from();
      }
      return path;
    }

    boolean has(Use use) {
      return reached.contains(use);
    }

    void add(Leg leg) {
      legs.put(leg.to(), leg);
      reached.add(leg.to());
    }

    /** Connects a use with what is there already. */
    void connect(Use use) {
      if (has(use)) {
        return;
      }
      if (uses.role(use).isPresent()) {
        Reference reference = uses.role(use).get();
        Use owner = uses.of(catalog.table(reference.fromTable()).orElseThrow());
        connect(owner);
        add(new Leg(owner, use, reference, true));
        return;
      }
      Use nearest = reached.get(0);
      for (Use each : List.copyOf(reached)) {
        boolean plain = uses.role(each).isEmpty();
        if (plain
            && paths.distance(each.table(), use.table())
                < paths.distance(nearest.table(), use.table())) {
          nearest = each;
        }
      }
      follow(nearest, use, chosen(nearest, use));
    }

    private List<Hop> chosen(Use from, Use to) {
      List<List<Hop>> all = paths.between(from.table(), to.table());
      if (all.isEmpty()) {
        throw new WishException(
            "no reference connects "
                + to.name()
                + " with "
                + from.name()
                + "; lantrel survey shows what refers to what");
      }
      ways = Math.max(ways, all.size());
      if (!turned && way > 0 && way < all.size()) {
        turned = true;
        return all.get(way);
      }
      return all.get(0);
    }

    private void follow(Use from, Use to, List<Hop> way) {
      Use at = from;
      for (Hop hop : way) {
        String name = hop.up() ? hop.reference().toTable() : hop.reference().fromTable();
        Table table = catalog.table(name).orElseThrow();
        Use next = table.equals(to.table()) ? to : uses.of(table);
        if (!has(next)) {
          add(new Leg(at, next, hop.reference(), hop.up()));
        }
        at = next;
      }
    }
  }
}
