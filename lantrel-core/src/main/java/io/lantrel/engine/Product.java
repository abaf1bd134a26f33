package io.lantrel.engine;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.SchemaFile;
import io.lantrel.engine.DatabaseException.Reason;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.SourceText;
import io.lantrel.sql.SyntaxException;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.SQLTimeoutException;
import java.sql.Statement;
import java.util.List;

/**
 * What is particular to a database product, seen from JDBC. What is particular to its SQL is in its
 * {@link Dialect}.
 */
abstract class Product {

  /** The first part of its JDBC URLs, in lower case. */
  abstract String urlPrefix();

  /** Its name in sentences. */
  abstract String title();

  abstract Dialect dialect();

  /**
   * Opens a connection for reading: read-only where the product can promise that, and without
   * making a database that is not there.
   */
  abstract Connection connect(Access access) throws SQLException;

  /** What a query can use. */
  abstract Catalog catalog(Connection connection) throws SQLException;

  /** What begins a transaction that only reads; empty if that is left to the driver. */
  String beginning() {
    return "";
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
  void plan(Connection connection, String sql) throws SQLException {
    try (PreparedStatement statement = connection.prepareStatement(sql)) {
      statement.getMetaData();
    }
  }

  /** A statement that gives at most so many rows. */
  Statement statement(Connection connection, int rows) throws SQLException {
    Statement statement = connection.createStatement();
    if (rows < Integer.MAX_VALUE) {
      statement.setMaxRows(rows);
    }
    statement.setFetchSize(Math.min(rows, 1_000));
    return statement;
  }

  /** Whether its driver holds a time limit by itself, and is the better for it. */
  boolean holdsTimeLimits() {
    return false;
  }

  /** Why a statement or a connection failed. */
  Reason reason(SQLException failure) {
    String state = String.valueOf(failure.getSQLState());
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
