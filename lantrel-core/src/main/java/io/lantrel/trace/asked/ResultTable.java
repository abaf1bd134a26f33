package io.lantrel.trace.asked;

import io.lantrel.engine.SampleData;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.ResolvedQuery;
import io.lantrel.sql.tree.CommonTable;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import java.util.ArrayList;
import java.util.List;

/**
 * The result of a query as a table that others can name: a member of WITH whose columns are c0, c1…
 *
 * @param with what WITH defines, the result last
 * @param recursive whether RECURSIVE is written there
 * @param width how many columns it has
 */
record ResultTable(List<CommonTable> with, boolean recursive, int width) {

  private static final String NAME = SampleData.RESERVED + "result";

  ResultTable {
    with = List.copyOf(with);
  }

  static ResultTable of(ResolvedQuery result) {
    Query query = result.query();
    int width = result.outputs().size();
    List<CommonTable> with = new ArrayList<>(query.with());
    Query alone =
        new Query(query.span(), false, List.of(), query.body(), query.orderBy(), query.limit());
    with.add(Sql.named(NAME, alone, width));
    return new ResultTable(with, query.recursive(), width);
  }

  /** One of its columns. */
  static Expression column(int position) {
    return Sql.column(NAME, "c" + position);
  }

  /** Those of its rows that meet a condition over its columns. */
  QueryBody where(Expression condition) {
    List<SelectItem> items = new ArrayList<>();
    for (int i = 0; i < width; i++) {
      items.add(Sql.as(column(i), "c" + i));
    }
    return Sql.select(items, Sql.table(NAME), condition);
  }

  /** A query over it, with the WITH that it needs. */
  Query whole(Query query) {
    return new Query(Span.NOWHERE, recursive, with, query.body(), query.orderBy(), query.limit());
  }
}
