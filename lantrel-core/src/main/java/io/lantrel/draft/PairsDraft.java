package io.lantrel.draft;

import io.lantrel.catalog.Reference;
import io.lantrel.catalog.Table;
import io.lantrel.draft.Drafter.Tree;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * Pairs of rows of one table that refer to the same row, or are beside the same row in a table
 * between: each pair once, no row with itself.
 */
final class PairsDraft {

  private static final String OTHER = "other";

  private final Tree tree;
  private final Uses uses;
  private final Wish wish;
  private final DraftBuilder builder;

  PairsDraft(Tree tree, Wish wish) {
    this.tree = tree;
    this.uses = tree.uses();
    this.wish = wish;
    this.builder = new DraftBuilder(tree, wish);
  }

  Draft draft() {
    Wish.Pairs pairs = wish.pairs().orElseThrow();
    if (!wish.kept().isEmpty() || !wish.absent().isEmpty()) {
      throw new WishException("pairs are not kept, and are not without anything; leave that out");
    }
    Use one = uses.named(pairs.of());
    Optional<Reference> shared = shared(one.table(), pairs.at());
    Optional<JunctionPairs> over =
        shared.isPresent()
            ? Optional.empty()
            : JunctionPairs.between(tree.catalog(), one.table(), pairs.at());
    if (shared.isEmpty() && over.isEmpty()) {
      throw WishException.ofReferences(
          one.table().name()
              + " does not refer to "
              + pairs.at()
              + ", and no table refers to both");
    }
    shared.ifPresent(each -> refuseIfNeverShared(one, each));
    Use other = uses.further(OTHER, one.table());
    tree.begin(one);
    tree.begin(other);
    builder.layout.from.add(one.inFrom());
    List<String> inside =
        over.filter(each -> !showsPlace(each))
            .map(each -> atPlace(each.at().to(), one))
            .orElse(List.of());
    String words =
        shared
            .map(each -> direct(one, other, each))
            .orElseGet(() -> overJunction(one, other, over.orElseThrow(), inside));
    for (Item item : builder.items) {
      if (item.isAggregate()) {
        throw new WishException("pairs show columns; " + item.text() + " is a figure");
      }
      connect(uses.named(item.use()), one, shared);
      builder.layout.items.add(builder.column(item));
    }
    List<Conditions.Written> written =
        wish.conditions().stream()
            .filter(each -> !inside.contains(each))
            .map(each -> builder.conditions.write(each, List.of(one)))
            .toList();
    written.forEach(this::refuseIfBelow);
    written.forEach(each -> each.uses().forEach(use -> connect(use, one, shared)));
    Set<Use> demanded =
        RequiredTables.by(written, builder.layout.from, tree.route(), tree.catalog());
    tree.route()
        .forEach(
            join -> builder.join(join, demanded.contains(join.to()) ? "JOIN" : "LEFT JOIN", ""));
    written.forEach(each -> builder.layout.where.add(each.text()));
    builder.order(tree.reached());
    String beside = beside(one);
    return builder.draft(
        "one row for each two different rows of " + one.name() + words + beside, List.of());
  }

  /** That a pair comes once for each row of a list of the first; two lists would be multiplied. */
  private String beside(Use one) {
    List<Use> shown =
        builder.items.stream()
            .map(item -> uses.named(item.use()))
            .filter(use -> tree.route().stream().anyMatch(join -> join.to().equals(use)))
            .distinct()
            .toList();
    Lists lists = Lists.of(tree, one, shown);
    if (lists.areSeveral() && !wish.everyPair()) {
      throw new WishException(
          "beside pairs of "
              + one.name()
              + ", "
              + Words.list(lists.names())
              + " have nothing to do with each other: each row of one would come with each of the"
              + " other; show one of them, or ask for every pair of them too");
    }
    return lists.isNone()
        ? ""
        : ", and for each "
            + String.join(" beside each ", lists.names())
            + " of the first, if it has any";
  }

  /** What refers by its own key shares with no other row what it refers to. */
  private static void refuseIfNeverShared(Use one, Reference shared) {
    one.table().keys().stream()
        .filter(key -> shared.fromColumns().containsAll(key.columns()))
        .findFirst()
        .ifPresent(
            key -> {
              throw new WishException(
                  "no two rows of "
                      + one.table().name()
                      + " are at the same "
                      + shared.role()
                      + ", since "
                      + shared.words()
                      + " and "
                      + String.join(", ", key.columns())
                      + (key.columns().size() == 1 ? " is" : " are")
                      + " different in each");
            });
  }

