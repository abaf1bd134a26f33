package io.lantrel.survey;

import io.lantrel.catalog.Basis;
import io.lantrel.catalog.Key;
import io.lantrel.catalog.Reference;
import io.lantrel.catalog.Table;
import io.lantrel.survey.TableFigures.ColumnFigures;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;

/**
 * References of several columns: named like those of a key, all with one role or all with none;
 * then looked up.
 */
final class CompositeSearch {

  private final Map<Table, TableFigures> figures;
  private final Keys keys;
  private final TableNames names;
  private final ValueLookup values;

  CompositeSearch(
      Map<Table, TableFigures> figures, Keys keys, TableNames names, ValueLookup values) {
    this.figures = figures;
    this.keys = keys;
    this.names = names;
    this.values = values;
  }

  /**
   * @param isDeclared whether some columns together are declared to refer
   */
  List<Found> found(TableFigures from, Predicate<List<String>> isDeclared) {
    List<Found> found = new ArrayList<>();
    for (TableFigures to : figures.values()) {
      for (Key key : keys.of(to.table())) {
        if (key.columns().size() > 1 && !to.equals(from) && to.rows() > 0) {
          for (List<String> columns : columns(from, to, key)) {
            if (!isDeclared.test(columns) && !sharesKey(from, to, key, columns)) {
              lookedUp(from, to, key, columns).ifPresent(found::add);
            }
          }
        }
      }
    }
    return found;
  }

  /** Two tables with one key, of which neither is said to depend on the other. */
  private boolean sharesKey(TableFigures from, TableFigures to, Key key, List<String> columns) {
    boolean own = keys.of(from.table()).stream().anyMatch(each -> each.columns().equals(columns));
    boolean vague = NameParts.of(key.columns().get(key.columns().size() - 1)).isCommon();
    return own && (from.rows() >= to.rows() || vague);
  }

  /** For each role the columns that are named like those of the key. */
  private List<List<String>> columns(TableFigures from, TableFigures to, Key key) {
    List<Map<String, String>> byRole = new ArrayList<>();
    for (String name : key.columns()) {
      byRole.add(byRole(from, to, to.column(name)));
    }
    Set<String> roles = new LinkedHashSet<>(byRole.get(0).keySet());
    byRole.forEach(each -> roles.retainAll(each.keySet()));
    List<List<String>> found = new ArrayList<>();
    for (String role : roles) {
      List<String> columns = byRole.stream().map(each -> each.getOrDefault(role, "")).toList();
      if (Set.copyOf(columns).size() == columns.size()) {
        found.add(columns);
      }
    }
    return found;
  }

  /** The columns that are named like one of a key, by what stands in front of that name. */
  private Map<String, String> byRole(TableFigures from, TableFigures to, ColumnFigures target) {
    NameParts whole = NameParts.of(target.column().name());
    NameParts own = names.own(to.table(), target.column().name());
    List<NameParts> called =
        List.of(names.words(to.table()).and(own), names.shortName(to.table()).and(own), whole, own);
    Map<String, String> byRole = new LinkedHashMap<>();
    for (ColumnFigures each : from.columns()) {
      if (each.filled() == 0
          || ValueKind.of(each.column().type()) != ValueKind.of(target.column().type())) {
        continue;
      }
      NameParts name = names.own(from.table(), each.column().name());
      called.stream()
          .flatMap(end -> name.before(end).stream())
          .findFirst()
          .ifPresent(role -> byRole.putIfAbsent(role.joined(), each.column().name()));
    }
    return byRole;
  }

  private Optional<Found> lookedUp(
      TableFigures from, TableFigures to, Key key, List<String> columns) {
    Reference reference =
        new Reference(from.table(), columns, to.table(), key.columns(), Basis.OBSERVED);
    return values
        .of(reference)
        .filter(rows -> ValueLookup.share(rows) >= ReferenceSearch.MOST)
        .map(
            rows -> {
              Found found =
                  new Found(
                      reference,
                      rows,
                      190 + ValueLookup.share(rows) * 10,
                      List.of(
                          "its columns are named like those of the key", ValueLookup.words(rows)));
              return ValueLookup.share(rows) >= ReferenceSearch.NEARLY_ALL
                  ? found
                  : found.possible();
            });
  }
}
