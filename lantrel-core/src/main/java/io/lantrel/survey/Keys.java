package io.lantrel.survey;

import io.lantrel.catalog.Column;
import io.lantrel.catalog.Key;
import io.lantrel.catalog.Table;
import io.lantrel.probe.Asker;
import io.lantrel.survey.TableFigures.ColumnFigures;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * What rows of a table can be referred to by: its declared keys; where there are none, columns that
 * tell its rows apart and are named like a key or stand first.
 */
final class Keys {

  /** Of a table without keys so many sets of columns are tried. */
  private static final int TRIED = 10;

  /** Of so many columns in front of a table a key may be made. */
  private static final int MOST_TOGETHER = 6;

  private final Asker asker;
  private final TableNames names;
  private final Map<Table, List<Key>> observed = new HashMap<>();
  private final Set<Table> numbered = new HashSet<>();

  Keys(Asker asker, TableNames names) {
    this.asker = asker;
    this.names = names;
  }

  /** Looks for keys where none is declared. */
  void look(TableFigures figures, TableQuestions questions) {
    Table table = figures.table();
    if (!table.keys().isEmpty() || figures.rows() == 0) {
      return;
    }
    List<Key> keys = new ArrayList<>();
    List<Key> others = new ArrayList<>();
    for (ColumnFigures column : figures.columns()) {
      String name = column.column().name();
      if (canBeKey(column.column()) && figures.isUnique(column)) {
        boolean first = column.equals(figures.columns().get(0));
        if (isNamedAsKey(table, name) || (first && !NameParts.of(name).namesARelation())) {
          keys.add(new Key(List.of(name), false));
        } else if (NameParts.of(name).saysKey()) {
          others.add(new Key(List.of(name), false));
        }
      }
    }
    if (keys.isEmpty()) {
      together(figures, questions).ifPresent(keys::add);
    }
    // Beside a key of its own, a serial number is something that rows have, and not their name.
    if (keys.isEmpty()) {
      keys.addAll(others);
      numbered.add(table);
    }
    observed.put(table, keys);
  }

  /** Whether a column is called key and no more, or key of its table. */
  private boolean isNamedAsKey(Table table, String column) {
    NameParts name = names.own(table, column);
    NameParts stem = name.withoutKeyWord();
    NameParts own = names.words(table);
    return (name.saysKey()
            && (stem.isEmpty() || stem.isSame(own) || stem.isShortFor(own).isPresent()))
        || name.isSame(own);
  }

  /** Whether its rows have no key but a number that no two share, as a serial number is. */
  boolean hasMereNumbers(Table table) {
    return numbered.contains(table);
  }

  /** Whether a column alone is a key of its table. */
  boolean isKey(Table table, String column) {
    return of(table).stream().anyMatch(key -> key.columns().equals(List.of(column)));
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
      boolean alone = figures.isUnique(column);
      if (!alone && column.filled() == figures.rows() && column.values() > 1) {
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
    Set<List<String>> tries = new LinkedHashSet<>();
    for (int i = 2; i <= Math.min(named.size(), MOST_TOGETHER); i++) {
      tries.add(named.subList(0, i));
    }
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
    return List.copyOf(tries);
  }

  /** The keys of a table, the most important first. */
  List<Key> of(Table table) {
    return table.keys().isEmpty() ? observed.getOrDefault(table, List.of()) : table.keys();
  }
}
