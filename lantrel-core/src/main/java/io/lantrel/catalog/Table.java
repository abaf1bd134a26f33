package io.lantrel.catalog;

import io.lantrel.sql.tree.Identifier;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * A table.
 *
 * @param schema the schema that it is in; empty if none is named
 * @param name its name
 * @param columns its columns, in order
 * @param keys its keys, the primary one first
 */
public record Table(String schema, String name, List<Column> columns, List<Key> keys) {
  public Table {
    columns = List.copyOf(columns);
    keys = List.copyOf(keys);
  }

  /** Tables are the same by schema and name (ISO/IEC 9075-2, 4.15); one catalog has no other. */
  @Override
  public boolean equals(@Nullable Object other) {
    return other instanceof Table table && name.equals(table.name) && schema.equals(table.schema);
  }

  @Override
  public int hashCode() {
    return name.hashCode();
  }

  /** The column of that name, without regard to case. */
  public Optional<Column> column(String wanted) {
    return columns.stream()
        .filter(column -> Identifier.key(column.name()).equals(Identifier.key(wanted)))
        .findFirst();
  }

  /** The primary key, or the first key if none is primary. */
  public Optional<Key> key() {
    return keys.stream().findFirst();
  }

  /**
   * The columns by which a person knows a row again: the key, and the first text that is not part
   * of it. Without a key: the first three columns.
   */
  public List<Column> identifyingColumns() {
    if (keys.isEmpty()) {
      return columns.stream().limit(3).toList();
    }
    List<String> key = keys.get(0).columns();
    Optional<Column> text =
        columns.stream()
            .filter(column -> column.type().family() == TypeFamily.TEXT)
            .filter(column -> !key.contains(column.name()))
            .findFirst();
    return columns.stream()
        .filter(
            column ->
                key.contains(column.name())
                    || text.filter(each -> each.name().equals(column.name())).isPresent())
        .toList();
  }
}
