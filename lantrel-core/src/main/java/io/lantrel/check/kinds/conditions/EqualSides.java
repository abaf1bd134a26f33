package io.lantrel.check.kinds.conditions;

import io.lantrel.sql.tree.Condition.Comparison;
import io.lantrel.sql.tree.Condition.ComparisonOperator;
import io.lantrel.sql.tree.Expression;
import java.util.Optional;
import java.util.function.BiFunction;

/** The two sides of an equality, which can be written either way round. */
public final class EqualSides {

  private EqualSides() {}

  /** What is found in them as they are written, or else the other way round. */
  public static <A> Optional<A> of(
      Expression condition, BiFunction<Expression, Expression, Optional<A>> found) {
    return condition instanceof Comparison comparison
            && comparison.operator() == ComparisonOperator.EQUAL
        ? found
            .apply(comparison.left(), comparison.right())
            .or(() -> found.apply(comparison.right(), comparison.left()))
        : Optional.empty();
  }
}
