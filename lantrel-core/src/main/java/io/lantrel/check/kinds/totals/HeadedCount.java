package io.lantrel.check.kinds.totals;

import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.tree.Call.FunctionCall;
import java.util.Optional;
import java.util.stream.Stream;

/**
 * COUNT of one column of the tables of a query, that is shown under a heading.
 *
 * @param output with the heading
 * @param column what is counted
 */
record HeadedCount(OutputColumn output, FunctionCall call, UseColumn column) {

  /** Those of a query over all rows of each group, with DISTINCT or without. */
  static Stream<HeadedCount> in(QueryBlock block, boolean distinct) {
    return block.outputs().stream()
        .flatMap(output -> of(output, block).stream())
        .filter(count -> count.call().distinct() == distinct);
  }

  private static Optional<HeadedCount> of(OutputColumn output, QueryBlock block) {
    if (!(output.value() instanceof FunctionCall call)
        || !call.key().equals("count")
        || call.over() != null
        || call.filter() != null
        || call.arguments().size() != 1) {
      return Optional.empty();
    }
    return block
        .column(call.arguments().get(0))
        .filter(block::isOwn)
        .map(column -> new HeadedCount(output, call, column));
  }
}
