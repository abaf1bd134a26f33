package io.lantrel.resolve;

import io.lantrel.catalog.Key;
import io.lantrel.catalog.Table;
import io.lantrel.sql.Dialect;
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
  private final @Nullable ResolvedQuery query;
  private final Source source;
  private final Dialect dialect;
  private final List<UseColumn> columns = new ArrayList<>();
  private @Nullable List<Key> keys;
  private boolean dependent;

  /** Where the rows come from. */
  enum Source {
    TABLE,
    VIEW,
    COMMON_TABLE,
    /** The query of WITH in which the table use itself stands. */
    OWN_RECURSION,
    DERIVED_TABLE,
    FUNCTION,
    UNKNOWN
  }

  TableUse(
      int index,
      String name,
      FromItem item,
      Span nameSpan,
      Source source,
      @Nullable Table table,
      @Nullable ResolvedQuery query,
      Dialect dialect) {
    this.index = index;
    this.name = name;
    this.item = item;
    this.nameSpan = nameSpan;
    this.source = source;
    this.table = table;
    this.query = query;
    this.dialect = dialect;
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

  /** The same as SQL. */
  public String written() {
    return dialect.write(name);
  }

  /** How the names here are compared and written. */
  public Dialect dialect() {
    return dialect;
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

  /** Whether both are uses of the same table; of a query, or of nothing known, never. */
  public boolean isOfTable(TableUse other) {
    return table != null && table.equals(other.table);
  }

  /** What the query behind it gives; empty for a table, and for what is not known. */
  public Optional<ResolvedQuery> result() {
    return Optional.ofNullable(query);
  }

  /**
   * The block of the query behind it, in the same text; empty for others, and if the query is no
   * single SELECT.
   */
  public Optional<QueryBlock> query() {
    return source == Source.DERIVED_TABLE || source == Source.COMMON_TABLE
        ? result().flatMap(ResolvedQuery::block)
        : Optional.empty();
  }

  /** The query behind it, if it stands in the same text: not so for a view. */
  public Optional<ResolvedQuery> queryOfText() {
    return source == Source.DERIVED_TABLE || source == Source.COMMON_TABLE
        ? result()
        : Optional.empty();
  }

  /** The block of the query behind a view; empty for others, and if it is no single SELECT. */
  public Optional<QueryBlock> queryOfView() {
    return source == Source.VIEW ? result().flatMap(ResolvedQuery::block) : Optional.empty();
  }

  /** Whether it stands for the rows so far of the recursion in which it stands itself. */
  public boolean isOwnRecursion() {
    return source == Source.OWN_RECURSION;
  }

  /** Whether its rows depend on the rows of the items before it (LATERAL). */
  public boolean isDependent() {
    return dependent;
  }

  /** Whether only a part of the rows is taken, by chance. */
  public boolean isSampled() {
    return item instanceof FromItem.TableName name && name.sample() != null;
  }

  void markDependent() {
    dependent = true;
  }

  /** Whether columns can be named by it: a query or function in FROM may go without a name. */
  public boolean isNamed() {
    return item instanceof FromItem.TableName
        || (item instanceof FromItem.DerivedTable derived && derived.alias() != null)
        || (item instanceof FromItem.TableFunction function && function.alias() != null);
  }

  /** Whether all its columns are known. */
  public boolean isKnown() {
    return table != null || (query != null && query.isComplete());
  }

  /** Its keys, in the names of its columns. */
  public List<Key> keys() {
    if (keys == null) {
      keys = table != null ? keysOfTable(table) : keysOfQuery();
    }
    return keys;
  }

  private List<Key> keysOfTable(Table of) {
    List<Key> found = new ArrayList<>();
    for (Key key : of.keys()) {
      List<String> names = key.columns().stream().map(this::ofTable).toList();
      found.add(new Key(names, key.primary()));
    }
    return List.copyOf(found);
  }

  /** A key over two columns of one name cannot be told in names. */
  private List<Key> keysOfQuery() {
    if (query == null) {
      return List.of();
    }
    return query.keys().stream()
        .map(key -> key.stream().sorted().map(columns::get).toList())
        .filter(key -> key.stream().allMatch(column -> isOnly(column)))
        .map(key -> new Key(key.stream().map(UseColumn::name).toList(), false))
        .toList();
  }

  private boolean isOnly(UseColumn column) {
    return columns.stream().filter(each -> each.name().equals(column.name())).count() == 1;
  }

  /** Its columns, in order. */
  public List<UseColumn> columns() {
    return Collections.unmodifiableList(columns);
  }

  /** The column of that name, as the dialect compares names; empty if there are several. */
  public Optional<UseColumn> column(String stored) {
    return columnOf(dialect.key(stored));
  }

  Optional<UseColumn> column(Identifier wanted) {
    return columnOf(dialect.key(wanted));
  }

  private Optional<UseColumn> columnOf(String key) {
    return columns.stream().filter(each -> dialect.key(each.name()).equals(key)).findFirst();
  }

  /** What a column of the table is called here. */
  String ofTable(String tableColumn) {
    return columnOfTable(tableColumn).map(UseColumn::name).orElse(tableColumn);
  }

  /** The column that stands for one of the table; empty if there is none. */
  public Optional<UseColumn> columnOfTable(String tableColumn) {
    return columns.stream().filter(column -> column.tableColumn().equals(tableColumn)).findFirst();
  }

  /** The columns of its first key; none if it has no key. */
  public List<UseColumn> keyColumns() {
    return keys().stream()
        .limit(1)
        .flatMap(key -> key.columns().stream())
        .flatMap(name -> column(name).stream())
        .toList();
  }

  /** The alias, if it has one of its own. */
  public boolean hasAlias() {
    return table != null && !dialect.key(table.name()).equals(dialect.key(name));
  }

  /** In words: {@code station s}, or just {@code station}. */
  public String words() {
    if (table == null && item instanceof FromItem.TableName named && named.alias() != null) {
      return dialect.stored(named.last()) + " " + name;
    }
    return table == null ? name : hasAlias() ? table.name() + " " + name : table.name();
  }

  /** The table's name, or the alias of a query. */
  public String tableName() {
    return table == null ? name : table.name();
  }

  /** What a row of it is called: {@code station}, or {@code row of q} if it is one of a query. */
  public String rowWord() {
    return table == null ? "row of " + name : table.name();
  }

  @Override
  public String toString() {
    return words();
  }
}
