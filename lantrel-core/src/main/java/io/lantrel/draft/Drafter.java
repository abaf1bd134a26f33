package io.lantrel.draft;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Reference;
import io.lantrel.catalog.Table;
import io.lantrel.draft.Paths.Hop;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.UnaryOperator;
import org.jspecify.annotations.Nullable;

/** Writes queries for wishes over the references of a catalog. */
public final class Drafter {

  /** So many readings of one wish are written at most. */
  private static final int MOST = 4;

  private final Catalog catalog;
  private final Paths paths;

  /**
   * @param catalog with the references to go along; those that a survey observed can be among them
   * @param kept of some references that no row may be without those that all rows keep; what is
   *     promised and not kept is joined so that no row is lost
   */
  public Drafter(Catalog catalog, UnaryOperator<List<Reference>> kept) {
    this.catalog = catalog;
    this.paths = new Paths(catalog, kept);
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
    if (wish.query().isPresent()) {
      return continued(wish, wish.query().get());
    }
    if (WalkDraft.isAll(catalog, wish)) {
      return List.of(WalkDraft.of(catalog, wish));
    }
    if (wish.pairs().isPresent() && (wish.walk().isPresent() || wish.branches().isPresent())) {
      throw new WishException("pairs do not go along a hierarchy; ask for one of the two");
    }
    Optional<ListsDraft> lists = ListsDraft.of(catalog, paths, wish);
    if (lists.isPresent()) {
      return lists.get().drafts();
    }
    List<Draft> drafts = new ArrayList<>();
    Set<String> texts = new LinkedHashSet<>();
    // The first way for each table but one, which takes its second, third … way.
    int ways = 1;
    for (int way = 0; way < ways && drafts.size() < MOST; way++) {
      Tree tree = new Tree(catalog, paths, way);
      Optional<Draft> draft = along(tree, wish, way == 0);
      ways = Math.max(ways, tree.ways());
      draft.filter(each -> texts.add(each.sql())).ifPresent(drafts::add);
    }
    return drafts;
  }

  /** The draft along one way; empty if a further way does not lead to what is wished for. */
  private static Optional<Draft> along(Tree tree, Wish wish, boolean first) {
    try {
      return Optional.of(
          wish.pairs().isPresent()
              ? new PairsDraft(tree, wish).draft()
              : new SelectDraft(tree, wish).draft());
    } catch (WishException unfit) {
      if (first) {
        throw unfit;
      }
      return Optional.empty();
    }
  }

