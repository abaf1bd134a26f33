package io.lantrel.engine;

import io.lantrel.catalog.Catalog;
import io.lantrel.sql.ColumnReplacer;
import io.lantrel.sql.tree.FromItem.TableName;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.Value.ColumnName;
import java.util.List;

/**
 * Queries for a database of sample data. Its tables are in no schema, since a folder has none: what
 * a query writes before the name of a table is left out.
 */
final class WithoutSchemas {

  private final Catalog catalog;
  private final ColumnReplacer replacer =
      new ColumnReplacer(WithoutSchemas::plain, parameter -> parameter, this::plain);

  WithoutSchemas(Catalog catalog) {
    this.catalog = catalog;
  }

  /** The query as such a database understands it. */
  Query apply(Query query) {
    boolean any =
        query.preorder().anyMatch(node -> node instanceof TableName table && isOfSchema(table));
    return any ? replacer.apply(query) : query;
  }

  private boolean isOfSchema(TableName table) {
    return table.name().size() > 1
        && (catalog.table(table.name()).isPresent() || catalog.view(table.name()).isPresent());
  }

  private TableName plain(TableName table) {
    return isOfSchema(table)
        ? new TableName(
            table.span(),
            table.only(),
            List.of(table.last()),
            table.partition(),
            table.alias(),
            table.sample())
        : table;
  }

  /** The table before a column is the last of the names before it. */
  private static ColumnName plain(ColumnName column) {
    List<Identifier> before = column.qualifier();
    return before.size() > 1
        ? new ColumnName(
            column.span(), before.subList(before.size() - 1, before.size()), column.name())
        : column;
  }
}
