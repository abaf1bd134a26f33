package io.lantrel.engine;

import io.lantrel.catalog.Basis;
import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Catalog.Lookup;
import io.lantrel.catalog.Column;
import io.lantrel.catalog.ColumnType;
import io.lantrel.catalog.Key;
import io.lantrel.catalog.Reference;
import io.lantrel.catalog.Table;
import io.lantrel.catalog.View;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.Dialect.Rule;
import io.lantrel.sql.SqlReader;
import io.lantrel.sql.SyntaxException;
import io.lantrel.sql.tree.Query;
import java.sql.Connection;
import java.sql.DatabaseMetaData;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/**
 * Reads tables, views, keys and references of a live database through JDBC's metadata, and what
 * that does not tell through queries.
 */
final class CatalogReader {

  /** Those of other schemas than are read fall away by themselves (ISO/IEC 9075-11, view VIEWS). */
  static final String STANDARD_VIEWS =
      "SELECT table_schema, table_name, view_definition FROM information_schema.views";

  private static final List<String> NO_TABLES =
      List.of("SYSTEM", "INDEX", "SEQUENCE", "TYPE", "TOAST", "SYNONYM", "TEMPORARY");

  private final Connection connection;
  private final DatabaseMetaData meta;
  private final Dialect dialect;
  private String searchPath = "";
  private String preparation = "";
  private String views = "";
  private Set<String> hidden = Set.of();
  private boolean atOnce;
  private boolean keyless;
  private @Nullable String schema;
  private @Nullable String schemas;
  private String catalog = "";
  private String primaryKeys = "";
  private String uniqueKeys = "";
  private String foreignKeys = "";

  private final Map<Name, List<Column>> columns = new LinkedHashMap<>();
  private final Map<Name, List<Key>> keys = new HashMap<>();
  private final Map<Name, Table> tablesByName = new HashMap<>();
  private final List<Reference> references = new ArrayList<>();

  /** A table in its schema, as the product names them. */
  private record Name(String schema, String table) {}

  CatalogReader(Connection connection, Dialect dialect) throws SQLException {
    this.connection = connection;
    this.meta = connection.getMetaData();
    this.dialect = dialect;
  }

  /** With the query that gives the schemas which are looked into when none is named. */
  CatalogReader withSearchPath(String query) {
    this.searchPath = query;
    return this;
  }

  /** With a statement that is executed once the search path is known. */
  CatalogReader thenExecuting(String statement) {
    this.preparation = statement;
    return this;
  }

  /** Without schemas of the product itself. */
  CatalogReader withoutSchemas(String... names) {
    this.hidden = Set.of(names);
    return this;
  }

  /** With the query that gives schema, name and query of each view. */
  CatalogReader withViews(String query) {
    this.views = query;
    return this;
  }

  /** Keys and references of all tables in one call, where the driver can. */
  CatalogReader allTablesAtOnce() {
    this.atOnce = true;
    return this;
  }

  /** Primary keys from a query with the columns of {@link DatabaseMetaData#getPrimaryKeys}. */
  CatalogReader withPrimaryKeys(String query) {
    this.primaryKeys = query;
    return this;
  }

  /** Unique indexes from a query with the columns of {@link DatabaseMetaData#getIndexInfo}. */
  CatalogReader withUniqueKeys(String query) {
    this.uniqueKeys = query;
    return this;
  }

  /** References from a query with the columns of {@link DatabaseMetaData#getImportedKeys}. */
  CatalogReader withForeignKeys(String query) {
    this.foreignKeys = query;
    return this;
  }

  /**
   * Of one catalog of several, all of which a query may name.
   *
   * @param name the catalog
   * @param schema the one whose tables are read, and meant where none is named; null for all
   */
  CatalogReader ofCatalog(String name, @Nullable String schema) throws SQLException {
    this.catalog = name;
    this.schema = schema;
    String escape = meta.getSearchStringEscape();
    this.schemas =
        schema == null
            ? null
            : schema
                .replace(escape, escape + escape)
                .replace("_", escape + "_")
                .replace("%", escape + "%");
    return this;
  }

  /** For products that have none: nothing is asked. */
  CatalogReader withoutKeys() {
    this.keyless = true;
    return this;
  }

  Catalog read() throws SQLException {
    List<String> path = path();
    if (!preparation.isEmpty()) {
      Product.execute(connection, List.of(preparation));
    }
    readTables();
    readColumns();
    Map<Name, View> readViews = readViews();
    readViews.keySet().forEach(columns::remove);
    if (!keyless) {
      readKeys();
    }
    List<Table> tables = new ArrayList<>();
    columns.forEach(
        (name, list) ->
            tables.add(
                new Table(
                    stored(name.schema()),
                    stored(name.table()),
                    list,
                    keys.getOrDefault(name, List.of()))));
    columns.keySet().forEach(name -> tablesByName.put(name, tables.get(tablesByName.size())));
    if (!keyless) {
      readReferences();
    }
    return new Catalog(dialect, tables, List.copyOf(readViews.values()), references, lookup(path));
  }

