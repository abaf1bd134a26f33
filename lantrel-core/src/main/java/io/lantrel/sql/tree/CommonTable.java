package io.lantrel.sql.tree;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * One member of WITH.
 *
 * @param span where it stands
 * @param name what the query is called
 * @param columns new names of its columns, or empty
 * @param materialized whether MATERIALIZED or NOT MATERIALIZED is written; null if neither is
 * @param query the query
 * @param walk the clauses SEARCH and CYCLE as written; null if there are none
 * @param added the columns that these add
 */
public record CommonTable(
    Span span,
    Identifier name,
    List<Identifier> columns,
    @Nullable Boolean materialized,
    Query query,
    @Nullable String walk,
    List<Identifier> added)
    implements Node {

  public CommonTable {
    columns = List.copyOf(columns);
    added = List.copyOf(added);
  }

  @Override
  public List<Node> children() {
    return Node.nodes(name, columns, query, added);
  }
}
