package io.lantrel.hierarchy.asked;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Reference;
import io.lantrel.catalog.Table;
import io.lantrel.hierarchy.HierarchyException;
import io.lantrel.hierarchy.HierarchyWish;
import io.lantrel.sql.NearNames;
import io.lantrel.words.Words;
import java.util.List;
import java.util.stream.Collectors;

/**
 * The two references of a junction table to the table whose rows it puts below each other.
 *
 * @param below the one that names the lower row
 * @param above the one that names the upper row
 */
record JunctionEnds(Reference below, Reference above) {

  /**
   * Those of a wish.
   *
   * @throws HierarchyException if a table is not there, the junction does not refer to the table
   *     twice, or it is not said which of the two names the row above
   */
  static JunctionEnds of(Catalog catalog, HierarchyWish wish) {
    Table table = table(catalog, wish.table());
    Table junction = table(catalog, wish.over());
    List<Reference> ends = ends(catalog, wish);
    String ways = ends.stream().map(Reference::words).collect(Collectors.joining(" and "));
    if (ends.size() != 2) {
      throw new HierarchyException(
          junction.name()
              + " puts no row of "
              + table.name()
              + " below another: it would refer to "
              + table.name()
              + " twice, by references that are declared or that its rows show; "
              + (ends.isEmpty() ? "it does not" : "there is " + ways));
    }
    List<Reference> above =
        ends.stream()
            .filter(
                each ->
                    each.fromColumns().stream().anyMatch(name -> name.equalsIgnoreCase(wish.by())))
            .toList();
    if (above.size() != 1) {
      throw new HierarchyException(
          (wish.by().isEmpty()
                  ? "which of the two names the row above"
                  : junction.name() + " does not refer to " + table.name() + " by " + wish.by())
              + ": "
              + ways
              + "; say by which column");
    }
    Reference other = ends.get(0).equals(above.get(0)) ? ends.get(1) : ends.get(0);
    return new JunctionEnds(other, above.get(0));
  }

  /** All references of the junction to the table. */
  static List<Reference> ends(Catalog catalog, HierarchyWish wish) {
    Table table = table(catalog, wish.table());
    Table junction = table(catalog, wish.over());
    return catalog.references().stream()
        .filter(each -> each.from().equals(junction) && each.to().equals(table))
        .filter(each -> !junction.equals(table))
        .toList();
  }

  /** Which tables put rows of a table below each other, in words behind a sentence. */
  static String hint(Catalog catalog, Table table) {
    List<String> junctions =
        catalog.tables().stream()
            .filter(each -> isTwice(catalog, each, table))
            .map(Table::name)
            .toList();
    return junctions.isEmpty()
        ? joined(catalog, table)
        : "; "
            + Words.list(junctions)
            + (junctions.size() == 1 ? " refers" : " refer")
            + " to it twice, and may put its rows below each other: name it as the junction";
  }

  /** What to ask where the table is the junction itself. */
  private static String joined(Catalog catalog, Table junction) {
    return catalog.tables().stream()
        .filter(each -> isTwice(catalog, junction, each))
        .findFirst()
        .map(
            each ->
                "; but it refers to "
                    + each.name()
                    + " twice, and may put the rows of that below each other: ask for "
                    + each.name()
                    + ", with "
                    + junction.name()
                    + " as the junction")
        .orElse("");
  }

  private static boolean isTwice(Catalog catalog, Table junction, Table table) {
    return !junction.equals(table)
        && catalog.references().stream()
                .filter(each -> each.from().equals(junction) && each.to().equals(table))
                .count()
            == 2;
  }

  /** A table by name. */
  static Table table(Catalog catalog, String name) {
    return catalog
        .table(name)
        .orElseThrow(
            () -> {
              List<String> names = catalog.tables().stream().map(Table::name).toList();
              return new HierarchyException(
                  "there is no table " + name + NearNames.instead(name, names, "the tables are"));
            });
  }
}
