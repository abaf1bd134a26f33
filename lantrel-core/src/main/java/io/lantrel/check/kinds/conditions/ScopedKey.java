package io.lantrel.check.kinds.conditions;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Key;
import io.lantrel.catalog.Reference;
import io.lantrel.catalog.Table;
import io.lantrel.catalog.TypeFamily;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Pattern;

/**
 * A number that counts within something else, as the number of a copy within its branch: alone it
 * tells no row apart, for each branch has a copy 1. It is the part of a key of several columns, to
 * which others refer, that is no reference itself. A year or a category is no such number: it means
 * the same everywhere.
 *
 * @param of the table whose rows the key tells apart
 * @param own the columns of the use that are the number
 * @param scope those within which it counts
 */
public record ScopedKey(Table of, List<UseColumn> own, List<UseColumn> scope) {

  private static final Pattern CALENDAR =
      Pattern.compile(".*(year|month|week|day|date|quarter|season|period|term|version|level).*");

  private static final Pattern POSITION =
      Pattern.compile(".*(line|pos|rank|seq|step|index|ordinal).*");

  public ScopedKey {
    own = List.copyOf(own);
    scope = List.copyOf(scope);
  }

  /** Whether it is a position in a list: the first lines of all orders may be put together. */
  public boolean isPosition() {
    return own.stream().anyMatch(each -> isCalled(each, POSITION));
  }

  /** Whether a column has the name of something that means the same everywhere, as a year does. */
  public static boolean isOfCalendar(UseColumn column) {
    return isCalled(column, CALENDAR);
  }

  private static boolean isCalled(UseColumn column, Pattern pattern) {
    return pattern.matcher(column.tableColumn().toLowerCase(Locale.ROOT)).matches();
  }

  /** Those of a table use: of its own key, and of what it refers to. */
  public static List<ScopedKey> of(TableUse use, Catalog catalog) {
    List<ScopedKey> found = new ArrayList<>();
    Optional<Table> table = use.table();
    if (table.isEmpty()) {
      return found;
    }
    for (Table each : referredTo(catalog)) {
      for (Key key : each.keys()) {
        if (each.equals(table.get())) {
          of(use, each, key.columns(), key.columns(), catalog).ifPresent(found::add);
        }
      }
    }
    for (Reference each : catalog.references()) {
      if (each.from().equals(table.get())) {
        of(use, each.to(), each.fromColumns(), each.toColumns(), catalog).ifPresent(found::add);
      }
    }
    return found;
  }

  /** The tables to which others refer by several columns. */
  private static Set<Table> referredTo(Catalog catalog) {
    Set<Table> tables = new LinkedHashSet<>();
    catalog.references().stream()
        .filter(each -> each.fromColumns().size() > 1)
        .map(Reference::to)
        .forEach(tables::add);
    return tables;
  }

  private static Optional<ScopedKey> of(
      TableUse use, Table table, List<String> columns, List<String> keyColumns, Catalog catalog) {
    if (columns.size() < 2) {
      return Optional.empty();
    }
    List<UseColumn> own = new ArrayList<>();
    List<UseColumn> scope = new ArrayList<>();
    for (int i = 0; i < columns.size(); i++) {
      Optional<UseColumn> column = use.columnOfTable(columns.get(i));
      if (column.isEmpty()) {
        return Optional.empty();
      }
      (refers(table, keyColumns.get(i), catalog) ? scope : own).add(column.get());
    }
    boolean isNumber =
        own.stream().anyMatch(each -> each.type().family() == TypeFamily.INTEGER)
            && own.stream().noneMatch(ScopedKey::isOfCalendar);
    return isNumber && !scope.isEmpty()
        ? Optional.of(new ScopedKey(table, own, scope))
        : Optional.empty();
  }

  private static boolean refers(Table table, String column, Catalog catalog) {
    return catalog.references().stream()
        .anyMatch(
            each ->
                each.from().equals(table)
                    && !each.isSelfReference()
                    && each.fromColumns().contains(column));
  }
}
