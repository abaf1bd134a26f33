package io.lantrel.draft;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Column;
import io.lantrel.catalog.ColumnType;
import io.lantrel.catalog.TypeFamily;
import io.lantrel.draft.Drafter.Tree;
import io.lantrel.sql.Dialect.Rule;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * Drafts for several lists that have nothing to do with each other but the row that they belong to:
 * one list behind the other, and a row with figures of each list.
 */
final class ListsDraft {

  private static final Set<TypeFamily> NUMBERS =
      Set.of(TypeFamily.INTEGER, TypeFamily.DECIMAL, TypeFamily.FLOAT);

  private final Catalog catalog;
  private final Paths paths;
  private final Wish wish;
  private final List<Item> items;
  private final Tree tree;
  private final Lists lists;

  private ListsDraft(Catalog catalog, Paths paths, Wish wish, Tree tree, Lists lists) {
    this.catalog = catalog;
    this.paths = paths;
    this.wish = wish;
    this.items = wish.shown().stream().map(Item::of).toList();
    this.tree = tree;
    this.lists = lists;
  }

  /** Empty unless the wish shows columns of several lists, and not every pair of their rows. */
  static Optional<ListsDraft> of(Catalog catalog, Paths paths, Wish wish) {
    List<Item> items = wish.shown().stream().map(Item::of).toList();
    boolean columns = items.stream().noneMatch(Item::isAggregate);
    if (wish.everyPair() || wish.pairs().isPresent() || !columns) {
      return Optional.empty();
    }
    Tree first = new Tree(catalog, paths, 0);
    List<Use> uses = uses(first, wish, items);
    Lists lists = connected(first, first.leading(uses.get(0), uses), uses);
    if (!lists.areSeveral()) {
      return Optional.empty();
    }
    Tree tree = new Tree(catalog, paths, 0);
    List<Use> again = uses(tree, wish, items);
    Lists fromParent = connected(tree, tree.uses().of(lists.parent().table()), again);
    return fromParent.isTurned() || fromParent.downs().size() < 2
        ? Optional.empty()
        : Optional.of(new ListsDraft(catalog, paths, wish, tree, fromParent));
  }

  private static List<Use> uses(Tree tree, Wish wish, List<Item> items) {
    Set<Use> uses = new LinkedHashSet<>();
    wish.kept().forEach(name -> uses.add(tree.uses().named(name)));
    items.forEach(item -> uses.add(tree.uses().named(item.use())));
    return List.copyOf(uses);
  }

  private static Lists connected(Tree tree, Use first, List<Use> uses) {
    tree.begin(first);
    uses.forEach(tree::connect);
    return Lists.of(tree, first, uses);
  }

  List<Draft> drafts() {
    List<Draft> drafts = new ArrayList<>(List.of(oneBehindTheOther()));
    figures().ifPresent(drafts::add);
    return drafts;
  }

  /** The steps down to a table. */
  private Set<JoinAlongReference> downs(Use use) {
    tree.connect(use);
    Set<JoinAlongReference> downs = new LinkedHashSet<>(tree.from(lists.first(), use));
    downs.removeIf(JoinAlongReference::up);
    return downs;
  }

  private Set<JoinAlongReference> downs(Item item) {
    return downs(tree.uses().named(item.use()));
  }

  /** The steps that all lists have in common. */
  private Set<JoinAlongReference> common() {
    Set<JoinAlongReference> common = new LinkedHashSet<>(lists.downs().get(0));
    lists.downs().forEach(common::retainAll);
    return common;
  }

  /** The table whose rows have the lists. */
  private Use parent() {
    List<JoinAlongReference> common = List.copyOf(common());
    return common.isEmpty() ? lists.first() : common.get(common.size() - 1).to();
  }

  // ---- one behind the other ----

  private Draft oneBehindTheOther() {
    List<String> arms = new ArrayList<>();
    List<String> words = new ArrayList<>();
    Set<String> reasons = new LinkedHashSet<>();
    List<String> with = List.of();
    for (int i = 0; i < lists.downs().size(); i++) {
      SelectDraft arm =
          SelectDraft.list(new Tree(catalog, paths, 0), wishFor(i, conditions(i)), lead(), i > 0);
      reasons.addAll(arm.draft().reasons());
      words.add(arm.words());
      spread(arm.layout(), i);
      arms.add(arm.layout().text());
      // Each arm walks in the same way; it is written once.
      with = arm.layout().with;
    }
    reasons.add(
        "UNION ALL: the lists have nothing to do with each other; joined, each "
            + String.join(" would come with each ", lists.names())
            + " of the same "
            + parent().name());
    StringBuilder sql = new StringBuilder(String.join("\nUNION ALL\n", arms));
    if (!wish.order().isEmpty()) {
      sql.append("\nORDER BY ").append(String.join(", ", order()));
    }
    return new Draft(
            ClauseLayout.statement(with, sql.toString()),
            String.join("; then ", words) + "; a column of another list is NULL",
            List.copyOf(reasons))
        .as("one list behind the other");
  }

