package io.lantrel.engine;

import io.lantrel.catalog.Table;
import io.lantrel.catalog.View;
import io.lantrel.sql.SqlPrinter;
import io.lantrel.sql.outgoing.Outgoing;
import io.lantrel.sql.outgoing.UnsendableException;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.SchemaStatement.InsertRows;
import java.sql.Connection;
import java.sql.SQLException;
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

  /** How many rows each table was given. */
  private final Map<String, Long> arrived = new LinkedHashMap<>();

  Loader(EmbeddedProduct product, Connection connection) {
    this.product = product;
    this.connection = connection;
  }

  /** Creates an empty table without its constraints. */
  void create(Table table) throws SQLException {
    String columns =
        table.columns().stream()
            .map(column -> product.quoted(column.name()) + " " + product.type(column.type()))
            .collect(Collectors.joining(", "));
    execute("CREATE TABLE " + product.quoted(table.name()) + " (" + columns + ")");
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
    return SqlPrinter.printPlain(query, product.dialect());
  }

  private void execute(String printed) throws SQLException {
    try {
      Product.execute(connection, List.of(Outgoing.sent(printed, product.dialect())));
    } catch (UnsendableException unsendable) {
      throw new SQLException(unsendable.getMessage(), unsendable);
    }
  }
}
