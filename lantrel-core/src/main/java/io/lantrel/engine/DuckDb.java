package io.lantrel.engine;

import io.lantrel.catalog.Column;
import io.lantrel.catalog.Table;
import io.lantrel.catalog.View;
import io.lantrel.sql.SqlPrinter;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.SchemaStatement.InsertRows;
import io.lantrel.sql.tree.Span;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.ResultSetMetaData;
import java.sql.SQLException;
import java.sql.SQLTimeoutException;
import java.sql.Statement;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.Properties;
import java.util.stream.Collectors;
import org.duckdb.DuckDBConnection;
import org.jspecify.annotations.Nullable;

/**
 * DuckDB, embedded and in memory. While sample data comes in it is open for writing; {@link
 * #seal()} ends that for good: no file and no setting can be reached any more, and every later
 * statement runs in a read-only transaction. Constraints are not declared to it: they are Lantrel's
 * to test.
 */
final class DuckDb implements Database {

  /** How long one statement may run. */
  static final Duration TIMEOUT = Duration.ofSeconds(60);

  private final Connection connection;
  private boolean sealed;

  private DuckDb(Connection connection) {
    this.connection = connection;
  }

  static DuckDb open() {
    Properties settings = new Properties();
    // Offline, the search for an extension costs seconds; what is built in is enough.
    settings.setProperty("autoinstall_known_extensions", "false");
    settings.setProperty("autoload_known_extensions", "false");
    try {
      return new DuckDb(DriverManager.getConnection("jdbc:duckdb:", settings));
    } catch (SQLException failure) {
      throw new DatabaseException("DuckDB does not start: " + words(failure), failure);
    }
  }

  @Override
  public String engine() {
    try {
      String version = connection.getMetaData().getDatabaseProductVersion();
      return "DuckDB " + (version.startsWith("v") ? version.substring(1) : version);
    } catch (SQLException failure) {
      throw failed(failure);
    }
  }

  /** Creates an empty table without its constraints. */
  void create(Table table) throws SQLException {
    String columns =
        table.columns().stream()
            .map(column -> quoted(column.name()) + " " + column.type().text())
            .collect(Collectors.joining(", "));
    execute("CREATE TABLE " + quoted(table.name()) + " (" + columns + ")");
  }

  /** Makes a view. */
  void create(View view) throws SQLException {
    Query query = Objects.requireNonNull(view.query());
    String columns =
        view.columns().isEmpty()
            ? ""
            : view.columns().stream()
                .map(DuckDb::quoted)
                .collect(Collectors.joining(", ", " (", ")"));
    execute("CREATE VIEW " + quoted(view.name()) + columns + " AS " + SqlPrinter.print(query));
  }

  /** Adds rows as a script writes them. */
  void insert(Table table, InsertRows rows) throws SQLException {
    String columns =
        rows.columns().isEmpty()
            ? ""
            : rows.columns().stream()
                .map(SqlPrinter::print)
                .collect(Collectors.joining(", ", " (", ")"));
    String values = SqlPrinter.print(Query.of(rows.values()));
    execute("INSERT INTO " + quoted(table.name()) + columns + " " + values);
  }

  /**
   * Adds rows. Values of types that Lantrel does not know come as text, and DuckDB reads them.
   *
   * @throws SQLException if DuckDB does not take a value
   */
  void insert(Table table, List<@Nullable Object[]> rows) throws SQLException {
    List<Column> unknown = table.columns().stream().filter(CsvValue::isLeftToTheEngine).toList();
    String target = unknown.isEmpty() ? table.name() : "lantrel_incoming";
    if (!unknown.isEmpty()) {
      String columns =
          table.columns().stream()
              .map(
                  c -> quoted(c.name()) + " " + (unknown.contains(c) ? "VARCHAR" : c.type().text()))
              .collect(Collectors.joining(", "));
      execute("CREATE TABLE " + target + " (" + columns + ")");
    }
    append(target, rows);
    if (!unknown.isEmpty()) {
      execute("INSERT INTO " + quoted(table.name()) + " SELECT * FROM " + target);
      execute("DROP TABLE " + target);
    }
  }

