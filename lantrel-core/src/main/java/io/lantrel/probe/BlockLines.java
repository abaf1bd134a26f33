package io.lantrel.probe;

import io.lantrel.resolve.QueryBlock;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.SelectItem;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** The lines of a block as they stand before DISTINCT or LIMIT. */
public final class BlockLines {

  private BlockLines() {}

  /** All lines before equal ones are merged; empty if not all columns are known. */
  public static Optional<ResultLines> beforeDistinct(QueryBlock block) {
    if (!block.hasAllOutputs()) {
      return Optional.empty();
    }
    QueryBody.Select own = block.select();
    QueryBody.Select all = showing(own, own.items());
    return Optional.of(
        new ResultLines(Counting.query(block, all, null, List.of()), ResultLines.headings(block)));
  }

  /** The values of DISTINCT ON, for each row. */
  public static ResultLines distinctOn(QueryBlock block) {
    return values(block, Counting.distinctOn(block), Counting.relabelled(block, false, List.of()));
  }

  /** What a block is grouped by, for each row; empty if it makes one group, or sets of them. */
  public static Optional<ResultLines> groups(QueryBlock block) {
    List<Expression> keys = Counting.grouping(block);
    QueryBody.Select own = block.select();
    Expression where = Counting.withoutLabelsIfPresent(block, own.where());
    return keys.isEmpty() || Counting.hasSets(block)
        ? Optional.empty()
        : Optional.of(values(block, keys, Sql.select(own.items(), own.from(), where)));
  }

  private static ResultLines values(
      QueryBlock block, List<Expression> values, QueryBody.Select of) {
    List<SelectItem> items = new ArrayList<>();
    values.forEach(value -> items.add(Sql.as(value, "k" + items.size())));
    return new ResultLines(
        Counting.query(block, showing(of, items), null, List.of()),
        ResultLines.headings(block, values));
  }

  private static QueryBody.Select showing(QueryBody.Select own, List<SelectItem> items) {
    return new QueryBody.Select(
        own.span(),
        false,
        List.of(),
        items,
        own.from(),
        own.where(),
        own.groupBy(),
        own.having(),
        own.windows(),
        own.qualify());
  }

  /** The block as it is, with its order and its LIMIT, and the WITH that it needs. */
  public static Query whole(QueryBlock block) {
    Query query = block.query();
    return Counting.query(block, block.select(), query.limit(), query.orderBy());
  }
}
