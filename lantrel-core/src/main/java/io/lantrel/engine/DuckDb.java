package io.lantrel.engine;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Column;
import io.lantrel.catalog.ColumnType;
import io.lantrel.catalog.Table;
import io.lantrel.engine.DatabaseException.Reason;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.outgoing.Outgoing;
import io.lantrel.sql.tree.Query;
import java.io.File;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Properties;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.duckdb.DuckDBConnection;
import org.duckdb.DuckDBDriver;
import org.jspecify.annotations.Nullable;

/**
 * DuckDB. Before its first statement it loses every way to files and settings; every later query
 * runs in a read-only transaction.
 */
final class DuckDb extends EmbeddedProduct {

  /** One query gives the statements that would make all of it again. */
  private static final String DEFINITIONS =
      "SELECT sql FROM (SELECT 1 AS part, table_oid AS o, sql FROM duckdb_tables()"
          + " WHERE NOT internal AND database_name = current_database()"
          + " UNION ALL SELECT 2, view_oid, sql FROM duckdb_views()"
          + " WHERE NOT internal AND database_name = current_database()"
          + " UNION ALL SELECT 3, index_oid, sql FROM duckdb_indexes()"
          + " WHERE database_name = current_database()) AS d WHERE sql IS NOT NULL ORDER BY part, o";

  /** So many times its memory an engine may spill to disk. */
  private static final long SPILLED = 8;

  private static final AtomicInteger NUMBER = new AtomicInteger();

  private static final Map<Connection, Path> FOLDERS =
      Collections.synchronizedMap(new IdentityHashMap<>());

  /**
   * DuckDB 2.0 works out once what two queries of a statement have in common, and takes for that an
   * inner join between outer ones for an outer join: the counts are wrong.
   */
  private static final String WRONG = "common_subplan";

  /**
   * With few rows, working out the best way to a result takes longer than any way: with these steps
   * Lantrel's own tests, of some 13,000 queries on small data, take 42 minutes and not 29.
   */
  private static final List<String> TOO_LONG =
      List.of(
          "join_order",
          "statistics_propagation",
          "compressed_materialization",
          "duplicate_groups",
          "reorder_filter",
          "join_filter_pushdown",
          "build_side_probe_side");

  @Override
  String urlPrefix() {
    return "jdbc:duckdb:";
  }

  @Override
  Optional<DriverClass> driver() {
    return Optional.of(new DriverClass("org.duckdb.DuckDBDriver", "org.duckdb:duckdb_jdbc"));
  }

  @Override
  String title() {
    return "DuckDB";
  }

  @Override
  Dialect dialect() {
    return Dialect.DUCKDB;
  }

  @Override
  Connection connect(Access access) throws SQLException {
    Properties properties = access.properties();
    // In memory there is nothing to protect, and the driver refuses.
    if (access.url().length() > urlPrefix().length()) {
      properties.setProperty("duckdb.read_only", "true");
    }
    Connection connection = connect(access.url(), properties);
    return settled(
        connection,
        () -> {
          // One process has a database open once, and whoever came first has locked it.
          boolean locked =
              row(connection, "SELECT current_setting('lock_configuration')")
                  .equals(List.of("true"));
          if (!locked) {
            lock(connection, access.limits(), false);
          }
        });
  }

  @Override
  boolean mixesUpParts(Connection connection) throws SQLException {
    String left =
        "SELECT COUNT(*) FROM duckdb_optimizers() WHERE name = '%s'"
            + " AND NOT contains(current_setting('disabled_optimizers'), name)";
    return !row(connection, left.formatted(WRONG)).equals(List.of("0"));
  }

  /** Its settings are those of the whole database, which somebody else uses too: they stay. */
  @Override
  void lend(Connection connection, Limits limits, PutBack back) {
    lendAutoCommit(connection, back);
  }