  private List<Draft> continued(Wish wish, String sql) {
    if (!wish.equals(Wish.show(wish.shown().toArray(String[]::new)).continuing(sql))) {
      throw new WishException("only columns and figures can be added to a query that is there");
    }
    List<Draft> drafts = new ArrayList<>();
    Set<String> texts = new LinkedHashSet<>();
    int ways = 1;
    for (int way = 0; way < ways && way < MOST; way++) {
      String text = sql;
      List<String> reasons = new ArrayList<>();
      boolean turned = false;
      for (String shown : wish.shown()) {
        Continuation continuation = new Continuation(text, catalog, paths, turned ? 0 : way);
        Draft draft = continuation.with(Item.of(shown));
        ways = Math.max(ways, continuation.ways());
        turned |= way > 0 && continuation.ways() > way;
        text = draft.sql();
        reasons.addAll(draft.reasons());
      }
      if (texts.add(text)) {
        String reading = "The query, and " + String.join(", ", wish.shown()) + " besides";
        drafts.add(new Draft(text, reading, reasons));
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
    private final @Nullable Tree outer;
    private int ways = 1;
    private boolean turned;
    private final Map<Use, JoinAlongReference> route = new LinkedHashMap<>();
    private final List<Use> reached = new ArrayList<>();

    Tree(Catalog catalog, Paths paths, int way) {
      this(catalog, paths, new Uses(catalog), way, null);
    }

    private Tree(Catalog catalog, Paths paths, Uses uses, int way, @Nullable Tree outer) {
      this.outer = outer;
      this.catalog = catalog;
      this.paths = paths;
      this.uses = uses;
      this.way = way;
    }

    /** One for a query within the draft. */
    Tree apart() {
      return new Tree(catalog, paths, uses.apart(), way, this);
    }

    /** One that only tells how things would hang together. */
    Tree onTrial() {
      return new Tree(catalog, paths, turned ? 0 : way);
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

    /** Those of the joins by which every row finds a partner. */
    Set<JoinAlongReference> sure() {
      return paths.sure(route());
    }

    /** In the order in which they can be joined. */
    List<JoinAlongReference> route() {
      return List.copyOf(route.values());
    }

    List<JoinAlongReference> from(Use start, Use target) {
      List<JoinAlongReference> path = new ArrayList<>();
      Use at = target;
      while (!at.equals(start) && route.containsKey(at)) {
        JoinAlongReference join = route.get(at);
        path.add(0, join);
        at = join.from();
      }
      return path;
    }

    boolean has(Use use) {
      return reached.contains(use);
    }

    /** All tables that are there. */
    List<Use> reached() {
      return List.copyOf(reached);
    }

    /** The steps into a subquery: uses of its own, but for the first one's start. */
    List<JoinAlongReference> into(Use start, Table table) {
      List<JoinAlongReference> into = new ArrayList<>();
      Use at = start;
      for (Hop hop : chosen(start.table(), start.name(), table, table.name())) {
        Use next = uses.inner(end(hop));
        into.add(new JoinAlongReference(at, next, hop.reference(), hop.up()));
        at = next;
      }
      return into;
    }

    private static Table end(Hop hop) {
      return hop.up() ? hop.reference().to() : hop.reference().from();
    }

    void add(JoinAlongReference join) {
      route.put(join.to(), join);
      reached.add(join.to());
    }

    /** Connects a use with what is there already. */
    void connect(Use use) {
      if (has(use)) {
        return;
      }
      if (uses.role(use).isPresent()) {
        Reference reference = uses.role(use).get();
        Use owner = owner(use, reference);
        connect(owner);
        add(new JoinAlongReference(owner, use, reference, true));
        return;
      }
      Use nearest = nearest(use.table());
      if (nearest.table().equals(use.table())) {
        throw new WishException(
            use.name() + " is called " + nearest.name() + " already; use one of the two names");
      }
      List<Hop> way = chosen(nearest.table(), nearest.name(), use.table(), use.name());
      refuseSecondName(nearest, use, way);
      follow(nearest, use, way);
    }

    /** What names a role; of two that name each other the one that is there already. */
    private Use owner(Use use, Reference role) {
      return uses.owner(use)
          .filter(each -> has(each) || !uses.goesRound(use))
          .orElseGet(() -> uses.of(role.from()));
    }

    /**
     * Where a query begins that shows a use first: with what names a role, if that is shown too, as
     * the warden beside the mentor, or if something else of the role's own table is.
     *
     * @param shown all that is shown
     */
    Use leading(Use use, List<Use> shown) {
      Optional<Use> owner = uses.owner(use);
      if (owner.isPresent() && !uses.goesRound(use)) {
        return leading(owner.get(), shown);
      }
      boolean beside =
          shown.stream().anyMatch(each -> !each.equals(use) && each.table().equals(use.table()));
      return uses.role(use).filter(role -> beside).map(role -> uses.of(role.from())).orElse(use);
    }

    /** Of the tables that are there, the one that a further one is nearest to. */
    Use nearest(Table table) {
      Use nearest = reached.get(0);
      for (Use each : List.copyOf(reached)) {
        boolean plain = uses.role(each).isEmpty();
        if (plain && paths.distance(each.table(), table) < paths.distance(nearest.table(), table)) {
          nearest = each;
        }
      }
      return nearest;
    }

    /** What is there in a role is not joined once more under its own name, in the same way. */
    private void refuseSecondName(Use nearest, Use use, List<Hop> way) {
      for (Use other : reached) {
        Optional<Reference> role = uses.role(other);
        if (way.size() == 1
            && way.get(0).up()
            && role.equals(Optional.of(way.get(0).reference()))) {
          throw new WishException(
              "the "
                  + use.name()
                  + " of "
                  + Words.one(nearest.name())
                  + " is called "
                  + other.name()
                  + " already ("
                  + role.get().words()
                  + "); use one of the two names");
        }
      }
    }

    /** Whether reaching a table from what is there leads down, to several rows. */
    boolean leadsDown(Use use) {
      if (has(use)) {
        return false;
      }
      if (uses.role(use).isPresent()) {
        return leadsDown(owner(use, uses.role(use).get()));
      }
      Use nearest = nearest(use.table());
      List<List<Hop>> all = ways(nearest.table(), use.table());
      return !all.isEmpty() && all.get(next(all)).stream().anyMatch(hop -> !hop.up());
    }

    /**
     * The ways between two tables, but not by a reference that has a role already, as the part of a
     * pair: up it is that role under another name, and down it leads back to the row that it came
     * from. If there is no other, these.
     */
    private List<List<Hop>> ways(Table from, Table to) {
      List<List<Hop>> all = paths.between(from, to);
      List<List<Hop>> others =
          all.stream()
              .filter(way -> way.stream().map(Hop::reference).noneMatch(uses::isRole))
              .toList();
      return others.isEmpty() ? all : others;
    }

    /** Which of the ways is taken. */
    private int next(List<List<Hop>> all) {
      return !turned && way < all.size() ? way : 0;
    }

    private List<Hop> chosen(Table from, String fromName, Table to, String toName) {
      List<List<Hop>> all = ways(from, to);
      if (all.isEmpty()) {
        throw WishException.ofReferences("no reference connects " + toName + " with " + fromName);
      }
      tellWays(all.size());
      List<Hop> chosen = all.get(next(all));
      turned |= way > 0 && way < all.size();
      return chosen;
    }

    private void tellWays(int count) {
      ways = Math.max(ways, count);
      if (outer != null) {
        outer.tellWays(count);
      }
    }

    private void follow(Use from, Use to, List<Hop> way) {
      Use at = from;
      for (Hop hop : way) {
        Table table = end(hop);
        Use next = table.equals(to.table()) ? to : uses.of(table);
        if (!has(next)) {
          add(new JoinAlongReference(at, next, hop.reference(), hop.up()));
        }
        at = next;
      }
    }
  }
}
