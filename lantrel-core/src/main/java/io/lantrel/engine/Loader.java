package io.lantrel.engine;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Column;
import io.lantrel.catalog.ColumnType;
import io.lantrel.catalog.Table;
import io.lantrel.catalog.TypeFamily;
import io.lantrel.catalog.View;
import io.lantrel.sql.SqlPrinter;
import io.lantrel.sql.outgoing.Outgoing;
import io.lantrel.sql.outgoing.UnsendableException;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.SchemaStatement.InsertRows;
import io.lantrel.words.Words;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * Fills a database of Lantrel's own. Constraints are not declared to it: they are Lantrel's to
 * test.
 */
final class Loader {

  private final EmbeddedProduct product;
  private final Connection connection;

  private final WithoutSchemas names;

  /** How many rows each table was given. */
  private final Map<String, Long> arrived = new LinkedHashMap<>();

  Loader(EmbeddedProduct product, Connection connection, Catalog catalog) {
    this.product = product;
    this.connection = connection;
    this.names = new WithoutSchemas(catalog);
  }

  /**
   * Creates an empty table without its constraints. A type that only another product has becomes
   * one of the SQL standard, or a text.
   *
   * @param notes what became a text, in sentences
   * @return the table as it is there
   * @throws SQLException if the engine refuses it for another reason than a type
   */
  Table create(Table table, List<String> notes) throws SQLException {
    try {
      execute("CREATE TABLE " + product.quoted(table.name()) + columns(table.columns()));
      return table;
    } catch (SQLException refused) {
      List<Column> known = new ArrayList<>();
      List<String> texts = new ArrayList<>();
      for (Column column : table.columns()) {
        known.add(isKnown(column) ? column : standard(column, table, texts));
      }
      if (known.equals(table.columns())) {
        throw refused;
      }
      if (!texts.isEmpty()) {
        notes.add(
            SampleData.SCHEMA_FILE
                + ": "
                + product.title()
                + " has no type for "
                + Words.list(texts)
                + (texts.size() == 1 ? ", which is a text here" : ", which are texts here"));
      }
      execute("CREATE TABLE " + product.quoted(table.name()) + columns(known));
      return new Table(table.schema(), table.name(), known, table.keys());
    }
  }

  private String columns(List<Column> columns) {
    return columns.stream()
        .map(column -> product.quoted(column.name()) + " " + product.type(column.type()))
        .collect(Collectors.joining(", ", " (", ")"));
  }

  private boolean isKnown(Column column) throws SQLException {
    String trial = product.quoted(SampleData.RESERVED + "trial");
    try {
      execute("CREATE TABLE " + trial + columns(List.of(column)));
    } catch (SQLException refused) {
      return false;
    }
    execute("DROP TABLE " + trial);
    return true;
  }

  private static Column standard(Column column, Table table, List<String> texts) {
    ColumnType type = column.type().standard();
    if (column.type().family() == TypeFamily.OTHER && type.family() == TypeFamily.TEXT) {
      texts.add(table.name() + "." + column.name() + " (" + column.type().text() + ")");
    }
    return new Column(column.name(), type, column.nullable());
  }

  /** Makes a view. */
  void create(View view) throws SQLException {
    Query query = Objects.requireNonNull(view.query());
    String columns =
        view.columns().isEmpty()
            ? ""
            : view.columns().stream()
                .map(product::quoted)
                .collect(Collectors.joining(", ", " (", ")"));
    execute("CREATE VIEW " + product.quoted(view.name()) + columns + " AS " + sql(query));
  }

  /** Adds rows as a script writes them. */
  void insert(Table table, InsertRows rows) throws SQLException {
    String columns =
        rows.columns().isEmpty()
            ? ""
            : rows.columns().stream()
                .map(
                    name ->
                        SqlPrinter.printPlain(
                            product.dialect().exact(product.dialect().stored(name))))
                .collect(Collectors.joining(", ", " (", ")"));
    execute(
        "INSERT INTO "
            + product.quoted(table.name())
            + columns
            + " "
            + sql(Query.of(rows.values())));
    arrived.merge(table.name(), (long) rows.values().rows().size(), Long::sum);
  }

  /** Adds rows that were read from a file. */
  void insert(Table table, List<@Nullable Object[]> rows) throws SQLException {
    product.insert(connection, table, rows);
    arrived.merge(table.name(), (long) rows.size(), Long::sum);
  }

  /**
   * Sees that all rows of the files are there: a driver may lose some without a word. One statement
   * for all tables.
   *
   * @throws DataException if they are not
   */
  void verify() throws SQLException {
    if (arrived.isEmpty()) {
      return;
    }
    String counts =
        arrived.keySet().stream()
            .map(table -> "(SELECT COUNT(*) FROM " + product.quoted(table) + ")")
            .collect(Collectors.joining(", "));
    List<String> there =
        Product.row(
            connection,
            Outgoing.sent("SELECT " + counts + " FROM (VALUES (1)) AS t", product.dialect()));
    int column = 0;
    for (Map.Entry<String, Long> table : arrived.entrySet()) {
      String count = there.get(column++);
      if (!count.equals(String.valueOf(table.getValue()))) {
        throw new DataException(
            table.getKey()
                + ": "
                + table.getValue()
                + " rows were read from its file, and "
                + count
                + " of them arrived in "
                + product.title());
      }
    }
  }

  private String sql(Query query) {
    return SqlPrinter.printPlain(names.apply(query), product.dialect());
  }

  private void execute(String printed) throws SQLException {
    try {
      Product.execute(connection, List.of(Outgoing.sent(printed, product.dialect())));
    } catch (UnsendableException unsendable) {
      throw new SQLException(unsendable.getMessage(), unsendable);
    }
  }
}
