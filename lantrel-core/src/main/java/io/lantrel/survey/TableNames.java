package io.lantrel.survey;

import io.lantrel.catalog.Column;
import io.lantrel.catalog.Table;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Collectors;

/**
 * What the names of tables and columns say when that is set aside which only says where they
 * belong: a word that begins all tables of a database, and a table's short name in front of its own
 * columns ({@code st_id}, {@code st_name} in {@code station}).
 */
final class TableNames {

  /** From so many tables on, a word that begins most of them says nothing of any. */
  private static final int MANY = 4;

  private final Map<Table, NameParts> words = new HashMap<>();
  private final Map<Table, NameParts> shortNames = new HashMap<>();
  private final Map<String, NameParts> columns = new HashMap<>();

  TableNames(Collection<Table> tables) {
    Optional<String> common =
        tables.size() < MANY
            ? Optional.empty()
            : commonest(tables, each -> NameParts.ofTable(each.name()), 0.7);
    for (Table table : tables) {
      NameParts own = NameParts.ofTable(table.name());
      boolean set = own.words().size() > 1 && common.filter(own.words().get(0)::equals).isPresent();
      NameParts rest = set ? own.without(1) : own;
      words.put(table, rest);
      shortNames.put(table, shortName(table, rest));
    }
  }

  /** The words of a table's name. */
  NameParts words(Table table) {
    return words.getOrDefault(table, NameParts.NONE);
  }

  /** By what its columns are marked as its own, as {@code st}; empty if they are not. */
  NameParts shortName(Table table) {
    return shortNames.getOrDefault(table, NameParts.NONE);
  }

  /** The words of a column's name: every column is compared with every key, so they are kept. */
  NameParts column(String name) {
    return columns.computeIfAbsent(name, NameParts::of);
  }

  /** A column's name without its table's short name. */
  NameParts own(Table table, String column) {
    NameParts name = column(column);
    NameParts mark = shortName(table);
    boolean marked =
        !mark.isEmpty() && name.words().size() > 1 && name.words().get(0).equals(mark.joined());
    return marked ? name.without(1) : name;
  }

  /**
   * A word that begins nearly all columns; or several, if it could be short for the table. That of
   * another table may begin some as well: they refer to it.
   */
  private static NameParts shortName(Table table, NameParts own) {
    List<Column> columns = table.columns();
    if (columns.size() > 2) {
      Optional<String> nearlyAll = commonest(columns, each -> NameParts.of(each.name()), 0.8);
      if (nearlyAll.isPresent()) {
        return new NameParts(List.of(nearlyAll.get()));
      }
    }
    NameParts first = NameParts.of(columns.get(0).name());
    if (first.words().size() < 2) {
      return NameParts.NONE;
    }
    NameParts mark = new NameParts(first.words().subList(0, 1));
    long marked =
        columns.stream().filter(each -> NameParts.of(each.name()).beginsWith(mark)).count();
    boolean some = marked > 1 && marked * 3 >= columns.size();
    return some && (mark.isSame(own) || mark.isShortFor(own).isPresent()) ? mark : NameParts.NONE;
  }

  private static <T> Optional<String> commonest(
      Collection<T> all, Function<T, NameParts> name, double share) {
    return all.stream()
        .map(name)
        .filter(each -> each.words().size() > 1)
        .collect(Collectors.groupingBy(each -> each.words().get(0), Collectors.counting()))
        .entrySet()
        .stream()
        .filter(each -> each.getValue() >= share * all.size())
        .map(Map.Entry::getKey)
        .findFirst();
  }
}
