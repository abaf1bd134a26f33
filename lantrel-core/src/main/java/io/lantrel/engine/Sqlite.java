package io.lantrel.engine;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.ColumnType;
import io.lantrel.catalog.TypeFamily;
import io.lantrel.engine.DatabaseException.Reason;
import io.lantrel.sql.Dialect;
import java.sql.Connection;
import java.sql.ResultSetMetaData;
import java.sql.SQLException;
import java.time.temporal.Temporal;
import java.util.List;
import java.util.Optional;
import java.util.Properties;
import org.sqlite.JDBC;
import org.sqlite.SQLiteConfig;
import org.sqlite.SQLiteErrorCode;
import org.sqlite.SQLiteException;

/**
 * SQLite. A file is opened read-only, so that none is made where there is none. What it knows of
 * its tables is the text that made them, and that is what is read.
 */
final class Sqlite extends EmbeddedProduct {

  @Override
  String urlPrefix() {
    return "jdbc:sqlite:";
  }

  @Override
  Optional<DriverClass> driver() {
    return Optional.of(new DriverClass("org.sqlite.JDBC", "org.xerial:sqlite-jdbc"));
  }

  @Override
  String title() {
    return "SQLite";
  }

  @Override
  Dialect dialect() {
    return Dialect.SQLITE;
  }

  @Override
  Connection connect(Access access) throws SQLException {
    Properties properties = access.properties();
    SQLiteConfig config = new SQLiteConfig(properties);
    config.setReadOnly(true);
    Connection connection = connected(new JDBC(), access.url(), config.toProperties());
    return settled(
        connection,
        () -> {
          // A file that is no database shows only when it is read.
          execute(connection, List.of("PRAGMA schema_version"));
          bound(connection, access.limits());
          execute(connection, List.of("PRAGMA query_only = ON"));
        });
  }

  /** How much memory it may use is one number for all connections of a program: that stays. */
  @Override
  void lend(Connection connection, Limits limits, PutBack back) throws SQLException {
    for (String each : List.of("trusted_schema", "query_only")) {
      String old = row(connection, "PRAGMA " + each).get(0);
      back.with(
          () ->
              execute(connection, List.of("PRAGMA " + each + (old.equals("0") ? " = 0" : " = 1"))));
    }
    execute(connection, List.of("PRAGMA trusted_schema = OFF", "PRAGMA query_only = ON"));
    lendTransactions(connection, back);
  }

  /** What a schema brings along runs no function that is not harmless by SQLite's own account. */
  private static void bound(Connection connection, Limits limits) throws SQLException {
    execute(
        connection,
        List.of("PRAGMA trusted_schema = OFF", "PRAGMA hard_heap_limit = " + limits.memory()));
  }

  @Override
  String objectsQuery(Connection connection) {
    return "SELECT 'table', char(10) || name, 'the module '"
        + " || lower(trim(substr(sql, instr(lower(sql), ' using ') + 7, 12))) FROM sqlite_schema"
        + " WHERE type = 'table' AND sql LIKE 'CREATE VIRTUAL%'"
        + " AND lower(sql) NOT LIKE '% using fts%' AND lower(sql) NOT LIKE '% using rtree%'"
        + " UNION ALL SELECT 'view', char(10) || name, '' FROM sqlite_schema WHERE type = 'view'";
  }

  @Override
  Connection open(Limits limits, boolean small) throws SQLException {
    SQLiteConfig config = new SQLiteConfig();
    config.enableLoadExtension(false);
    Properties properties = config.toProperties();
    // No other file can be attached.
    properties.setProperty(SQLiteConfig.Pragma.LIMIT_ATTACHED.pragmaName, "0");
    Connection connection = connected(new JDBC(), "jdbc:sqlite::memory:", properties);
    return settled(connection, () -> bound(connection, limits));
  }

  @Override
  Connection seal(Connection connection) throws SQLException {
    execute(connection, List.of("PRAGMA query_only = ON"));
    return connection;
  }

  /** A cast to a type that it does not know would make a number of any text. */
  @Override
  String type(ColumnType type) {
    boolean other = type.family() == TypeFamily.OTHER && !type.word().equals("BLOB");
    return other ? "TEXT" : super.type(type);
  }

  @Override
  Object handed(Object value) {
    // As SQLite's own functions write it.
    return value instanceof Temporal ? ValueText.of(value) : value;
  }

  @Override
  Catalog catalog(Connection connection) throws SQLException {
    return defined(
        connection,
        "SELECT sql FROM sqlite_schema WHERE sql IS NOT NULL"
            + " AND type IN ('table', 'view', 'index') AND name NOT LIKE 'sqlite\\_%' ESCAPE '\\'"
            + " AND name NOT IN (SELECT name FROM pragma_table_list WHERE type = 'shadow')"
            + " ORDER BY rowid",
        dialect());
  }

  @Override
  Reason reason(SQLException failure) {
    if (failure instanceof SQLiteException known) {
      SQLiteErrorCode code = known.getResultCode();
      if (code == SQLiteErrorCode.SQLITE_INTERRUPT) {
        return Reason.TOOK_TOO_LONG;
      }
      if (code == SQLiteErrorCode.SQLITE_PERM || code == SQLiteErrorCode.SQLITE_AUTH) {
        return Reason.NO_PERMISSION;
      }
    }
    return super.reason(failure);
  }

  @Override
  boolean isSyntax(SQLException failure) {
    String message = String.valueOf(failure.getMessage());
    return message.contains("syntax error")
        || message.contains("unrecognized token")
        || message.contains("incomplete input");
  }

  @Override
  String words(SQLException failure) {
    return super.words(failure)
        .replaceFirst("^\\[[A-Z_]+\\] +(?:SQL error or missing database *)?", "")
        .replaceFirst("^\\((.*)\\)$", "$1");
  }

  /** Its expressions have no types, only their values do. */
  @Override
  ColumnType resultType(ResultSetMetaData meta, int column) throws SQLException {
    String table = meta.getTableName(column);
    return table == null || table.isEmpty() ? ColumnType.UNKNOWN : super.resultType(meta, column);
  }
}
