package io.lantrel.draft;

import io.lantrel.catalog.Reference;
import io.lantrel.catalog.Table;
import io.lantrel.draft.Drafter.Tree;
import io.lantrel.draft.Item.Aggregate;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;

/** What every draft is written with: its text so far, and how its parts are written. */
final class DraftBuilder implements AggregateQuery.Style {

  final Tree tree;
  final Uses uses;
  final Wish wish;
  final Conditions conditions;
  final List<Item> items;
  final ClauseLayout layout = new ClauseLayout();
  final List<String> reasons = new ArrayList<>();

  DraftBuilder(Tree tree, Wish wish) {
    this.tree = tree;
    this.uses = tree.uses();
    this.wish = wish;
    this.conditions = new Conditions(uses);
    this.items = wish.shown().stream().map(Item::of).toList();
  }

  /** A name as the draft has it. */
  String name(String name) {
    return uses.dialect().write(name);
  }

  @Override
  public String keyword(String word) {
    return word;
  }

  @Override
  public String table(Use use) {
    return use.inFrom();
  }

  @Override
  public String join(JoinAlongReference join, String word) {
    return join.joined(word);
  }

  /** Below the SELECT of a query among the output columns. */
  @Override
  public String gap(int depth) {
    return "\n" + " ".repeat(8 + depth * "WHERE EXISTS (".length());
  }

  void join(JoinAlongReference join, String word, String furtherCondition) {
    layout.from.add(join.joined(word) + furtherCondition);
    String kept =
        word.startsWith("LEFT")
            ? "; " + Words.one(join.from().name()) + " without one is kept"
            : "";
    reasons.add(join.reason(word) + kept);
  }

  /** Joins what every row has, so that nothing is lost. */
  void joinSurely(JoinAlongReference join) {
    layout.from.add(join.joined("JOIN"));
    reasons.add(join.reason("JOIN") + "; every " + join.from().name() + " names one");
  }

  /**
   * FROM and WHERE of a query of its own; what no condition demands stays optional.
   *
   * @param from behind the first table, before the route
   */
  void fill(
      ClauseLayout inner,
      Use first,
      List<String> from,
      List<JoinAlongReference> route,
      List<Conditions.Written> conditions) {
    Set<Use> demanded =
        RequiredTables.by(conditions, List.of(first.inFrom()), route, tree.catalog());
    inner.from.add(first.inFrom());
    inner.from.addAll(from);
    route.forEach(
        join -> inner.from.add(join.joined(demanded.contains(join.to()) ? "JOIN" : "LEFT JOIN")));
    conditions.forEach(each -> inner.where.add(each.text()));
  }

  /** A query of its own, joined under a name. */
  void joinDerived(ClauseLayout inner, String alias, List<String> on) {
    layout.from.add(
        "LEFT JOIN (\n  "
            + ClauseLayout.indented(inner.text(), 2)
            + "\n) "
            + alias
            + " ON "
            + String.join(" AND ", on));
  }

  /** A column that is shown. */
  String column(Item item) {
    Use use = uses.named(item.use());
    return use.column(item.column()) + " AS " + name(use.heading(item.column()));
  }

  /** A figure that is worked out here. */
  String figure(Item item) {
    return call(item, uses.named(item.use())) + " AS " + name(heading(item));
  }

  /** A figure that a query of its own has worked out; 0 where there was nothing to count. */
  String figureOf(String derived, Item item) {
    String heading = name(heading(item));
    String value = derived + "." + heading;
    boolean count = item.aggregate() == Aggregate.COUNT;
    return (count ? "COALESCE(" + value + ", 0)" : value) + " AS " + heading;
  }

  static String call(Item item, Use use) {
    return call(item, use, item.aggregate().function(), "DISTINCT ");
  }

  /** The same with its words in another way of writing. */
  static String call(Item item, Use use, AggregateQuery.Style style) {
    return call(
        item, use, style.keyword(item.aggregate().function()), style.keyword("DISTINCT") + " ");
  }

  private static String call(Item item, Use use, String function, String distinct) {
    String of = item.column().isEmpty() ? use.key().get(0) : use.column(item.column());
    return function + "(" + (item.different() ? distinct : "") + of + ")";
  }

  static String heading(Item item) {
    if (item.aggregate() == Aggregate.COUNT && item.column().isEmpty()) {
      return item.use() + "_count";
    }
    String different = item.different() ? "different_" : "";
    return item.aggregate().word() + "_" + different + item.use() + "_" + item.column();
  }

  /** What a query of its own is called that works out figures of a table. */
  String derived(Use use) {
    return name("of_" + use.name().toLowerCase(Locale.ROOT));
  }

  static String words(List<JoinAlongReference> route) {
    return String.join(", ", route.stream().map(join -> join.reference().words()).toList());
  }

  static String names(List<Use> uses, String between) {
    return String.join(between, uses.stream().map(Use::name).toList());
  }

