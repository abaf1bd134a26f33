package io.lantrel.resolve;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Reference;
import io.lantrel.catalog.Table;
import io.lantrel.resolve.Conjunct.Equated;
import java.util.ArrayList;
import java.util.List;

/**
 * A reference of the schema between two table uses of a block.
 *
 * @param reference the reference
 * @param from the table use whose rows refer
 * @param to the table use whose rows they refer to
 */
public record Link(Reference reference, TableUse from, TableUse to) {

  /** The links that can be drawn between two table uses, either way round. */
  static List<Link> between(Catalog catalog, TableUse one, TableUse other) {
    List<Link> links = new ArrayList<>();
    for (Reference reference : catalog.references()) {
      if (is(one, reference.from()) && is(other, reference.to())) {
        links.add(new Link(reference, one, other));
      } else if (is(other, reference.from()) && is(one, reference.to())) {
        links.add(new Link(reference, other, one));
      }
    }
    return links;
  }

  /** The links that an equality follows; of a composite reference it need only be one part. */
  static List<Link> along(Catalog catalog, Equated equated) {
    List<Link> links = new ArrayList<>();
    for (Reference reference : catalog.references()) {
      if (isPart(reference, equated.left(), equated.right())) {
        links.add(new Link(reference, equated.left().use(), equated.right().use()));
      }
      if (isPart(reference, equated.right(), equated.left())) {
        links.add(new Link(reference, equated.right().use(), equated.left().use()));
      }
    }
    return links;
  }

  private static boolean isPart(Reference reference, UseColumn from, UseColumn to) {
    if (!is(from.use(), reference.from()) || !is(to.use(), reference.to())) {
      return false;
    }
    int at = reference.fromColumns().indexOf(from.tableColumn());
    return at >= 0 && reference.toColumns().get(at).equals(to.tableColumn());
  }

  static boolean is(TableUse use, Table table) {
    return use.table().filter(table::equals).isPresent();
  }

  /** The condition that joins along it, as text: {@code s.river_id = r.id}. */
  public String condition() {
    List<String> equalities = new ArrayList<>();
    for (int i = 0; i < reference.fromColumns().size(); i++) {
      equalities.add(
          column(from, reference.fromColumns().get(i))
              + " = "
              + column(to, reference.toColumns().get(i)));
    }
    return String.join(" AND ", equalities);
  }

  private static String column(TableUse use, String name) {
    return use.column(use.ofTable(name)).orElseThrow().written();
  }
}
