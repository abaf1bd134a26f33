package io.lantrel.check.kinds.conditions;

import io.lantrel.check.suspicion.Subject;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.tree.Condition.Comparison;
import io.lantrel.sql.tree.Condition.ComparisonOperator;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Value;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * A value, a sign and a constant.
 *
 * @param value by which it is known again that another condition tests the same
 */
record ConstantTest(
    Expression condition,
    Expression tested,
    String value,
    ComparisonOperator operator,
    Value.Literal constant) {

  /** Those of conditions, the other way round too. */
  static List<ConstantTest> in(List<Expression> terms, Subject subject) {
    List<ConstantTest> tests = new ArrayList<>();
    for (Expression term : terms) {
      if (term instanceof Comparison each) {
        test(each, each.left(), each.operator(), each.right(), subject)
            .or(() -> test(each, each.right(), each.operator().turned(), each.left(), subject))
            .ifPresent(tests::add);
      }
    }
    return tests;
  }

  private static Optional<ConstantTest> test(
      Expression term,
      Expression tested,
      ComparisonOperator operator,
      Expression with,
      Subject subject) {
    return with instanceof Value.Literal constant
            && constant.kind() != Value.LiteralKind.NULL
            && !subject.hasParameter(constant)
            && subject.block().meant(tested).isPresent()
        ? Optional.of(new ConstantTest(term, tested, value(tested, subject), operator, constant))
        : Optional.empty();
  }

  private static String value(Expression tested, Subject subject) {
    return subject
        .block()
        .column(tested)
        .map(UseColumn::written)
        .orElseGet(() -> subject.text(tested));
  }

  /** The number that a plain literal is. */
  static Optional<BigDecimal> number(Expression value) {
    return value instanceof Value.Literal literal
            && literal.kind() == Value.LiteralKind.NUMBER
            && literal.text().matches("[0-9]{1,30}(\\.[0-9]{1,30})?")
        ? Optional.of(new BigDecimal(literal.text()))
        : Optional.empty();
  }

  /** Whether every value that meets another test of the same value meets this one, of numbers. */
  boolean includes(ConstantTest other) {
    Optional<BigDecimal> mine = number(constant);
    Optional<BigDecimal> theirs = number(other.constant);
    if (!value.equals(other.value) || mine.isEmpty() || theirs.isEmpty()) {
      return false;
    }
    int sign = theirs.get().compareTo(mine.get());
    boolean same = operator == other.operator;
    return switch (operator) {
      case GREATER ->
          (same && sign >= 0)
              || (sign > 0
                  && (other.operator == ComparisonOperator.GREATER_OR_EQUAL
                      || other.operator == ComparisonOperator.EQUAL));
      case GREATER_OR_EQUAL ->
          sign >= 0
              && (same
                  || other.operator == ComparisonOperator.GREATER
                  || other.operator == ComparisonOperator.EQUAL);
      case LESS ->
          (same && sign <= 0)
              || (sign < 0
                  && (other.operator == ComparisonOperator.LESS_OR_EQUAL
                      || other.operator == ComparisonOperator.EQUAL));
      case LESS_OR_EQUAL ->
          sign <= 0
              && (same
                  || other.operator == ComparisonOperator.LESS
                  || other.operator == ComparisonOperator.EQUAL);
      case EQUAL -> same && sign == 0;
      default -> false;
    };
  }
}
