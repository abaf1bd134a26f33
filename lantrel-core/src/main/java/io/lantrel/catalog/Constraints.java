package io.lantrel.catalog;

import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.BiPredicate;

/** The constraints of some tables, of which some can be left out to see what rests on them. */
public final class Constraints {

  private final Catalog catalog;
  private final Set<Table> tables;
  private final List<Constraint> all;

  /**
   * @param catalog where the tables are
   * @param tables which of its tables
   * @param columns tells of a table and the name of a column whether it matters that it is never
   *     NULL
   */
  public Constraints(
      Catalog catalog, Collection<Table> tables, BiPredicate<Table, String> columns) {
    this.catalog = catalog;
    this.tables = Set.copyOf(tables);
    List<Constraint> found = new ArrayList<>();
    for (Table table : tables) {
      table.keys().stream()
          .filter(key -> !key.columns().isEmpty())
          .forEach(key -> found.add(Constraint.key(table, key.columns())));
      table.columns().stream()
          .filter(column -> !column.nullable() && columns.test(table, column.name()))
          .forEach(column -> found.add(Constraint.notNull(table, column.name())));
    }
    catalog.references().stream()
        .filter(each -> this.tables.contains(each.from()))
        .forEach(each -> found.add(Constraint.of(each)));
    this.all = found.stream().distinct().toList();
  }

  /** All of them. */
  public List<Constraint> all() {
    return all;
  }

  /** The catalog in which the tables have only some of them. */
  public Catalog keeping(Collection<Constraint> kept) {
    Set<Constraint> held = new HashSet<>(kept);
    Map<Table, Table> weaker = new HashMap<>();
    tables.forEach(table -> weaker.put(table, weaker(table, held)));
    List<Reference> references =
        catalog.references().stream()
            .filter(each -> !isOfTheirs(each) || held.contains(Constraint.of(each)))
            .map(each -> each.between(table -> weaker.getOrDefault(table, table)))
            .toList();
    return catalog.of(
        catalog.tables().stream().map(table -> weaker.getOrDefault(table, table)).toList(),
        references);
  }

  private boolean isOfTheirs(Reference reference) {
    return tables.contains(reference.from());
  }

  private static Table weaker(Table table, Set<Constraint> held) {
    return new Table(
        table.schema(),
        table.name(),
        table.columns().stream()
            .map(
                column ->
                    held.contains(Constraint.notNull(table, column.name()))
                        ? column
                        : new Column(column.name(), column.type(), true))
            .toList(),
        table.keys().stream()
            .filter(
                key ->
                    key.columns().isEmpty() || held.contains(Constraint.key(table, key.columns())))
            .toList());
  }
}
