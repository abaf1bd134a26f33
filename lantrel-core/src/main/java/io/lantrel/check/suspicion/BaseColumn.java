package io.lantrel.check.suspicion;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Reference;
import io.lantrel.catalog.Table;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.UseColumn;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/** The column of a table whose values a column of a query in FROM shows. */
public final class BaseColumn {

  /** Queries in queries up to which it is looked for. */
  private static final int DEEPEST = 64;

  private BaseColumn() {}

  /** The column itself, if it is one of a table; empty if what is shown is worked out. */
  public static Optional<UseColumn> of(UseColumn column) {
    UseColumn here = column;
    for (int depth = 0; depth < DEEPEST && here.use().table().isEmpty(); depth++) {
      int position = here.position();
      Optional<UseColumn> next =
          here.use().result().stream()
              .flatMap(result -> result.parts().stream().limit(1))
              .flatMap(block -> block.shownAt(position).stream())
              .findFirst();
      if (next.isEmpty()) {
        return Optional.empty();
      }
      here = next.get();
    }
    return here.use().table().isPresent() ? Optional.of(here) : Optional.empty();
  }

  /** The tables that a column of a table refers to by itself. */
  public static Set<Table> referred(UseColumn column, Catalog catalog) {
    Set<Table> tables = new LinkedHashSet<>();
    for (Reference each : catalog.references()) {
      if (column.use().table().filter(each.from()::equals).isPresent()
          && each.fromColumns().equals(List.of(column.tableColumn()))) {
        tables.add(each.to());
      }
    }
    return tables;
  }

  /**
   * The columns of tables whose values a column shows, in any part of a UNION or a recursion; those
   * that are worked out are left out.
   *
   * @param block in which it is used; if that is the step of a recursion, it gives rows too
   */
  public static List<UseColumn> all(UseColumn column, QueryBlock block) {
    Set<UseColumn> seen = new LinkedHashSet<>();
    Deque<UseColumn> open = new ArrayDeque<>(List.of(column));
    while (!open.isEmpty() && seen.size() < DEEPEST) {
      UseColumn here = open.remove();
      if (seen.add(here)) {
        if (here.use().isOwnRecursion()) {
          block.shownAt(here.position()).ifPresent(open::add);
        }
        here.use().result().stream()
            .flatMap(result -> result.parts().stream())
            .flatMap(part -> part.shownAt(here.position()).stream())
            .forEach(open::add);
      }
    }
    return seen.stream().filter(each -> each.use().table().isPresent()).toList();
  }
}