  private @Nullable Lookup lookup(List<String> path) throws SQLException {
    boolean exact = dialect.has(Rule.EXACT_TABLE_NAMES) && meta.supportsMixedCaseIdentifiers();
    return path.isEmpty() && catalog.isEmpty() ? null : new Lookup(path, exact, catalog);
  }

  private String stored(String name) {
    return name.isEmpty() ? "" : dialect.fromProduct(name);
  }

  private List<String> path() throws SQLException {
    List<String> path = new ArrayList<>();
    if (schema != null) {
      path.add(stored(schema));
    }
    if (!searchPath.isEmpty()) {
      each(searchPath, row -> path.add(stored(text(row, 1))));
    }
    path.removeIf(String::isEmpty);
    return path;
  }

  private void readTables() throws SQLException {
    try (ResultSet rows = meta.getTables(connection.getCatalog(), schemas, "%", null)) {
      while (rows.next()) {
        Name name = name(rows, "");
        String type = text(rows, "TABLE_TYPE");
        if (!hidden.contains(name.schema()) && NO_TABLES.stream().noneMatch(type::contains)) {
          columns.put(name, new ArrayList<>());
        }
      }
    }
  }

  /** The driver of MariaDB tells databases as catalogs, the others schemas as schemas. */
  private Name name(ResultSet rows, String prefix) throws SQLException {
    String schema = text(rows, prefix + (dialect == Dialect.MARIADB ? "TABLE_CAT" : "TABLE_SCHEM"));
    return new Name(schema, text(rows, prefix + "TABLE_NAME"));
  }

  private void readColumns() throws SQLException {
    Map<Name, Map<Integer, Column>> byPosition = new HashMap<>();
    try (ResultSet rows = meta.getColumns(connection.getCatalog(), schemas, "%", "%")) {
      while (rows.next()) {
        Name name = name(rows, "");
        if (columns.containsKey(name)) {
          byPosition
              .computeIfAbsent(name, key -> new TreeMap<>())
              .put(rows.getInt("ORDINAL_POSITION"), column(rows));
        }
      }
    }
    byPosition.forEach(
        (name, list) -> Objects.requireNonNull(columns.get(name)).addAll(list.values()));
    columns.values().removeIf(List::isEmpty);
  }

  private Column column(ResultSet rows) throws SQLException {
    String column = stored(text(rows, "COLUMN_NAME"));
    ColumnType type =
        JdbcTypes.type(
            text(rows, "TYPE_NAME"),
            rows.getInt("DATA_TYPE"),
            rows.getInt("COLUMN_SIZE"),
            rows.getInt("DECIMAL_DIGITS"));
    return new Column(column, type, rows.getInt("NULLABLE") != DatabaseMetaData.columnNoNulls);
  }

  /** Views whose query Lantrel can read; any other is like a table without keys. */
  private Map<Name, View> readViews() throws SQLException {
    Map<Name, View> found = new LinkedHashMap<>();
    if (!views.isEmpty()) {
      each(
          views,
          row -> {
            Name name = new Name(text(row, 1), text(row, 2));
            List<Column> known = columns.get(name);
            Query query = query(text(row, 3));
            if (known != null && query != null) {
              List<String> names = known.stream().map(Column::name).toList();
              found.put(name, new View(stored(name.schema()), stored(name.table()), names, query));
            }
          });
    }
    return found;
  }

  private @Nullable Query query(String sql) {
    try {
      return SqlReader.readQuery(sql.strip().replaceFirst(";$", ""), dialect);
    } catch (SyntaxException notRead) {
      return null;
    }
  }

  // ---- keys ----

  private void readKeys() throws SQLException {
    answers(
        primaryKeys,
        name -> meta.getPrimaryKeys(catalogOf(name), schemaOf(name), tableOf(name)),
        rows -> addKeys(rows, "PK_NAME", "KEY_SEQ", true));
    answers(
        uniqueKeys,
        name -> meta.getIndexInfo(catalogOf(name), schemaOf(name), tableOf(name), true, true),
        rows -> addKeys(rows, "INDEX_NAME", "ORDINAL_POSITION", false));
    keys.values().forEach(list -> list.sort(Comparator.comparing(key -> !key.primary())));
  }

  private interface Asking {
    ResultSet ask(Name name) throws SQLException;
  }

  /** From one query if there is one, and else from the driver. */
  private void answers(String query, Asking driver, RowReader reader) throws SQLException {
    if (!query.isEmpty()) {
      try (Statement statement = connection.createStatement();
          ResultSet rows = statement.executeQuery(query)) {
        reader.read(rows);
      }
      return;
    }
    for (Name name : asked()) {
      try (ResultSet rows = driver.ask(name)) {
        reader.read(rows);
      }
    }
  }

  private @Nullable String tableOf(Name name) {
    return atOnce ? null : name.table();
  }

