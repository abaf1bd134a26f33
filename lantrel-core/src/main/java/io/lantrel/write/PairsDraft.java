package io.lantrel.write;

import io.lantrel.catalog.Reference;
import io.lantrel.catalog.Table;
import io.lantrel.write.Drafter.Tree;
import java.util.ArrayList;
import java.util.List;

/** Pairs of rows of one table that refer to the same row: each pair once, no row with itself. */
final class PairsDraft {

  private static final String OTHER = "other";

  private final Tree tree;
  private final Uses uses;
  private final Wish wish;

  PairsDraft(Tree tree, Wish wish) {
    this.tree = tree;
    this.uses = tree.uses();
    this.wish = wish;
  }

  Draft draft() {
    Wish.Pairs pairs = wish.pairs().orElseThrow();
    if (!wish.kept().isEmpty() || !wish.absent().isEmpty()) {
      throw new WishException("pairs are not kept, and are not without anything; leave that out");
    }
    Use one = uses.named(pairs.of());
    Reference shared = shared(one.table(), pairs.at());
    Use other = uses.further(OTHER, one.table());
    tree.begin(one);
    List<Item> items = wish.shown().stream().map(Item::of).toList();
    Layout layout = new Layout();
    List<String> reasons = new ArrayList<>();
    List<String> on = new ArrayList<>();
    for (String column : shared.fromColumns()) {
      on.add(other.column(column) + " = " + one.column(column));
    }
    on.add(later(one, other));
    layout.from.add(one.inFrom());
    layout.from.add("JOIN " + other.inFrom() + " ON " + String.join(" AND ", on));
    reasons.add(
        "JOIN other: the second "
            + one.name()
            + " of the pair, at the same "
            + shared.role()
            + "; behind the first by its key, so that each pair comes once");
    for (Item item : items) {
      if (item.isFigure()) {
        throw new WishException("pairs show columns; " + item.text() + " is a figure");
      }
      Use use = uses.named(item.use());
      boolean isShared =
          use.table().name().equals(shared.toTable()) && !use.equals(one) && !use.equals(other);
      if (isShared && !tree.has(use)) {
        tree.add(new Leg(one, use, shared, true));
      } else if (!use.equals(other)) {
        tree.connect(use);
      }
      layout.items.add(
          use.column(item.column()) + " AS " + uses.dialect().write(use.heading(item.column())));
    }
    Conditions conditions = new Conditions(uses);
    wish.conditions()
        .forEach(each -> layout.where.add(conditions.write(each, List.of(one)).text()));
    for (Leg leg : tree.legs()) {
      layout.from.add("LEFT JOIN " + leg.to().inFrom() + " ON " + leg.condition());
      reasons.add(leg.reason("LEFT JOIN"));
    }
    for (String wanted : wish.order()) {
      Item item = Item.of(wanted.replaceFirst("(?i)\\s+(desc|asc)$", ""));
      String down = wanted.matches("(?i).*\\s+desc") ? " DESC" : "";
      layout.orderBy.add(uses.named(item.use()).column(item.column()) + down);
    }
    return new Draft(
        layout.text(),
        "one row for each two different rows of " + one.name() + " at the same " + shared.role(),
        reasons);
  }

  private Reference shared(Table table, String at) {
    List<Reference> fitting =
        tree.catalog().references().stream()
            .filter(each -> each.fromTable().equals(table.name()))
            .filter(each -> each.toTable().equalsIgnoreCase(at) || each.role().equalsIgnoreCase(at))
            .toList();
    if (fitting.size() == 1) {
      return fitting.get(0);
    }
    throw new WishException(
        fitting.isEmpty()
            ? table.name() + " does not refer to " + at
            : table.name()
                + " refers to "
                + at
                + " several times; name the role: "
                + String.join(", ", fitting.stream().map(Reference::role).toList()));
  }

  /** The keys in order, so that no row is its own partner and no pair comes twice. */
  private static String later(Use one, Use other) {
    List<String> mine = one.key();
    List<String> theirs = other.key();
    StringBuilder text = new StringBuilder();
    for (int i = 0; i < mine.size(); i++) {
      StringBuilder part = new StringBuilder();
      for (int j = 0; j < i; j++) {
        part.append(theirs.get(j)).append(" = ").append(mine.get(j)).append(" AND ");
      }
      part.append(theirs.get(i)).append(" > ").append(mine.get(i));
      text.append(i == 0 ? "" : " OR ").append(mine.size() == 1 ? part : "(" + part + ")");
    }
    return mine.size() == 1 ? text.toString() : "(" + text + ")";
  }
}