  /** After this no file, no other database and no setting can be reached. */
  private static void lock(Connection connection, Limits limits, boolean small)
      throws SQLException {
    long megabytes = limits.memory() >> 20;
    List<String> all = new ArrayList<>();
    all.add("SET disabled_optimizers = '" + leftOut(connection, small) + "'");
    if (small) {
      all.add("SET threads = 1");
    }
    all.add("SET memory_limit = '" + megabytes + "MiB'");
    all.add("SET max_temp_directory_size = '" + SPILLED * megabytes + "MiB'");
    all.add("SET temp_directory = '" + spilled(connection, limits) + "'");
    all.add("SET enable_external_access = false");
    all.add("SET lock_configuration = true");
    execute(connection, List.of(String.join("; ", all)));
  }

  /** The steps to a plan that are left out: a version of DuckDB refuses those that it has not. */
  private static String leftOut(Connection connection, boolean small) throws SQLException {
    Stream<String> names = Stream.concat(Stream.of(WRONG), small ? TOO_LONG.stream() : Stream.of());
    String list = names.map(name -> "'" + name + "'").collect(Collectors.joining(", "));
    return row(
            connection,
            "SELECT COALESCE(string_agg(name, ','), '') FROM duckdb_optimizers() WHERE name IN ("
                + list
                + ")")
        .get(0);
  }

  /**
   * Where what does not fit into memory is put: else it would be the folder one stands in. DuckDB
   * makes the folder when it needs it.
   */
  private static String spilled(Connection connection, Limits limits) throws SQLException {
    try {
      Path parent = limits.spill();
      Path folder =
          parent == null
              ? Files.createTempDirectory("lantrel")
              : parent.resolve(
                  "lantrel-" + ProcessHandle.current().pid() + "-" + NUMBER.incrementAndGet());
      FOLDERS.put(connection, folder);
      folder.toFile().deleteOnExit();
      return folder.toString().replace("'", "''");
    } catch (IOException failure) {
      throw new SQLException("there is no folder for temporary files: " + failure, failure);
    }
  }

  @Override
  void closed(Connection connection) {
    Path folder = FOLDERS.remove(connection);
    File[] left = folder == null ? null : folder.toFile().listFiles();
    if (left != null && folder != null) {
      Arrays.stream(left).forEach(File::delete);
      folder.toFile().delete();
    }
  }

  /**
   * The driver holds a result whole in memory, whatever the limit of memory and of rows; so no more
   * rows than are wanted are asked for.
   */
  @Override
  Query capped(Query query, int most) {
    return query.limit() == null ? limited(query, most) : query;
  }

  @Override
  String objectsQuery(Connection connection) {
    return "SELECT 'function', function_name, '' FROM duckdb_functions() WHERE NOT internal"
        + " UNION ALL SELECT 'view', schema_name || E'\\x0A' || view_name, '' FROM duckdb_views()"
        + " WHERE NOT internal AND database_name = current_database()";
  }

  private static Connection connect(String url, Properties settings) throws SQLException {
    // Offline, the search for an extension costs seconds; what is built in is enough.
    settings.setProperty("autoinstall_known_extensions", "false");
    settings.setProperty("autoload_known_extensions", "false");
    return connected(new DuckDBDriver(), url, settings);
  }

  @Override
  void warmUp(Limits limits) throws SQLException {
    connect("jdbc:duckdb:", new Properties()).close();
  }

  @Override
  Connection open(Limits limits, boolean small) throws SQLException {
    Connection connection = connect("jdbc:duckdb:", new Properties());
    return settled(connection, () -> lock(connection, limits, small));
  }

  /** What PostgreSQL calls JSONB. */
  @Override
  String type(ColumnType type) {
    return type.word().equals("JSONB") ? "JSON" : super.type(type);
  }

