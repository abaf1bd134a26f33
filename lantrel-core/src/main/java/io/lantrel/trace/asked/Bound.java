package io.lantrel.trace.asked;

import io.lantrel.probe.Sql;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Condition.ComparisonOperator;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.OrderItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value.ColumnName;
import java.util.List;
import java.util.stream.Stream;

/**
 * A column of a partner below or above which a row's value is to lie: {@code v.made BETWEEN
 * e.from_year AND e.to_year} has two.
 *
 * @param column the partner's
 * @param condition what is to hold of it
 * @param upper whether the row's value must not be greater
 */
record Bound(UseColumn column, Expression condition, boolean upper) {

  /**
   * The bounds in a condition.
   *
   * @param others the tables that the partner is of
   */
  static Stream<Bound> in(Conjunct conjunct, QueryBlock block, List<TableUse> others) {
    if (conjunct.condition() instanceof Condition.Between between && !between.negated()) {
      return Stream.concat(
          of(between.low(), ComparisonOperator.LESS_OR_EQUAL, between.value(), block, others),
          of(between.value(), ComparisonOperator.LESS_OR_EQUAL, between.high(), block, others));
    }
    return conjunct.condition() instanceof Condition.Comparison comparison
        ? of(comparison.left(), comparison.operator(), comparison.right(), block, others)
        : Stream.empty();
  }

  private static Stream<Bound> of(
      Expression left,
      ComparisonOperator operator,
      Expression right,
      QueryBlock block,
      List<TableUse> others) {
    if (operator == ComparisonOperator.EQUAL || operator == ComparisonOperator.NOT_EQUAL) {
      return Stream.empty();
    }
    boolean first = isOf(left, block, others);
    if (first == isOf(right, block, others)) {
      return Stream.empty();
    }
    Expression theirs = first ? left : right;
    Expression mine = first ? right : left;
    ComparisonOperator toTheirs = first ? operator.turned() : operator;
    boolean plain =
        theirs instanceof ColumnName
            && block.column(theirs).filter(column -> !column.type().isUnordered()).isPresent()
            && block.mentioned(mine).stream().noneMatch(others::contains);
    return plain
        ? Stream.of(
            new Bound(
                block.column(theirs).orElseThrow(),
                new Condition.Comparison(Span.NOWHERE, toTheirs, mine, theirs),
                toTheirs.isBelow()))
        : Stream.empty();
  }

  private static boolean isOf(Node node, QueryBlock block, List<TableUse> others) {
    return block.mentioned(node).stream().anyMatch(others::contains);
  }

  /**
   * The partners that miss it the least first.
   *
   * @param met whether it is met, with the values of the row
   */
  OrderItem nearest(Expression met) {
    Expression missed = Sql.choose(Sql.not(met), Sql.column(column), Sql.nothing());
    return new OrderItem(Span.NOWHERE, missed, upper, false);
  }
}
