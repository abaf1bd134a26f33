package io.lantrel.check.kinds.totals;

import io.lantrel.probe.Sql;
import io.lantrel.resolve.Aggregates;
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.Value;
import io.lantrel.sql.tree.Value.Arithmetic;
import io.lantrel.sql.tree.Value.ArithmeticOperator;
import io.lantrel.sql.tree.Value.Literal;
import java.util.List;
import java.util.regex.Pattern;
import java.util.stream.Stream;

/**
 * {@code COUNT(*) * 100.0 / (SELECT COUNT(*) FROM station)}: the rows are counted as a share of
 * those of a table, so that each of these may count once. Without a hundred or a heading that says
 * so it is how many there are of each.
 */
final class ShareOfTable {

  private static final Pattern SHARE =
      Pattern.compile("(?i)(.*_)?(share|percent|percentage|pct|quota|part)(_.*)?");

  private ShareOfTable() {}

  /** The counts of an output that are shares of a table joined once. */
  static Stream<Totalled> in(OutputColumn output, QueryBlock block) {
    return output
        .value()
        .preorder()
        .filter(Arithmetic.class::isInstance)
        .map(Arithmetic.class::cast)
        .filter(each -> each.operator() == ArithmeticOperator.DIVIDED)
        .filter(each -> isShare(output))
        .flatMap(each -> of(each, block));
  }

  private static boolean isShare(OutputColumn output) {
    return SHARE.matcher(output.name()).matches()
        || output
            .value()
            .preorder()
            .anyMatch(
                node -> node instanceof Literal literal && literal.text().matches("100(\\.0*)?"));
  }

  private static Stream<Totalled> of(Arithmetic quotient, QueryBlock block) {
    List<FunctionCall> counts = within(quotient.left());
    List<TableUse> whole =
        block.uses().stream().filter(use -> isCounted(use, quotient.right())).toList();
    return counts.size() == 1 && whole.size() == 1
        ? Stream.of(new Totalled(counts.get(0), Sql.number(1), null, whole.get(0)))
        : Stream.of();
  }

  /** The counts of rows in a value; none of a subquery, nor over a window. */
  private static List<FunctionCall> within(Node value) {
    return Aggregates.in(value)
        .filter(call -> call.key().equals("count") && call.star())
        .filter(call -> call.filter() == null && call.over() == null)
        .toList();
  }

  /** Whether a value holds a query that counts the rows of the table, and of no other. */
  private static boolean isCounted(TableUse use, Node value) {
    return value
        .preorder()
        .filter(Value.ScalarQuery.class::isInstance)
        .map(node -> ((Value.ScalarQuery) node).query().body())
        .filter(QueryBody.Select.class::isInstance)
        .map(QueryBody.Select.class::cast)
        .filter(select -> select.groupBy().isEmpty() && select.items().size() == 1)
        .filter(
            select ->
                select.items().get(0).preorder().anyMatch(ShareOfTable::isCount)
                    && select.from() instanceof FromItem.TableName named
                    && use.table().isPresent()
                    && use.dialect()
                        .key(named.name().get(named.name().size() - 1))
                        .equals(use.dialect().key(use.dialect().exact(use.tableName()))))
        .findAny()
        .isPresent();
  }

  private static boolean isCount(Node node) {
    return node instanceof FunctionCall call && call.key().equals("count");
  }
}