  /** What must not be there must not be there of the parent, so a list begins with it then. */
  private List<String> lead() {
    return wish.absent().isEmpty() ? List.of() : List.of(parent().name());
  }

  private boolean isIn(int list, Item item) {
    return lists.downs().get(list).containsAll(downs(item));
  }

  private Wish wishFor(int list, List<String> conditions) {
    List<String> shown = items.stream().filter(item -> isIn(list, item)).map(Item::text).toList();
    List<String> kept =
        wish.kept().stream()
            .filter(
                name -> {
                  Set<JoinAlongReference> downs = downs(tree.uses().named(name));
                  boolean above = common().containsAll(downs);
                  return above ? list == 0 : lists.downs().get(list).containsAll(downs);
                })
            .toList();
    return wish.of(shown, kept, conditions);
  }

  /** The conditions that rows of a list must meet. */
  private List<String> conditions(int list) {
    List<Use> shown = items.stream().map(item -> tree.uses().named(item.use())).toList();
    List<String> own = new ArrayList<>();
    for (String condition : wish.conditions()) {
      Set<JoinAlongReference> downs = new LinkedHashSet<>();
      new Conditions(tree.uses())
          .write(condition, shown)
          .uses()
          .forEach(use -> downs.addAll(downs(use)));
      if (askedOf(downs).isEmpty()) {
        throw new WishException(
            "\""
                + condition
                + "\" asks of rows of several lists at once ("
                + String.join(", ", lists.names())
                + "); ask for one of them, or for every pair");
      }
      if (askedOf(downs).contains(lists.downs().get(list))) {
        own.add(condition);
      }
    }
    return own;
  }

  /** The lists whose rows a condition asks of: all, if of their parent; none, if of several. */
  private List<Set<JoinAlongReference>> askedOf(Set<JoinAlongReference> downs) {
    List<Set<JoinAlongReference>> within =
        lists.downs().stream().filter(each -> each.containsAll(downs)).toList();
    List<Set<JoinAlongReference>> beyond =
        lists.downs().stream().filter(downs::containsAll).toList();
    return within.isEmpty() && beyond.size() == 1 ? beyond : within;
  }

  /** Puts the columns of a list where they belong among all that are shown. */
  private void spread(ClauseLayout layout, int list) {
    List<String> own = new ArrayList<>(layout.items);
    layout.items.clear();
    for (Item item : items) {
      layout.items.add(
          isIn(list, item) ? own.remove(0) : nothing(column(item).type()) + " AS " + heading(item));
    }
  }

  /** NULL, of a type where the engine would take it for a text. */
  private String nothing(ColumnType type) {
    boolean typed = catalog.dialect().has(Rule.BARE_NULLS_ARE_TEXTS) && lists.downs().size() > 2;
    return typed ? "CAST(NULL AS " + type.text() + ")" : "NULL";
  }

  private Column column(Item item) {
    return tree.uses().named(item.use()).known(item.column());
  }

  private String heading(Item item) {
    return catalog.dialect().write(tree.uses().named(item.use()).heading(item.column()));
  }

  private List<String> order() {
    List<String> order = new ArrayList<>();
    for (String wanted : wish.order()) {
      ItemOrder by = ItemOrder.of(wanted);
      Item item = by.item();
      if (items.stream().noneMatch(each -> each.text().equalsIgnoreCase(item.text()))) {
        throw new WishException(
            "lists that stand one behind the other are put in order by what is shown; "
                + item.text()
                + " is not");
      }
      order.add(by.by(heading(item)));
    }
    return order;
  }

  // ---- figures ----

  /** A row for each parent; empty if the conditions leave no place for figures of each list. */
  private Optional<Draft> figures() {
    List<String> shown = new ArrayList<>();
    items.stream()
        .filter(item -> common().containsAll(downs(item)))
        .forEach(item -> shown.add(item.text()));
    if (shown.isEmpty()) {
      parent()
          .table()
          .identifyingColumns()
          .forEach(each -> shown.add(quoted(parent().name()) + "." + quoted(each.name())));
    }
    for (int i = 0; i < lists.downs().size(); i++) {
      Use lowest = lists.lowest(i);
      shown.add("count of " + quoted(lowest.name()));
      items.stream()
          .filter(item -> tree.uses().named(item.use()).equals(lowest) && isMeasure(lowest, item))
          .forEach(item -> shown.add("average of " + item.text()));
    }
    try {
      Wish figures = wish.of(shown, List.of(), wish.conditions());
      return Optional.of(
          new SelectDraft(new Tree(catalog, paths, 0), figures)
              .draft()
              .as("figures for each " + parent().name()));
    } catch (WishException noPlace) {
      return Optional.empty();
    }
  }

  private boolean isMeasure(Use use, Item item) {
    String name = column(item).name();
    boolean names =
        use.table().keys().stream().anyMatch(key -> key.columns().contains(name))
            || catalog.references().stream()
                .anyMatch(
                    each -> each.from().equals(use.table()) && each.fromColumns().contains(name));
    return !names && NUMBERS.contains(column(item).type().family());
  }

  private static String quoted(String name) {
    return '"' + name + '"';
  }
}
