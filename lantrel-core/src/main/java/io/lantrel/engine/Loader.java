package io.lantrel.engine;

import io.lantrel.catalog.Table;
import io.lantrel.catalog.View;
import io.lantrel.sql.SqlPrinter;
import io.lantrel.sql.outgoing.Outgoing;
import io.lantrel.sql.outgoing.UnsendableException;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.SchemaStatement.InsertRows;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.List;
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
  }

  /** Adds rows that were read from a file. */
  void insert(Table table, List<@Nullable Object[]> rows) throws SQLException {
    product.insert(connection, table, rows);
  }

  /**
   * Sees that all rows of a file are there: a driver may lose some without a word.
   *
   * @throws DataException if they are not
   */
  void verify(Table table, Path file, long rows) throws SQLException {
    String count =
        Outgoing.sent("SELECT COUNT(*) FROM " + product.quoted(table.name()), product.dialect());
    String there = Product.row(connection, count).get(0);
    if (!there.equals(String.valueOf(rows))) {
      throw new DataException(
          file.getFileName()
              + ": the file has "
              + rows
              + " rows, and "
              + there
              + " of them arrived in "
              + product.title());
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