  /** Only rows of a use to which none of some table belongs. */
  void without(Use main, Wish.Absent absent) {
    Table table = tree.catalog().table(absent.table()).orElse(null);
    if (table == null) {
      uses.named(absent.table());
      throw new WishException("\"without " + absent.table() + "\" needs the name of a table");
    }
    List<JoinAlongReference> route =
        table.equals(main.table()) ? below(main) : tree.into(main, table);
    List<Use> within = route.stream().map(JoinAlongReference::to).toList();
    exists(
        "NOT EXISTS",
        route,
        absent.condition().isEmpty()
            ? List.of()
            : List.of(conditions.write(absent.condition(), within).text()));
    reasons.add(
        "NOT EXISTS: no "
            + table.name()
            + (absent.condition().isEmpty() ? "" : " with " + absent.condition())
            + " that belongs to the "
            + main.name()
            + " ("
            + words(route)
            + ")");
  }

  /** Only rows to which some rows of a table belong that nothing is shown of. */
  void with(String condition, Conditions.Written written, List<Use> plain) {
    List<Use> further = written.uses().stream().filter(use -> !tree.has(use)).toList();
    Use last = further.get(further.size() - 1);
    Use start = tree.nearest(last.table());
    if (!wish.kept().isEmpty()) {
      throw idle(condition, further);
    }
    List<JoinAlongReference> route = tree.into(start, last.table());
    List<Use> within = new ArrayList<>(plain);
    route.forEach(join -> within.add(0, join.to()));
    Conditions.Written inside = conditions.write(condition, within);
    Optional<Use> missing = inside.uses().stream().filter(use -> !isAt(use, route)).findFirst();
    if (missing.isPresent()) {
      throw new WishException(
          "\""
              + condition
              + "\" asks of "
              + names(further, " and ")
              + " at once, of which nothing is shown; write a condition for each");
    }
    exists("EXISTS", route, List.of(inside.text()));
    reasons.add(
        "EXISTS: some "
            + last.table().name()
            + " with "
            + condition
            + " that belongs to the "
            + start.name()
            + " ("
            + words(route)
            + ")");
  }

  /** That a condition would change nothing beside rows that are all kept. */
  WishException idle(String condition, List<Use> uses) {
    return new WishException(
        "every "
            + String.join(" and every ", wish.kept())
            + " is kept, so \""
            + condition
            + "\" would change nothing, since nothing of "
            + names(uses, " and ")
            + " is shown; leave one of the two out, or show something of it");
  }

  /** Asks for rows at the end of a way that starts at a table of the draft. */
  private void exists(String word, List<JoinAlongReference> route, List<String> further) {
    ClauseLayout inner = new ClauseLayout();
    inner.items.add("1");
    inner.from.add(route.get(0).to().inFrom());
    route.stream().skip(1).forEach(join -> inner.from.add(join.joined("JOIN")));
    inner.where.add(route.get(0).condition());
    inner.where.addAll(further);
    layout.where.add(word + " (\n    " + ClauseLayout.indented(inner.text(), 4) + "\n  )");
  }

  private boolean isAt(Use use, List<JoinAlongReference> route) {
    return tree.has(use) || route.stream().anyMatch(join -> join.to().equals(use));
  }

  /** Rows of the same table that refer to a row of it. */
  private List<JoinAlongReference> below(Use main) {
    List<Reference> own =
        tree.catalog().references().stream()
            .filter(each -> each.isSelfReference() && each.from().equals(main.table()))
            .toList();
    if (own.size() != 1) {
      String message =
          main.name()
              + (own.isEmpty() ? " does not refer to itself" : " refers to itself in several ways")
              + ", so \"without "
              + main.name()
              + "\" says nothing of its rows; name another table";
      throw own.isEmpty() ? WishException.ofReferences(message) : new WishException(message);
    }
    return List.of(new JoinAlongReference(main, uses.inner(main.table()), own.get(0), false));
  }

  /** The order of the rows: by what is shown, or by columns of tables that are there. */
  void order(List<Use> there) {
    for (String wanted : wish.order()) {
      ItemOrder order = ItemOrder.of(wanted);
      Item item = order.item();
      Use use = uses.named(item.use());
      boolean known =
          item.isAggregate()
              ? items.stream().anyMatch(each -> heading(each).equals(heading(item)))
              : there.contains(use);
      if (!known) {
        throw new WishException(
            "the rows cannot be put in order by "
                + item.text()
                + ", which is not shown; show it"
                + (there.isEmpty() ? "" : ", or name a column of " + names(there, " or ")));
      }
      String value = item.isAggregate() ? name(heading(item)) : use.column(item.column());
      if (!item.isAggregate() && !layout.groupBy.isEmpty() && !layout.groupBy.contains(value)) {
        layout.groupBy.add(value);
      }
      layout.orderBy.add(order.by(value));
    }
  }

  Draft draft(String reading, List<String> claims) {
    return new Draft(layout.statement(), reading, reasons, claims, "");
  }
}
