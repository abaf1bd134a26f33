package io.lantrel.draft;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Reference;
import io.lantrel.edit.PathText;
import io.lantrel.sql.Dialect;
import java.util.ArrayList;
import java.util.List;

/**
 * A member of WITH RECURSIVE that walks along a hierarchy (ISO/IEC 9075-2, 7.17): level by level,
 * with the path that led to each row, by which a circle is noticed and left.
 */
final class WalkClause {

  static final String LEVEL = "walk_level";
  static final String PATH = "walk_path";
  static final String TOP = "walk_top";

  private final Use use;
  private final Reference reference;
  private final Dialect dialect;
  private final PathText path;
  private final String name;

  /**
   * @param name what the member is called
   * @param use the table as it stands within the member
   * @param reference of the table to itself
   */
  WalkClause(String name, Use use, Reference reference) {
    this.name = name;
    this.use = use;
    this.reference = reference;
    this.dialect = use.dialect();
    this.path = new PathText(dialect);
  }

  /** The one reference of a table to itself, of one column. */
  static Reference reference(Catalog catalog, Use use) {
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

  String name() {
    return name;
  }

  Reference reference() {
    return reference;
  }

  /** The column that the others refer to, as the tables call it. */
  String key() {
    return reference.toColumns().get(0);
  }

  private String parent() {
    return reference.fromColumns().get(0);
  }

  /** A column of the member. */
  String column(String column) {
    return name + "." + dialect.write(column);
  }

  /** That a row refers to no other. */
  String isRoot() {
    return use.column(parent()) + " IS NULL";
  }

  /**
   * The walk from some rows down to those that refer to them, or up to those that they refer to.
   *
   * @param further columns that are carried besides what the walk needs
   * @param start a condition over the use
   */
  String from(String start, boolean down, List<String> further) {
    List<String> columns = new ArrayList<>(List.of(key()));
    if (!down) {
      columns.add(parent());
    }
    further.stream().filter(each -> !columns.contains(each)).forEach(columns::add);
    ClauseLayout first = new ClauseLayout();
    columns.forEach(each -> first.items.add(use.column(each)));
    first.items.add("0");
    first.items.add(path.first(use.column(key())));
    first.from.add(use.inFrom());
    first.where.add(start);

    ClauseLayout next = new ClauseLayout();
    columns.forEach(each -> next.items.add(use.column(each)));
    next.items.add(column(LEVEL) + " + 1");
    next.items.add(path.longer(column(PATH), use.column(key())));
    next.from.add(name);
    next.from.add(
        "JOIN "
            + use.inFrom()
            + " ON "
            + use.column(down ? parent() : key())
            + " = "
            + column(down ? key() : parent()));
    next.where.add(path.isNotOn(column(PATH), use.column(key())));

    List<String> names = new ArrayList<>(columns.stream().map(dialect::write).toList());
    names.add(LEVEL);
    names.add(PATH);
    return member(names, first, next);
  }

  /** Every row, as the top, with itself and with each row below it. */
  String branches() {
    ClauseLayout first = new ClauseLayout();
    first.items.addAll(List.of(use.column(key()), use.column(key())));
    first.items.add(path.first(use.column(key())));
    first.from.add(use.inFrom());

    ClauseLayout next = new ClauseLayout();
    next.items.addAll(List.of(column(TOP), use.column(key())));
    next.items.add(path.longer(column(PATH), use.column(key())));
    next.from.add(name);
    next.from.add("JOIN " + use.inFrom() + " ON " + use.column(parent()) + " = " + column(key()));
    next.where.add(path.isNotOn(column(PATH), use.column(key())));
    return member(List.of(TOP, dialect.write(key()), PATH), first, next);
  }

  private String member(List<String> names, ClauseLayout first, ClauseLayout next) {
    return name
        + " ("
        + String.join(", ", names)
        + ") AS (\n  "
        + ClauseLayout.indented(first.text(), 2)
        + "\n  UNION ALL\n  "
        + ClauseLayout.indented(next.text(), 2)
        + "\n)";
  }
}
