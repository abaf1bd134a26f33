package io.lantrel.survey;

import io.lantrel.catalog.Column;
import io.lantrel.catalog.Key;
import io.lantrel.catalog.Table;
import io.lantrel.probe.Asker;
import io.lantrel.survey.TableFigures.ColumnFigures;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * What rows of a table can be referred to by: its declared keys; where there are none, columns that
 * tell its rows apart and are named like a key or stand first.
 */
final class Keys {

  /** Of a table without keys so many sets of columns are tried. */
  private static final int TRIED = 6;

  private final Asker asker;
  private final Map<Table, List<Key>> observed = new HashMap<>();

  Keys(Asker asker) {
    this.asker = asker;
  }

  /** Looks for keys where none is declared. */
  void look(TableFigures figures, TableQuestions questions) {
    Table table = figures.table();
    if (!table.keys().isEmpty() || figures.rows() == 0) {
      return;
    }
    List<Key> keys = new ArrayList<>();
    for (ColumnFigures column : figures.columns()) {
      boolean first = column.equals(figures.columns().get(0));
      NameParts name = NameParts.of(column.column().name());
      boolean named = name.saysKey() || name.isSame(NameParts.ofTable(table.name()));
      boolean told = named || (first && !name.namesARelation());
      if (told && canBeKey(column.column()) && figures.isUnique(column)) {
        keys.add(new Key(List.of(column.column().name()), false));
      }
    }
    if (keys.isEmpty()) {
      together(figures, questions).ifPresent(keys::add);
    }
    observed.put(table, keys);
  }

  private static boolean canBeKey(Column column) {
    ValueKind kind = ValueKind.of(column.type());
    return kind == ValueKind.NUMBER || kind == ValueKind.TEXT || kind == ValueKind.UUID;
  }

  /**
   * Several columns that tell the rows apart together: those that are named like references, if
   * need be with a date or another column; the fewest that do.
   */
  private Optional<Key> together(TableFigures figures, TableQuestions questions) {
    List<String> named = new ArrayList<>();
    List<String> others = new ArrayList<>();
    for (ColumnFigures column : figures.columns()) {
      if (column.filled() == figures.rows() && column.values() > 1) {
        String name = column.column().name();
        boolean measure = ValueKind.of(column.column().type()) == ValueKind.MEASURE;
        if (NameParts.of(name).saysKey()) {
          named.add(name);
        } else if (measure || canBeKey(column.column())) {
          others.add(measure ? 0 : others.size(), name);
        }
      }
    }
    return tries(named, others).stream()
        .limit(TRIED)
        .map(columns -> new Key(columns, false))
        .filter(key -> asker.ask(questions.repeats(key)) == 0)
        .findFirst();
  }

  private static List<List<String>> tries(List<String> named, List<String> others) {
    List<List<String>> tries = new ArrayList<>();
    for (int i = 0; i < named.size(); i++) {
      for (int j = i + 1; j < named.size(); j++) {
        tries.add(List.of(named.get(i), named.get(j)));
      }
    }
    if (named.size() > 2) {
      tries.add(named);
    }
    if (!named.isEmpty()) {
      for (String other : others) {
        List<String> columns = new ArrayList<>(named);
        columns.add(other);
        tries.add(columns);
      }
    }
    return tries;
  }

  /** The keys of a table, the most important first. */
  List<Key> of(Table table) {
    return table.keys().isEmpty() ? observed.getOrDefault(table, List.of()) : table.keys();
  }
}
