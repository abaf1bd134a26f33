package io.lantrel.engine;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.ColumnType;
import io.lantrel.catalog.SchemaFile;
import io.lantrel.engine.DatabaseException.Reason;
import io.lantrel.engine.harmless.DatabaseObjects;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.SourceText;
import io.lantrel.sql.SyntaxException;
import io.lantrel.sql.tree.Limit;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value;
import java.sql.Connection;
import java.sql.Driver;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.ResultSetMetaData;
import java.sql.SQLException;
import java.sql.SQLTimeoutException;
import java.sql.Savepoint;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Properties;
import org.jspecify.annotations.Nullable;

/**
 * What is particular to a database product, seen from JDBC. What is particular to its SQL is in its
 * {@link Dialect}.
 */
abstract class Product {

  /** That a connection could not be made (ISO/IEC 9075-2, 24.1). */
  private static final String CONNECTION = "08001";

  /** How many seconds longer than a statement may take, a server may say nothing. */
  static final long SOCKET_GRACE = 10;

  /** The first part of its JDBC URLs, in lower case. */
  abstract String urlPrefix();

  /** Its name in sentences. */
  abstract String title();

  abstract Dialect dialect();

  /**
   * A class of its driver, and where that is from.
   *
   * @param artifact group and name of the Maven artifact
   */
  record DriverClass(String type, String artifact) {}

  /** Its driver; empty if any may do. */
  Optional<DriverClass> driver() {
    return Optional.empty();
  }

  /**
   * Sees whether its driver is there.
   *
   * @throws SQLException if not; the message says what to add
   */
  final void requireDriver() throws SQLException {
    Optional<DriverClass> wanted = driver();
    if (wanted.isEmpty()) {
      return;
    }
    try {
      Class.forName(wanted.get().type());
    } catch (ClassNotFoundException missing) {
      throw new SQLException(
          "its driver is not on the class path; add "
              + wanted.get().artifact()
              + ", or io.lantrel:lantrel-drivers, which has all of them",
          missing);
    }
  }

  /**
   * Opens a connection for reading: read-only where the product can promise that, and without
   * making a database that is not there.
   */
  abstract Connection connect(Access access) throws SQLException;

  /**
   * A connection by a driver. Some drivers fail in themselves over a URL that they cannot read.
   *
   * @throws SQLException if there is none
   */
  static Connection connected(Driver driver, String url, Properties properties)
      throws SQLException {
    Connection connection;
    try {
      connection = driver.connect(url, properties);
    } catch (RuntimeException unread) {
      throw new SQLException("the driver cannot read this URL", CONNECTION, unread);
    }
    if (connection == null) {
      throw new SQLException("the driver does not know this form of a URL", CONNECTION);
    }
    return connection;
  }

  /**
   * Prepares a connection that somebody else opened as far as it can be put back afterwards: to
   * read only, and to read SQL as Lantrel writes it. No transaction runs in it.
   *
   * @param back takes note of what was changed
   */
  void lend(Connection connection, Limits limits, PutBack back) throws SQLException {
    boolean readOnly = connection.isReadOnly();
    back.with(() -> connection.setReadOnly(readOnly));
    connection.setReadOnly(true);
    lendTransactions(connection, back);
  }

  /** Takes note of how transactions begin. */
  static void lendTransactions(Connection connection, PutBack back) throws SQLException {
    int isolation = connection.getTransactionIsolation();
    back.with(() -> connection.setTransactionIsolation(isolation));
    lendAutoCommit(connection, back);
  }

  /** It is on when a connection is lent. */
  static void lendAutoCommit(Connection connection, PutBack back) {
    back.with(
        () -> {
          if (!connection.getAutoCommit()) {
            connection.setAutoCommit(true);
          }
        });
  }

  /** What a query can use. */
  abstract Catalog catalog(Connection connection) throws SQLException;

  /**
   * The query that tells what a database has besides what its product brings, as far as using it
   * runs code: rows of kind, name and detail, as {@link DatabaseObjects#add} takes them. Empty if
   * there is none.
   */
  String objectsQuery(Connection connection) throws SQLException {
    return "";
  }