  /** Each table, or where all are asked for at once, one for each schema. */
  private Collection<Name> asked() {
    if (!atOnce) {
      return columns.keySet();
    }
    Map<String, Name> bySchema = new LinkedHashMap<>();
    columns.keySet().forEach(name -> bySchema.putIfAbsent(name.schema(), name));
    return bySchema.values();
  }

  private @Nullable String catalogOf(Name name) throws SQLException {
    return dialect == Dialect.MARIADB ? name.schema() : connection.getCatalog();
  }

  private @Nullable String schemaOf(Name name) {
    return dialect == Dialect.MARIADB || name.schema().isEmpty() ? null : name.schema();
  }

  private void addKeys(ResultSet rows, String nameColumn, String positionColumn, boolean primary)
      throws SQLException {
    Map<Name, Map<String, Map<Integer, String>>> found = new LinkedHashMap<>();
    Map<Name, Set<String>> partial = new HashMap<>();
    while (rows.next()) {
      Name table = name(rows, "");
      String key = text(rows, nameColumn);
      int position = rows.getInt(positionColumn);
      String column = text(rows, "COLUMN_NAME");
      boolean counts = columns.containsKey(table) && position > 0;
      if (counts && !primary && !text(rows, "FILTER_CONDITION").isEmpty()) {
        partial.computeIfAbsent(table, each -> new HashSet<>()).add(key);
      }
      if (counts) {
        found
            .computeIfAbsent(table, each -> new LinkedHashMap<>())
            .computeIfAbsent(key, each -> new TreeMap<>())
            .put(position, stored(column));
      }
    }
    found.forEach(
        (table, list) ->
            list.forEach(
                (key, members) -> {
                  if (!partial.getOrDefault(table, Set.of()).contains(key)) {
                    addKey(table, List.copyOf(members.values()), primary);
                  }
                }));
  }

  /** A key over an expression is none over columns; the index of a primary key is known already. */
  private void addKey(Name table, List<String> members, boolean primary) {
    List<String> names =
        Objects.requireNonNull(columns.get(table)).stream().map(Column::name).toList();
    List<Key> known = keys.computeIfAbsent(table, each -> new ArrayList<>());
    boolean repeated =
        known.stream().anyMatch(key -> Set.copyOf(key.columns()).equals(Set.copyOf(members)));
    if (names.containsAll(members) && !repeated) {
      known.add(new Key(members, primary));
    }
  }

  // ---- references ----

  private void readReferences() throws SQLException {
    answers(
        foreignKeys,
        name -> meta.getImportedKeys(catalogOf(name), schemaOf(name), tableOf(name)),
        this::addReferences);
  }

  /** Rows come by the table referred to; a new reference begins where the position is 1 again. */
  private void addReferences(ResultSet rows) throws SQLException {
    List<Part> parts = new ArrayList<>();
    while (rows.next()) {
      Name from = name(rows, "FK");
      Name to = name(rows, "PK");
      if (columns.containsKey(from) && columns.containsKey(to)) {
        parts.add(
            new Part(
                from,
                to,
                text(rows, "FK_NAME"),
                rows.getInt("KEY_SEQ"),
                stored(text(rows, "FKCOLUMN_NAME")),
                stored(text(rows, "PKCOLUMN_NAME"))));
      }
    }
    Map<String, List<Part>> together = new LinkedHashMap<>();
    int unnamed = 0;
    for (Part part : parts) {
      unnamed += part.position() == 1 ? 1 : 0;
      String key = part.name().isEmpty() ? String.valueOf(unnamed) : part.from() + part.name();
      together.computeIfAbsent(key, each -> new ArrayList<>()).add(part);
    }
    together.values().forEach(this::addReference);
  }

  private record Part(
      Name from, Name to, String name, int position, String fromColumn, String toColumn) {}

  private void addReference(List<Part> parts) {
    List<Part> sorted = parts.stream().sorted(Comparator.comparingInt(Part::position)).toList();
    Part first = sorted.get(0);
    references.add(
        new Reference(
            Objects.requireNonNull(tablesByName.get(first.from())),
            sorted.stream().map(Part::fromColumn).toList(),
            Objects.requireNonNull(tablesByName.get(first.to())),
            sorted.stream().map(Part::toColumn).toList(),
            Basis.DECLARED));
  }

  // ---- rows of metadata ----

  private interface RowReader {
    void read(ResultSet row) throws SQLException;
  }

  private void each(String query, RowReader reader) throws SQLException {
    try (Statement statement = connection.createStatement();
        ResultSet rows = statement.executeQuery(query)) {
      while (rows.next()) {
        reader.read(rows);
      }
    }
  }

  private static String text(ResultSet rows, String column) throws SQLException {
    return Objects.requireNonNullElse(rows.getString(column), "");
  }

  private static String text(ResultSet rows, int column) throws SQLException {
    return Objects.requireNonNullElse(rows.getString(column), "");
  }
}
