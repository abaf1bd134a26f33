package io.lantrel.draft;

import io.lantrel.catalog.Column;
import io.lantrel.catalog.Table;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.NearNames;
import java.util.List;

/**
 * A table in a draft.
 *
 * @param name what the wish calls it: the table's name, or a role
 * @param table the table
 * @param alias what the draft calls it
 */
record Use(String name, Table table, String alias, Dialect dialect) {

  /** A column as the draft writes it. */
  String column(String column) {
    return alias + "." + dialect.write(known(column).name());
  }

  Column known(String column) {
    return table.column(column).orElseThrow(() -> unknown(column));
  }

  /** That it has no such column, and which it has. */
  WishException unknown(String column) {
    return unknown(table.name(), column, table.columns().stream().map(Column::name).toList());
  }

  /** That a table has no such column. */
  static WishException unknown(String table, String column, List<String> names) {
    List<String> near = NearNames.of(column, names);
    return new WishException(
        table
            + " has no column "
            + column
            + (near.isEmpty()
                ? "; it has " + String.join(", ", names)
                : "; close to it: " + String.join(", ", near)));
  }

  /** The columns of its key as the draft writes them; without a key, all columns. */
  List<String> key() {
    return table
        .key()
        .map(key -> key.columns())
        .orElseGet(() -> table.columns().stream().map(Column::name).toList())
        .stream()
        .map(this::column)
        .toList();
  }

  /** The heading of one of its columns, which tells whose it is. */
  String heading(String column) {
    String own = known(column).name();
    boolean told =
        own.toLowerCase(java.util.Locale.ROOT).startsWith(name.toLowerCase(java.util.Locale.ROOT));
    return told ? own : name + "_" + own;
  }

  /** The table with its alias, as FROM has it. */
  String inFrom() {
    return tableName() + " " + alias;
  }

  /** The table's own name, with its schema if it has one. */
  String tableName() {
    String schema = table.schema().isEmpty() ? "" : dialect.write(table.schema()) + ".";
    return schema + dialect.write(table.name());
  }
}
