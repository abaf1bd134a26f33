package io.lantrel.draft;

import io.lantrel.catalog.Reference;
import io.lantrel.catalog.Table;
import io.lantrel.draft.Drafter.Tree;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;

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
    DraftBuilder builder = new DraftBuilder(tree, wish);
    tree.begin(one);
    tree.begin(other);
    builder.layout.from.add(one.inFrom());
    builder.layout.from.add("JOIN " + other.inFrom() + " ON " + meeting(one, other, shared));
    builder.reasons.add(
        "JOIN other: the second "
            + one.name()
            + " of the pair, at the same "
            + shared.role()
            + "; behind the first by its key, so that each pair comes once");
    for (Item item : builder.items) {
      if (item.isAggregate()) {
        throw new WishException("pairs show columns; " + item.text() + " is a figure");
      }
      connect(uses.named(item.use()), one, shared);
      builder.layout.items.add(builder.column(item));
    }
    List<Conditions.Written> written =
        wish.conditions().stream()
            .map(each -> builder.conditions.write(each, List.of(one)))
            .toList();
    written.forEach(each -> each.uses().forEach(use -> connect(use, one, shared)));
    Set<Use> demanded =
        RequiredTables.by(written, builder.layout.from, tree.route(), tree.catalog());
    tree.route()
        .forEach(
            join -> builder.join(join, demanded.contains(join.to()) ? "JOIN" : "LEFT JOIN", ""));
    written.forEach(each -> builder.layout.where.add(each.text()));
    builder.order(tree.reached());
    return builder.draft(
        "one row for each two different rows of " + one.name() + " at the same " + shared.role(),
        List.of());
  }

  /** What both refer to is reached from the first; it is the same for the second. */
  private void connect(Use use, Use one, Reference shared) {
    boolean isShared = use.table().equals(shared.to()) && uses.role(use).isEmpty();
    if (isShared && !tree.has(use)) {
      tree.add(new JoinAlongReference(one, use, shared, true));
    } else {
      tree.connect(use);
    }
  }

  private static String meeting(Use one, Use other, Reference shared) {
    List<String> on = new ArrayList<>();
    for (String column : shared.fromColumns()) {
      on.add(other.column(column) + " = " + one.column(column));
    }
    on.add(later(one, other));
    return String.join(" AND ", on);
  }

  private Reference shared(Table table, String at) {
    List<Reference> fitting =
        tree.catalog().references().stream()
            .filter(each -> each.from().equals(table))
            .filter(
                each -> each.to().name().equalsIgnoreCase(at) || each.role().equalsIgnoreCase(at))
            .toList();
    if (fitting.size() == 1) {
      return fitting.get(0);
    }
    if (fitting.isEmpty()) {
      throw WishException.ofReferences(table.name() + " does not refer to " + at);
    }
    throw new WishException(
        table.name()
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