  /** A pair would come several times. */
  private void refuseIfBelow(Conditions.Written condition) {
    if (condition.uses().stream().anyMatch(tree::leadsDown)) {
      throw new WishException(
          "\""
              + condition.wished()
              + "\" asks of rows of which there may be several to a pair; leave it out, or ask for"
              + " it of where they meet");
    }
  }

  /** Both refer to the same row. */
  private String direct(Use one, Use other, Reference shared) {
    builder.layout.from.add("JOIN " + other.inFrom() + " ON " + meeting(one, other, shared));
    builder.reasons.add(
        "JOIN other: the second "
            + one.name()
            + " of the pair, at the same "
            + shared.role()
            + "; behind the first by its key, so that each pair comes once");
    return " at the same " + shared.role();
  }

  /**
   * Rows of a table between refer to both, and to the same row besides.
   *
   * @param inside the conditions on where they meet, if nothing is shown of it
   */
  private String overJunction(Use one, Use other, JunctionPairs over, List<String> inside) {
    Use between = uses.inner(over.junction());
    Use further = uses.inner(over.junction());
    String at = over.at().to().name();
    String way = over.of().words() + ", " + over.at().words();
    if (!showsPlace(over)) {
      builder.layout.from.add("JOIN " + other.inFrom() + " ON " + later(one, other));
      Use there = uses.inner(over.at().to());
      List<String> conditions =
          inside.stream()
              .map(each -> builder.conditions.write(each, List.of(there)).text())
              .toList();
      builder.layout.where.add(over.exists(between, further, one, other, there, conditions));
      builder.reasons.add(
          "EXISTS: some " + at + " where both are (" + way + "); each pair comes once");
      return " that meet at some " + at;
    }
    Use place = uses.of(over.at().to());
    tree.begin(place);
    builder.layout.from.add("JOIN " + over.inFrom(between) + " ON " + over.isOf(between, one));
    builder.layout.from.add("JOIN " + over.inFrom(further) + " ON " + over.meets(between, further));
    builder.layout.from.add(
        "JOIN "
            + other.inFrom()
            + " ON "
            + over.named(other, further)
            + " AND "
            + later(one, other));
    builder.layout.from.add("JOIN " + place.inFrom() + " ON " + over.place(place, between));
    builder.reasons.add(
        "JOIN other: the second "
            + one.name()
            + " of the pair at the same "
            + at
            + " ("
            + way
            + "); behind the first by its key, so that each pair comes once for each "
            + at);
    return " at the same " + at + ", and each such " + at;
  }

  /** Whether something is shown of where they meet; of the pair's own table that cannot be told. */
  private boolean showsPlace(JunctionPairs over) {
    Table place = over.at().to();
    return !place.equals(over.of().to())
        && builder.items.stream().anyMatch(item -> uses.named(item.use()).table().equals(place));
  }

  /** The conditions on where they meet. */
  private List<String> atPlace(Table place, Use one) {
    return wish.conditions().stream()
        .filter(
            each ->
                builder.conditions.write(each, List.of(one)).uses().stream()
                    .allMatch(use -> use.table().equals(place) && uses.role(use).isEmpty()))
        .toList();
  }

  /** What both refer to is reached from the first; it is the same for the second. */
  private void connect(Use use, Use one, Optional<Reference> shared) {
    boolean isShared =
        shared.filter(each -> each.to().equals(use.table())).isPresent()
            && uses.role(use).isEmpty();
    if (isShared && !tree.has(use)) {
      tree.add(new JoinAlongReference(one, use, shared.get(), true));
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

  /** The one reference that both have; empty if there is none. */
  private Optional<Reference> shared(Table table, String at) {
    List<Reference> fitting =
        tree.catalog().references().stream()
            .filter(each -> each.from().equals(table))
            .filter(each -> each.to().name().equalsIgnoreCase(at) || Uses.isRole(at, each))
            .toList();
    if (fitting.size() < 2) {
      return fitting.stream().findFirst();
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
