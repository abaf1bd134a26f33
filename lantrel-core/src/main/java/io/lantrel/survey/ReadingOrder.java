package io.lantrel.survey;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Column;
import io.lantrel.catalog.Reference;
import io.lantrel.catalog.Table;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * The order in which tables are best looked at: each behind those that it refers to, and by name
 * where that leaves a choice. It does not depend on the order in which an engine tells its tables.
 */
final class ReadingOrder {

  private final Catalog catalog;
  private final List<Table> tables;

  ReadingOrder(Catalog catalog) {
    this.catalog = catalog;
    this.tables = ordered();
  }

  List<Table> tables() {
    return tables;
  }

  /** By the table that refers, then by its columns. */
  List<Reference> references() {
    Map<Table, Integer> position = new HashMap<>();
    tables.forEach(table -> position.putIfAbsent(table, position.size()));
    return catalog.references().stream()
        .sorted(
            Comparator.<Reference>comparingInt(each -> position.getOrDefault(each.from(), 0))
                .thenComparingInt(this::firstColumn)
                .thenComparing(each -> each.to().name()))
        .toList();
  }

  private int firstColumn(Reference reference) {
    List<String> columns = reference.from().columns().stream().map(Column::name).toList();
    return columns.indexOf(reference.fromColumns().get(0));
  }

  private List<Table> ordered() {
    Map<Table, Set<Table>> waitsFor = new HashMap<>();
    catalog.references().stream()
        .filter(each -> !each.isSelfReference())
        .forEach(
            each -> waitsFor.computeIfAbsent(each.from(), key -> new HashSet<>()).add(each.to()));
    List<Table> waiting = new ArrayList<>(catalog.tables());
    waiting.sort(Comparator.comparing(Table::name).thenComparing(Table::schema));
    List<Table> done = new ArrayList<>();
    while (!waiting.isEmpty()) {
      List<Table> free =
          waiting.stream()
              .filter(table -> waitsFor.getOrDefault(table, Set.of()).isEmpty())
              .toList();
      // Tables that refer to each other in a circle: one of them has to be the first.
      List<Table> next = free.isEmpty() ? List.of(waiting.get(0)) : free;
      done.addAll(next);
      waiting.removeAll(next);
      next.forEach(table -> waitsFor.values().forEach(tables -> tables.remove(table)));
      next.forEach(table -> waitsFor.remove(table));
    }
    return done;
  }
}
