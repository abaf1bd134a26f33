package io.lantrel.check.kinds.conditions;

import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.SameForAllRows;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Condition.ComparisonOperator;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Value;
import io.lantrel.sql.tree.Value.ColumnName;
import java.util.Optional;

/**
 * The value of which a condition leaves some constants out: {@code <>}, NOT IN, NOT LIKE and NOT
 * BETWEEN; and what NOT turns round, as a truth value.
 */
public final class LeftOutValue {

  private LeftOutValue() {}

  /** Empty if a condition is not of this form. */
  public static Optional<Expression> of(Expression condition, QueryBlock block) {
    if (condition instanceof Condition.Not not) {
      if (not.value() instanceof ColumnName truth) {
        return Optional.of(truth);
      }
      return not.value() instanceof Condition.Comparison comparison
          ? value(comparison, block)
              .filter(each -> comparison.operator() != ComparisonOperator.NOT_EQUAL)
          : taken(not.value(), false, block);
    }
    if (condition instanceof Condition.Comparison unequal) {
      return unequal.operator() == ComparisonOperator.NOT_EQUAL
          ? value(unequal, block)
          : Optional.empty();
    }
    return taken(condition, true, block);
  }

  /** The value that is sought among constants, or among what is not one of them. */
  private static Optional<Expression> taken(
      Expression condition, boolean negated, QueryBlock block) {
    if (condition instanceof Condition.InList in) {
      return in.negated() == negated && in.list().stream().allMatch(each -> isConstant(each, block))
          ? Optional.of(in.value())
          : Optional.empty();
    }
    if (condition instanceof Condition.Between between) {
      return between.negated() == negated
              && isConstant(between.low(), block)
              && isConstant(between.high(), block)
          ? Optional.of(between.value())
          : Optional.empty();
    }
    return condition instanceof Condition.Like like
            && like.negated() == negated
            && isConstant(like.pattern(), block)
        ? Optional.of(like.value())
        : Optional.empty();
  }

  private static Optional<Expression> value(Condition.Comparison comparison, QueryBlock block) {
    return isConstant(comparison.right(), block)
        ? Optional.of(comparison.left())
        : isConstant(comparison.left(), block) ? Optional.of(comparison.right()) : Optional.empty();
  }

  /** The same for every row, and not NULL. */
  private static boolean isConstant(Expression value, QueryBlock block) {
    return SameForAllRows.holds(value, block)
        && value
            .preorder()
            .noneMatch(node -> node instanceof Value.Literal each && Value.Literal.isNull(each));
  }
}
