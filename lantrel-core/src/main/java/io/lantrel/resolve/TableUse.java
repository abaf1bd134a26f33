package io.lantrel.resolve;

import io.lantrel.catalog.Key;
import io.lantrel.catalog.Table;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.Span;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** One appearance of a table, or of a query, in the FROM of a block. */
public final class TableUse {

  private final int index;
  private final String name;
  private final FromItem item;
  private final Span nameSpan;
  private final @Nullable Table table;
  private final @Nullable QueryBlock query;
  private final List<Key> keys;
  private final List<UseColumn> columns = new ArrayList<>();

  TableUse(
      int index,
      String name,
      FromItem item,
      Span nameSpan,
      @Nullable Table table,
      @Nullable QueryBlock query,
      List<Key> keys) {
    this.index = index;
    this.name = name;
    this.item = item;
    this.nameSpan = nameSpan;
    this.table = table;
    this.query = query;
    this.keys = List.copyOf(keys);
  }

  void add(UseColumn column) {
    columns.add(column);
  }

  /** Position in the FROM of its block, from 0. */
  public int index() {
    return index;
  }

  /** What it goes by in its block: its alias, or the name of the table. */
  public String name() {
    return name;
  }

  /** Where that name stands. */
  public Span nameSpan() {
    return nameSpan;
  }

  /** The item of FROM. */
  public FromItem item() {
    return item;
  }

  /** The table; empty for a derived table, and for a name that no table has. */
  public Optional<Table> table() {
    return Optional.ofNullable(table);
  }

  /** The block of a derived table; empty for others. */
  public Optional<QueryBlock> query() {
    return Optional.ofNullable(query);
  }

  /** Whether its columns are known. */
  public boolean isKnown() {
    return table != null || query != null;
  }

  /** Its keys, in the names of its columns. */
  public List<Key> keys() {
    return keys;
  }

  /** Its columns, in order. */
  public List<UseColumn> columns() {
    return Collections.unmodifiableList(columns);
  }

  /** The column of that name, without regard to case. */
  public Optional<UseColumn> column(String wanted) {
    String key = Identifier.key(wanted);
    return columns.stream().filter(each -> Identifier.key(each.name()).equals(key)).findFirst();
  }

  /** What a column of the table is called here. */
  String ofTable(String tableColumn) {
    return columns.stream()
        .filter(column -> column.tableColumn().equals(tableColumn))
        .map(UseColumn::name)
        .findFirst()
        .orElse(tableColumn);
  }

  /** The alias, if it has one of its own. */
  public boolean hasAlias() {
    return table != null && !Identifier.key(table.name()).equals(Identifier.key(name));
  }

  /** In words: {@code station s}, or just {@code station}. */
  public String words() {
    return table == null ? name : hasAlias() ? table.name() + " " + name : table.name();
  }

  /** What a row of it is called: the table's name, or the alias of a query. */
  public String rowWord() {
    return table == null ? name : table.name();
  }

  @Override
  public String toString() {
    return words();
  }
}
