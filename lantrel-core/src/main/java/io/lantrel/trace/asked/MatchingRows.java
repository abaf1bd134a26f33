package io.lantrel.trace.asked;

import io.lantrel.edit.OneQuery;
import io.lantrel.engine.Database;
import io.lantrel.engine.Rows;
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.ResolvedQuery;
import io.lantrel.sql.ColumnReplacer;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.NearNames;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.Value.ColumnName;
import io.lantrel.trace.TraceException;
import io.lantrel.words.Words;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;

/** Rows of a result that meet a condition over its headings. */
final class MatchingRows {

  private final Database database;

  MatchingRows(Database database) {
    this.database = database;
  }

  /** Their numbers in the result, from 1; of the first {@link FollowedRow#MOST_ROWS} rows. */
  List<Integer> numbers(OneQuery query, Expression condition) {
    if (condition.preorder().anyMatch(Query.class::isInstance)) {
      throw new TraceException(
          "the condition is about the headings of the result, without a query");
    }
    ResolvedQuery result = query.resolution().result();
    Expression over = replaced(condition, result, query.resolution().root().dialect());
    ResultTable table = ResultTable.of(result);
    Query matching = table.whole(Query.of(table.where(over)));
    Set<List<@Nullable Object>> wanted =
        Set.copyOf(database.run(matching, FollowedRow.MOST_ROWS).rows());
    Rows all = database.run(result.query(), FollowedRow.MOST_ROWS);
    Set<Integer> numbers = new TreeSet<>();
    for (int i = 0; i < all.size(); i++) {
      if (wanted.contains(all.rows().get(i))) {
        numbers.add(i + 1);
      }
    }
    if (numbers.isEmpty() && !wanted.isEmpty()) {
      throw new TraceException(
          "such rows come behind the first "
              + Words.rows(FollowedRow.MOST_ROWS)
              + " of the result, which are looked through");
    }
    return List.copyOf(numbers);
  }

  private static Expression replaced(Expression condition, ResolvedQuery result, Dialect dialect) {
    return new ColumnReplacer(
            name -> {
              Optional<OutputColumn> output =
                  result.outputs().stream()
                      .filter(each -> dialect.means(name.name(), each.name()))
                      .findFirst();
              return ResultTable.column(output.orElseThrow(() -> unknown(name, result)).position());
            })
        .apply(condition);
  }

  private static TraceException unknown(ColumnName name, ResolvedQuery result) {
    List<String> headings = result.outputs().stream().map(OutputColumn::name).toList();
    String wrong = name.name().text();
    return new TraceException(
        "the result has no column " + wrong + NearNames.instead(wrong, headings, "it has"));
  }
}