  /** What a database has besides what its product brings. */
  DatabaseObjects objects(Connection connection) throws SQLException {
    DatabaseObjects objects = DatabaseObjects.none();
    String query = objectsQuery(connection);
    if (!query.isEmpty()) {
      try (Statement statement = connection.createStatement();
          ResultSet rows = statement.executeQuery(query)) {
        while (rows.next()) {
          add(objects, rows.getString(1).strip(), rows.getString(2), rows.getString(3));
        }
      }
    }
    return objects;
  }

  /**
   * Names as the catalog has them; of tables they come as schema and name with a line feed between.
   */
  private void add(DatabaseObjects objects, String kind, String name, String detail) {
    int between = name.indexOf('\n');
    String known =
        between < 0
            ? dialect().fromProduct(name)
            : DatabaseObjects.key(
                dialect().fromProduct(name.substring(0, between)),
                dialect().fromProduct(name.substring(between + 1)));
    objects.add(kind, known, String.valueOf(detail));
  }

  /**
   * What the user may do besides reading, in a sentence with the statements that make a user who
   * may only read; empty if nothing.
   */
  Optional<String> noteOnRights(Connection connection) throws SQLException {
    return Optional.empty();
  }

  /** The query with no more rows than are wanted, where the driver does not see to that. */
  Query capped(Query query, int most) {
    return query;
  }

  /** A query that has no limit, with one. */
  static Query limited(Query query, int most) {
    return new Query(
        query.span(),
        query.recursive(),
        query.with(),
        query.body(),
        query.orderBy(),
        new Limit(Span.NOWHERE, Value.Literal.number(most), null, false, false));
  }

  /** Whether a result must be read to its end, since else the transaction ends with it. */
  boolean readsToTheEnd() {
    return false;
  }

  /** A connection after what has to be done first; it is closed if that fails. */
  static Connection settled(Connection connection, Settling work) throws SQLException {
    try {
      work.run();
      return connection;
    } catch (SQLException failure) {
      connection.close();
      throw failure;
    }
  }

  /** What is done with a connection before anything else. */
  interface Settling {
    void run() throws SQLException;
  }

  /** After a connection was closed: what it left on disk goes, too. */
  void closed(Connection connection) {}

  /** One row of texts. */
  static List<String> row(Connection connection, String query) throws SQLException {
    try (Statement statement = connection.createStatement();
        ResultSet rows = statement.executeQuery(query)) {
      List<String> row = new ArrayList<>();
      if (rows.next()) {
        for (int column = 1; column <= rows.getMetaData().getColumnCount(); column++) {
          row.add(String.valueOf(rows.getString(column)));
        }
      }
      return row;
    }
  }

  /** A session that would read SQL in another way than Lantrel writes it. */
  static SQLException unsafe(String words) {
    return new UnsafeSettingException(words);
  }

  /** Told apart from what a driver throws. */
  private static final class UnsafeSettingException extends SQLException {
    private static final long serialVersionUID = 1L;

    UnsafeSettingException(String words) {
      super(words);
    }
  }

  /** What begins a transaction that only reads; empty if that is left to the driver. */
  String beginning() {
    return "";
  }

  /**
   * A point to go back to if a statement fails, where that would else end the transaction; null
   * where it does not.
   */
  @Nullable Savepoint savepoint(Connection connection) throws SQLException {
    return null;
  }

  /** Before each statement. */
  final void begin(Connection connection) throws SQLException {
    if (!beginning().isEmpty()) {
      execute(connection, List.of(beginning()));
    } else if (connection.getAutoCommit()) {
      connection.setAutoCommit(false);
    }
  }

  /** After each statement; nothing that it did stays. */
  final void end(Connection connection) throws SQLException {
    if (beginning().isEmpty()) {
      connection.rollback();
    } else {
      execute(connection, List.of("ROLLBACK"));
    }
  }

