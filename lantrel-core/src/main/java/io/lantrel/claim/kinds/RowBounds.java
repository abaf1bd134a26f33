package io.lantrel.claim.kinds;

import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.ResolvedQuery;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Limit;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.Value;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;

/**
 * How many rows a query has at least and at most, whatever the data: an aggregate without GROUP BY
 * gives one (ISO/IEC 9075-2, 7.16), a key of no columns tells of one at most, LIMIT cuts.
 */
record RowBounds(long least, long most) {

  private static final RowBounds ANY = new RowBounds(0, Long.MAX_VALUE);

  static RowBounds of(ResolvedQuery result) {
    RowBounds bounds =
        result.block().map(RowBounds::ofBlock).orElseGet(() -> ofBody(result.query().body()));
    if (result.keys().contains(Set.of())) {
      bounds = new RowBounds(bounds.least(), Math.min(1, bounds.most()));
    }
    Limit limit = result.query().limit();
    return limit == null ? bounds : bounds.cut(limit);
  }

  private RowBounds cut(Limit limit) {
    OptionalLong skip = limit.skip() == null ? OptionalLong.of(0) : number(limit.skip());
    OptionalLong count =
        limit.count() == null || limit.percent() ? OptionalLong.empty() : number(limit.count());
    if (skip.isEmpty()) {
      return new RowBounds(0, most);
    }
    long fewest = Math.max(0, least - skip.getAsLong());
    if (count.isEmpty()) {
      return new RowBounds(limit.count() == null ? fewest : 0, most);
    }
    return new RowBounds(
        Math.min(fewest, count.getAsLong()),
        limit.withTies() ? most : Math.min(most, count.getAsLong()));
  }

  private static OptionalLong number(Expression value) {
    return value instanceof Value.Literal literal && literal.text().matches("[0-9]{1,18}")
        ? OptionalLong.of(Long.parseLong(literal.text()))
        : OptionalLong.empty();
  }

  private static RowBounds ofBlock(QueryBlock block) {
    QueryBody.Select select = block.select();
    boolean together = block.isGrouped() && select.groupBy().isEmpty();
    boolean single = select.from() == null && select.where() == null;
    boolean one = (together || single) && block.showsRowsOnce();
    if (!one) {
      return isFixed(block) ? new RowBounds(0, 1) : ANY;
    }
    boolean certain = select.having() == null && select.qualify() == null;
    return new RowBounds(certain ? 1 : 0, 1);
  }

  /** Whether constants fix the row of every table. */
  private static boolean isFixed(QueryBlock block) {
    return !block.isGrouped()
        && block.standsAlone()
        && block.showsRowsOnce()
        && block.determinedBy(Set.of()).containsAll(block.uses());
  }

  private static RowBounds ofBody(QueryBody body) {
    return ifValues(body)
        .map(values -> new RowBounds(values.rows().size(), values.rows().size()))
        .orElse(ANY);
  }

  private static Optional<QueryBody.Values> ifValues(QueryBody body) {
    return body instanceof QueryBody.Values values ? Optional.of(values) : Optional.empty();
  }
}
