package io.lantrel.claim.kinds;

import io.lantrel.catalog.TypeFamily;
import io.lantrel.probe.Question;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.Resolution;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value;
import io.lantrel.words.Words;
import java.math.BigDecimal;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * Every value of a column is one of some, or lies between two. As in a CHECK constraint (ISO/IEC
 * 9075-2, 11.9), NULL breaks nothing.
 */
final class EachValue implements Meaning {

  private static final Set<TypeFamily> NUMBERS =
      Set.of(TypeFamily.INTEGER, TypeFamily.DECIMAL, TypeFamily.FLOAT);

  private final int position;
  private final String heading;
  private final List<Expression> values;
  private final boolean range;

  private EachValue(int position, String heading, List<Expression> values, boolean range) {
    this.position = position;
    this.heading = heading;
    this.values = List.copyOf(values);
    this.range = range;
  }

  static EachValue isOneOf(int position, String heading, List<Expression> values) {
    return new EachValue(position, heading, values, false);
  }

  static EachValue isBetween(int position, String heading, Expression low, Expression high) {
    return new EachValue(position, heading, List.of(low, high), true);
  }

  // ---- proof ----

  @Override
  public boolean follows(Resolution resolution) {
    Optional<QueryBlock> block = resolution.result().block();
    return block.isPresent() && isFine(block.get().outputs().get(position).value(), block.get());
  }

  private boolean isFine(Expression value, QueryBlock block) {
    if (value instanceof Value.Literal literal) {
      return isOne(literal);
    }
    if (value instanceof Value.Case choice) {
      @Nullable Expression otherwise = choice.otherwise();
      return choice.whens().stream().allMatch(when -> isFine(when.then(), block))
          && (otherwise == null || isFine(otherwise, block));
    }
    Optional<UseColumn> column = block.column(value).filter(block::isOwn);
    return column.isPresent()
        && block.filters().stream().anyMatch(each -> demands(each, column.get(), block));
  }

  /** Whether a condition of WHERE lets no other value through; as NULL does not break the claim. */
  private boolean demands(Conjunct filter, UseColumn column, QueryBlock block) {
    if (filter.condition() instanceof Condition.InList list && !list.negated()) {
      return isComparable(column)
          && isOf(list.value(), column, block)
          && list.list().stream().allMatch(this::isOne);
    }
    if (filter.condition() instanceof Condition.Comparison comparison
        && comparison.operator() == Condition.ComparisonOperator.EQUAL) {
      return isComparable(column)
          && ((isOf(comparison.left(), column, block) && isOne(comparison.right()))
              || (isOf(comparison.right(), column, block) && isOne(comparison.left())));
    }
    return range
        && isComparable(column)
        && filter.condition() instanceof Condition.Between between
        && !between.negated()
        && isOf(between.value(), column, block)
        && isOne(between.low())
        && isOne(between.high());
  }

  /** Whether what lies between two numbers lies between wider ones: texts have another order. */
  private boolean isComparable(UseColumn column) {
    return !range || NUMBERS.contains(column.type().family());
  }

  private static boolean isOf(Expression value, UseColumn column, QueryBlock block) {
    return block.column(value).filter(Origins.sameAs(column, block)::contains).isPresent();
  }

  private boolean isOne(Expression value) {
    if (!(value instanceof Value.Literal literal)) {
      return false;
    }
    if (literal.kind() == Value.LiteralKind.NULL) {
      return true;
    }
    if (!range) {
      return values.stream()
          .filter(Value.Literal.class::isInstance)
          .map(Value.Literal.class::cast)
          .anyMatch(each -> each.kind() == literal.kind() && each.text().equals(literal.text()));
    }
    Optional<BigDecimal> number = number(literal);
    Optional<BigDecimal> low = number(values.get(0));
    Optional<BigDecimal> high = number(values.get(1));
    return number.isPresent()
        && low.isPresent()
        && high.isPresent()
        && number.get().compareTo(low.get()) >= 0
        && number.get().compareTo(high.get()) <= 0;
  }

  private static Optional<BigDecimal> number(Expression value) {
    if (value instanceof Value.Signed signed && signed.minus()) {
      return number(signed.value()).map(BigDecimal::negate);
    }
    return value instanceof Value.Literal literal
            && literal.kind() == Value.LiteralKind.NUMBER
            && literal.text().matches("[0-9]+(\\.[0-9]+)?")
        ? Optional.of(new BigDecimal(literal.text()))
        : Optional.empty();
  }

  // ---- rows ----

  private Expression others() {
    Expression column = ResultRows.column(position);
    return range
        ? new Condition.Between(Span.NOWHERE, column, values.get(0), values.get(1), true)
        : new Condition.InList(Span.NOWHERE, column, values, true);
  }

  @Override
  public Shown shownByPart() {
    return Shown.BREACH;
  }

  @Override
  public Inquiry inquiry(ResultRows rows) {
    Question<Long> wrong = rows.count(others());
    return new Inquiry(
        List.of(rows.count(), wrong),
        answers -> {
          long all = answers.to(rows.count());
          long found = answers.to(wrong);
          if (all == 0) {
            return Outcome.nothing("the result has no row");
          }
          return found == 0
              ? Outcome.holds("so is every " + heading + " of " + Words.rows(all))
              : Outcome.broken(
                  Words.number(found)
                      + " of "
                      + Words.rows(all)
                      + (found == 1 ? " has" : " have")
                      + " another "
                      + heading,
                  found,
                  rows.where(others()),
                  rows.headings());
        });
  }
}