  /** Has the database plan a statement without running it. */
  void plan(Connection connection, String sql, TimeLimit time) throws SQLException {
    try (PreparedStatement statement = connection.prepareStatement(sql)) {
      time.watch(statement);
      statement.getMetaData();
    }
  }

  /** The columns that a query gives; it is planned, not run. */
  List<ResultColumn> columns(Connection connection, String sql, TimeLimit time)
      throws SQLException {
    try (PreparedStatement statement = connection.prepareStatement(sql)) {
      time.watch(statement);
      return columns(statement.getMetaData());
    }
  }

  /** The columns of a result. */
  final List<ResultColumn> columns(ResultSetMetaData meta) throws SQLException {
    List<ResultColumn> columns = new ArrayList<>();
    for (int column = 1; column <= meta.getColumnCount(); column++) {
      columns.add(
          new ResultColumn(
              dialect().fromProduct(meta.getColumnLabel(column)), resultType(meta, column)));
    }
    return columns;
  }

  /** A statement that gives at most so many rows. */
  Statement statement(Connection connection, int rows) throws SQLException {
    Statement statement = connection.createStatement();
    statement.setEscapeProcessing(false);
    statement.setMaxRows(rows);
    statement.setFetchSize(Math.min(rows, 1_000));
    return statement;
  }

  /** The type of a result's column, counted from 1. */
  ColumnType resultType(ResultSetMetaData meta, int column) throws SQLException {
    return JdbcTypes.type(
        String.valueOf(meta.getColumnTypeName(column)),
        meta.getColumnType(column),
        meta.getPrecision(column),
        meta.getScale(column));
  }

  /** What {@link Database#mixesUpWith} tells. */
  boolean mixesUpWith() {
    return false;
  }

  /** What {@link Database#mixesUpParts} tells. */
  boolean mixesUpParts(Connection connection) throws SQLException {
    return false;
  }

  /** Whether its driver holds a time limit by itself, and is the better for it. */
  boolean holdsTimeLimits() {
    return false;
  }

  /** Why a statement or a connection failed. */
  Reason reason(SQLException failure) {
    String state = String.valueOf(failure.getSQLState());
    if (failure instanceof UnsafeSettingException) {
      return Reason.UNSAFE;
    }
    if (failure instanceof SQLTimeoutException || state.equals("57014")) {
      return Reason.TOOK_TOO_LONG;
    }
    if (state.startsWith("08") || state.startsWith("57P")) {
      return Reason.CONNECTION_LOST;
    }
    if (state.startsWith("28") || state.equals("42501")) {
      return Reason.NO_PERMISSION;
    }
    return isSyntax(failure) ? Reason.NOT_READ : Reason.REFUSED;
  }

  /** Whether it could not even read the statement. */
  boolean isSyntax(SQLException failure) {
    return "42601".equals(failure.getSQLState());
  }

  /** What the database says, without what JDBC puts around it. */
  String words(SQLException failure) {
    String message = String.valueOf(failure.getMessage());
    return message.lines().findFirst().orElse(message).strip();
  }

  /**
   * The catalog that the database's own definitions make.
   *
   * @param query gives the statements
   */
  static Catalog defined(Connection connection, String query, Dialect dialect) throws SQLException {
    StringBuilder definitions = new StringBuilder();
    try (Statement statement = connection.createStatement();
        ResultSet rows = statement.executeQuery(query)) {
      while (rows.next()) {
        definitions.append(rows.getString(1)).append(";\n");
      }
    }
    try {
      return SchemaFile.readStored(new SourceText(definitions.toString()), dialect).catalog();
    } catch (SyntaxException unread) {
      throw new SQLException(
          "the definitions of its tables could not be read: " + unread.getMessage(), unread);
    }
  }

  /** The statements that set up what JDBC properties cannot. */
  static void execute(Connection connection, List<String> statements) throws SQLException {
    try (Statement statement = connection.createStatement()) {
      for (String sql : statements) {
        statement.execute(sql);
      }
    }
  }
}
