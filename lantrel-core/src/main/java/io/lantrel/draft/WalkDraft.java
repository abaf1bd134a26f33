package io.lantrel.draft;

import io.lantrel.catalog.Catalog;
import io.lantrel.sql.Dialect;
import java.util.List;

/** A walk along a hierarchy that shows columns of its own table, each with its level and path. */
final class WalkDraft {

  private final Uses uses;
  private final Dialect dialect;
  private final List<Item> items;
  private final Wish.Walk walk;
  private final Use use;
  private final WalkClause clause;

  private WalkDraft(Catalog catalog, Wish wish, Wish.Walk walk) {
    this.uses = new Uses(catalog);
    this.dialect = catalog.dialect();
    this.walk = walk;
    this.use = uses.named(walk.table());
    this.items = wish.shown().stream().map(Item::of).toList();
    this.clause = new WalkClause(uses.freeName("walk"), use, WalkClause.reference(catalog, use));
  }

  /** Whether a walk is all that is wished for: columns of its table, and where it starts. */
  static boolean isAll(Catalog catalog, Wish wish) {
    return wish.walk().filter(walk -> !walk.start().isEmpty()).isPresent()
        && wish.branches().isEmpty()
        && wish.pairs().isEmpty()
        && wish.kept().isEmpty()
        && wish.absent().isEmpty()
        && wish.conditions().isEmpty()
        && wish.order().isEmpty()
        && isOfItsTableAlone(new Uses(catalog), wish);
  }

  private static boolean isOfItsTableAlone(Uses uses, Wish wish) {
    Use walked = uses.named(wish.walk().orElseThrow().table());
    return wish.shown().stream()
        .map(Item::of)
        .allMatch(item -> !item.isAggregate() && uses.named(item.use()).equals(walked));
  }

  static Draft of(Catalog catalog, Wish wish) {
    return new WalkDraft(catalog, wish, wish.walk().orElseThrow()).draft();
  }

  private Draft draft() {
    List<String> columns = items.stream().map(item -> use.known(item.column()).name()).toList();
    String start = new Conditions(uses).write(walk.start(), List.of(use)).text();
    ClauseLayout result = new ClauseLayout();
    result.with.add(clause.from(start, walk.down(), columns));
    for (String column : columns) {
      result.items.add(clause.column(column) + " AS " + dialect.write(use.heading(column)));
    }
    String level = clause.column(WalkClause.LEVEL);
    result.items.add(level);
    result.items.add(clause.column(WalkClause.PATH));
    result.from.add(clause.name());
    result.where.add(level + " > 0");
    result.orderBy.add(level);
    result.orderBy.add(clause.column(columns.get(0)));
    String direction = walk.down() ? "that refers to the start" : "that the start refers to";
    return new Draft(
        result.statement(),
        "one row for each "
            + use.name()
            + " "
            + direction
            + ", directly or over others; level 1 does so directly",
        List.of(
            "walk: level by level along " + clause.reference().words(),
            "walk_path: the keys on the way; a row whose key is on it already is not entered again,"
                + " so that a circle ends; what several starts lead to comes once for each"));
  }
}
