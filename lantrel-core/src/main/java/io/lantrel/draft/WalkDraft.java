package io.lantrel.draft;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Reference;
import io.lantrel.edit.PathText;
import io.lantrel.sql.Dialect;
import java.util.ArrayList;
import java.util.List;

/**
 * A walk along a hierarchy (ISO/IEC 9075-2, 7.17, recursive query): level by level, with the path
 * that led to each row, by which a circle is noticed and left.
 */
final class WalkDraft {

  private static final String WALK = "walk";
  private static final String LEVEL = "walk_level";
  private static final String PATH = "walk_path";

  private final Catalog catalog;
  private final Dialect dialect;
  private final Wish wish;
  private final Wish.Walk walk;

  WalkDraft(Catalog catalog, Wish wish) {
    this.catalog = catalog;
    this.dialect = catalog.dialect();
    this.wish = wish;
    this.walk = wish.walk().orElseThrow();
  }

  Draft draft() {
    Uses uses = new Uses(catalog);
    PathText path = new PathText(dialect);
    Use use = uses.named(walk.table());
    Reference reference = reference(use);
    String key = reference.toColumns().get(0);
    String parent = reference.fromColumns().get(0);
    List<String> columns = new ArrayList<>(List.of(key));
    if (!walk.down()) {
      columns.add(parent);
    }
    List<Item> items = wish.shown().stream().map(Item::of).toList();
    for (Item item : items) {
      if (item.isAggregate() || !uses.named(item.use()).equals(use)) {
        throw new WishException(
            "a walk shows columns of " + use.name() + "; " + item.text() + " is none of them");
      }
      String column = use.known(item.column()).name();
      if (!columns.contains(column)) {
        columns.add(column);
      }
    }
    Conditions conditions = new Conditions(uses);
    ClauseLayout start = new ClauseLayout();
    columns.forEach(each -> start.items.add(use.column(each)));
    start.items.add("0");
    start.items.add(path.first(use.column(key)));
    start.from.add(use.inFrom());
    start.where.add(conditions.write(walk.start(), List.of(use)).text());

    ClauseLayout step = new ClauseLayout();
    columns.forEach(each -> step.items.add(use.column(each)));
    step.items.add(WALK + "." + LEVEL + " + 1");
    step.items.add(path.longer(WALK + "." + PATH, use.column(key)));
    step.from.add(WALK);
    String here = WALK + "." + dialect.write(walk.down() ? key : parent);
    step.from.add(
        "JOIN " + use.inFrom() + " ON " + use.column(walk.down() ? parent : key) + " = " + here);
    step.where.add(path.isNotOn(WALK + "." + PATH, use.column(key)));

    ClauseLayout result = new ClauseLayout();
    for (Item item : items) {
      String column = use.known(item.column()).name();
      result.items.add(
          WALK + "." + dialect.write(column) + " AS " + dialect.write(use.heading(column)));
    }
    result.items.add(WALK + "." + LEVEL);
    result.items.add(WALK + "." + PATH);
    result.from.add(WALK);
    result.where.add(WALK + "." + LEVEL + " > 0");
    wish.conditions()
        .forEach(
            each -> {
              throw new WishException(
                  "a walk starts where it is told, and takes no further condition: " + each);
            });
    result.orderBy.add(WALK + "." + LEVEL);
    items.stream()
        .limit(1)
        .forEach(
            item ->
                result.orderBy.add(WALK + "." + dialect.write(use.known(item.column()).name())));

    List<String> names = new ArrayList<>(columns.stream().map(dialect::write).toList());
    names.add(LEVEL);
    names.add(PATH);
    String sql =
        "WITH RECURSIVE "
            + WALK
            + " ("
            + String.join(", ", names)
            + ") AS (\n  "
            + ClauseLayout.indented(start.text(), 2)
            + "\n  UNION ALL\n  "
            + ClauseLayout.indented(step.text(), 2)
            + "\n)\n"
            + result.text();
    String direction = walk.down() ? "that refers to the start" : "that the start refers to";
    return new Draft(
        sql,
        "one row for each "
            + use.name()
            + " "
            + direction
            + ", directly or over others; level 1 does so directly",
        List.of(
            "walk: level by level along " + reference.words(),
            "walk_path: the keys on the way; a row whose key is on it already is not entered again,"
                + " so that a circle ends"));
  }

  private Reference reference(Use use) {
    List<Reference> own =
        catalog.references().stream()
            .filter(each -> each.isSelfReference() && each.from().equals(use.table()))
            .filter(each -> each.fromColumns().size() == 1)
            .toList();
    if (own.size() == 1) {
      return own.get(0);
    }
    if (own.isEmpty()) {
      throw WishException.ofReferences(
          use.name() + " does not refer to itself, so there is nothing to walk along");
    }
    throw new WishException(
        use.name()
            + " refers to itself in several ways: "
            + String.join(", ", own.stream().map(Reference::words).toList()));
  }
}