  private void append(String table, List<@Nullable Object[]> rows) throws SQLException {
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

  /** Ends loading: from here on only queries run. */
  void seal() throws SQLException {
    execute("SET enable_external_access = false");
    execute("SET lock_configuration = true");
    sealed = true;
  }

  @Override
  public Rows ask(Query probe) {
    return run(SqlPrinter.print(probe), Integer.MAX_VALUE);
  }

  @Override
  public Rows run(String sql, int cap) {
    return readOnly(
        () -> {
          try (Statement statement = statement();
              ResultSet result = statement.executeQuery(sql)) {
            return fetch(result, cap);
          }
        });
  }

  @Override
  public Optional<Refusal> refusal(String sql) {
    try {
      readOnly(
          () -> {
            connection.prepareStatement(sql).close();
            return true;
          });
      return Optional.empty();
    } catch (DatabaseException refused) {
      boolean syntax =
          refused.getCause() != null
              && String.valueOf(refused.getCause().getMessage()).startsWith("Parser Error");
      return Optional.of(new Refusal(String.valueOf(refused.getMessage()), syntax));
    }
  }

  private static Rows fetch(ResultSet result, int cap) throws SQLException {
    ResultSetMetaData meta = result.getMetaData();
    List<String> headings = new ArrayList<>();
    for (int column = 1; column <= meta.getColumnCount(); column++) {
      headings.add(meta.getColumnLabel(column));
    }
    List<List<@Nullable Object>> rows = new ArrayList<>();
    while (rows.size() < cap && result.next()) {
      List<@Nullable Object> row = new ArrayList<>();
      for (int column = 1; column <= headings.size(); column++) {
        row.add(result.getObject(column));
      }
      rows.add(row);
    }
    return new Rows(headings, rows, rows.size() == cap && result.next());
  }

  private <T> T readOnly(Work<T> work) {
    try {
      execute("BEGIN TRANSACTION READ ONLY");
    } catch (SQLException failure) {
      throw failed(failure);
    }
    DatabaseException refused = null;
    try {
      return work.run();
    } catch (SQLException failure) {
      refused = failed(failure);
      throw refused;
    } finally {
      rollBack(refused);
    }
  }

  private void rollBack(@Nullable DatabaseException first) {
    try {
      execute("ROLLBACK");
    } catch (SQLException failure) {
      if (first == null) {
        throw failed(failure);
      }
      first.addSuppressed(failure);
    }
  }

  @Override
  public void close() {
    try {
      connection.close();
    } catch (SQLException failure) {
      throw failed(failure);
    }
  }

  /** One for each execution: the driver closes a statement that fails. */
  private Statement statement() throws SQLException {
    Statement statement = connection.createStatement();
    if (sealed) {
      statement.setQueryTimeout((int) TIMEOUT.toSeconds());
    }
    return statement;
  }

  private void execute(String sql) throws SQLException {
    try (Statement statement = statement()) {
      statement.execute(sql);
    }
  }

  private static DatabaseException failed(SQLException failure) {
    boolean stopped =
        failure instanceof SQLTimeoutException || words(failure).contains("Interrupted");
    return stopped
        ? new DatabaseException(
            "DuckDB was stopped after " + TIMEOUT.toSeconds() + " seconds", failure, true)
        : new DatabaseException(words(failure), failure);
  }

  /** The first line of the message, without the class of the error; the rest repeats the query. */
  static String words(SQLException failure) {
    String message = String.valueOf(failure.getMessage());
    String line = message.lines().findFirst().orElse(message);
    return line.replaceFirst("^(?:[A-Z][A-Za-z ]* Error|Error): ", "");
  }

  private static String quoted(String name) {
    return SqlPrinter.print(new Identifier(Span.NOWHERE, name, true));
  }

  private interface Work<T> {
    T run() throws SQLException;
  }
}
