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
    List<String> here = columns.stream().map(use::column).toList();
    List<String> names = columns.stream().map(dialect::write).toList();
    return member(
        and(names, LEVEL),
        and(here, "0"),
        List.of(start),
        and(here, column(LEVEL) + " + 1"),
        use.column(down ? parent() : key()) + " = " + column(down ? key() : parent()));
  }

  /** Every row, as the top, with itself and with each row below it. */
  String branches() {
    String own = use.column(key());
    return member(
        List.of(TOP, dialect.write(key())),
        List.of(own, own),
        List.of(),
        List.of(column(TOP), own),
        use.column(parent()) + " = " + column(key()));
  }

  private static List<String> and(List<String> some, String last) {
    List<String> all = new ArrayList<>(some);
    all.add(last);
    return all;
  }

  /**
   * The member; the path is put behind its columns.
   *
   * @param first what they are at the start
   * @param start which rows these are; empty for all
   * @param next what they are one level on
   * @param link how a row of the next level hangs on one that was found
   */
  private String member(
      List<String> names, List<String> first, List<String> start, List<String> next, String link) {
    String own = use.column(key());
    ClauseLayout begin = new ClauseLayout();
    begin.items.addAll(and(first, path.first(own)));
    begin.from.add(use.inFrom());
    begin.where.addAll(start);

    ClauseLayout step = new ClauseLayout();
    step.items.addAll(and(next, path.longer(column(PATH), own)));
    step.from.add(name);
    step.from.add("JOIN " + use.inFrom() + " ON " + link);
    step.where.add(path.isNotOn(column(PATH), own));
    return name
        + " ("
        + String.join(", ", and(names, PATH))
        + ") AS (\n  "
        + ClauseLayout.indented(begin.text(), 2)
        + "\n  UNION ALL\n  "
        + ClauseLayout.indented(step.text(), 2)
        + "\n)";
  }
}
