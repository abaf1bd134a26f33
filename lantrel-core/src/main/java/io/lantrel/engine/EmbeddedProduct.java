package io.lantrel.engine;

import io.lantrel.catalog.Column;
import io.lantrel.catalog.ColumnType;
import io.lantrel.catalog.Table;
import io.lantrel.catalog.TypeFamily;
import io.lantrel.sql.SqlPrinter;
import io.lantrel.sql.outgoing.Outgoing;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.util.List;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** A product that runs within the program, and can be filled with sample data. */
abstract class EmbeddedProduct extends Product {

  private static final int BATCH = 1_000;

  /**
   * Opens an empty database in memory, for writing: without the rights of an administrator, and
   * without a way to files, networks and settings.
   *
   * @param limits how much memory it may use
   * @param small whether few rows are to come
   */
  abstract Connection open(Limits limits, boolean small) throws SQLException;

  /** Starts it once and lets it go again, since the first start in a process takes longest. */
  void warmUp(Limits limits) throws SQLException {
    Connection connection = open(limits, true);
    connection.close();
    closed(connection);
  }

  /**
   * Ends writing for good.
   *
   * @param connection what {@link #open} gave
   * @return the connection for reading
   */
  abstract Connection seal(Connection connection) throws SQLException;

  /** What CREATE TABLE must say for a type of a schema. */
  String type(ColumnType type) {
    return type.text();
  }

  /** How a value that was read from a file is handed to the driver. */
  Object handed(Object value) {
    return value;
  }

  /** The precision and scale of DECIMAL without numbers; empty if it takes any number as it is. */
  List<Integer> decimalDefaults() {
    return List.of();
  }

  /**
   * Adds rows.
   *
   * @throws SQLException if the database does not take a value
   */
  void insert(Connection connection, Table table, List<@Nullable Object[]> rows)
      throws SQLException {
    connection.setAutoCommit(false);
    String places = table.columns().stream().map(this::place).collect(Collectors.joining(", "));
    String sql =
        Outgoing.sent("INSERT INTO " + quoted(table.name()), dialect())
            + " VALUES ("
            + places
            + ")";
    try (PreparedStatement statement = connection.prepareStatement(sql)) {
      int waiting = 0;
      for (@Nullable Object[] row : rows) {
        for (int i = 0; i < row.length; i++) {
          Object value = row[i];
          statement.setObject(i + 1, value == null ? null : handed(value));
        }
        statement.addBatch();
        if (++waiting % BATCH == 0) {
          statement.executeBatch();
        }
      }
      if (waiting % BATCH > 0) {
        statement.executeBatch();
      }
    }
    connection.commit();
    connection.setAutoCommit(true);
  }

  /** A value of a type that Lantrel does not know comes as a text. */
  private String place(Column column) {
    return CsvValue.isLeftToTheEngine(column) ? "CAST(? AS " + type(column.type()) + ")" : "?";
  }

  /** A name of the catalog, for a statement that goes through {@link Outgoing}. */
  String quoted(String name) {
    return SqlPrinter.printPlain(dialect().exact(name));
  }

  /** Whether a column's type is one of texts without a length. */
  static boolean isEndlessText(ColumnType type) {
    return type.family() == TypeFamily.TEXT
        && type.numbers().isEmpty()
        && !type.word().startsWith("CHAR");
  }
}