  /** Values of types that Lantrel does not know come as text, and DuckDB reads them. */
  @Override
  void insert(Connection connection, Table table, List<@Nullable Object[]> rows)
      throws SQLException {
    List<Column> unknown = table.columns().stream().filter(CsvValue::isLeftToTheEngine).toList();
    String target = unknown.isEmpty() ? table.name() : "lantrel_incoming";
    if (!unknown.isEmpty()) {
      String columns =
          table.columns().stream()
              .map(
                  c -> quoted(c.name()) + " " + (unknown.contains(c) ? "VARCHAR" : c.type().text()))
              .collect(Collectors.joining(", "));
      execute(
          connection,
          List.of(Outgoing.sent("CREATE TABLE " + target + " (" + columns + ")", dialect())));
    }
    append(connection, target, withLists(table, rows));
    if (!unknown.isEmpty()) {
      execute(
          connection,
          List.of(
              Outgoing.sent(
                  "INSERT INTO " + quoted(table.name()) + " SELECT * FROM " + target, dialect()),
              "DROP TABLE " + target));
    }
  }

  /** PostgreSQL writes its arrays in braces. */
  private static List<@Nullable Object[]> withLists(Table table, List<@Nullable Object[]> rows) {
    List<Column> columns = table.columns();
    if (columns.stream().noneMatch(each -> each.type().text().endsWith("]"))) {
      return rows;
    }
    List<@Nullable Object[]> all = new ArrayList<>();
    for (@Nullable Object[] row : rows) {
      @Nullable Object[] changed = row.clone();
      for (int i = 0; i < row.length; i++) {
        if (columns.get(i).type().text().endsWith("]") && row[i] instanceof String text) {
          changed[i] = text.startsWith("{") ? inBrackets(text) : text;
        }
      }
      all.add(changed);
    }
    return all;
  }

  private static String inBrackets(String array) {
    StringBuilder list = new StringBuilder();
    boolean quoted = false;
    for (int i = 0; i < array.length(); i++) {
      char sign = array.charAt(i);
      if (sign == '\\' && i + 1 < array.length()) {
        list.append(sign).append(array.charAt(++i));
        continue;
      }
      quoted ^= sign == '"';
      boolean brace = !quoted && (sign == '{' || sign == '}');
      list.append(brace ? (sign == '{' ? '[' : ']') : sign);
    }
    return list.toString();
  }

  private static void append(Connection connection, String table, List<@Nullable Object[]> rows)
      throws SQLException {
    DuckDBConnection duck = connection.unwrap(DuckDBConnection.class);
    try (var appender = duck.createAppender("main", table)) {
      for (@Nullable Object[] row : rows) {
        appender.beginRow();
        for (Object value : row) {
          CsvValue.append(appender, value);
        }
        appender.endRow();
      }
      // close() alone would swallow a failure and lose the rows.
      appender.flush();
    }
  }

  @Override
  List<Integer> decimalDefaults() {
    return List.of(18, 3);
  }

  @Override
  Connection seal(Connection connection) {
    return connection;
  }

  @Override
  String beginning() {
    return "BEGIN TRANSACTION READ ONLY";
  }

  /** One for each execution: the driver closes a statement that fails. It knows no cap on rows. */
  @Override
  Statement statement(Connection connection, int rows) throws SQLException {
    return connection.createStatement();
  }

  @Override
  void plan(Connection connection, String sql, TimeLimit time) throws SQLException {
    connection.prepareStatement(sql).close();
  }

  @Override
  Catalog catalog(Connection connection) throws SQLException {
    return defined(connection, DEFINITIONS, dialect());
  }

  @Override
  Reason reason(SQLException failure) {
    String message = String.valueOf(failure.getMessage());
    if (message.contains("Interrupted") || message.startsWith("INTERRUPT")) {
      return Reason.TOOK_TOO_LONG;
    }
    return super.reason(failure);
  }

  @Override
  boolean isSyntax(SQLException failure) {
    return String.valueOf(failure.getMessage()).startsWith("Parser Error");
  }

  /** The first line of the message, without the class of the error; the rest repeats the query. */
  @Override
  String words(SQLException failure) {
    return super.words(failure).replaceFirst("^(?:[A-Z][A-Za-z ]* Error|Error): ", "");
  }
}
