package io.lantrel.resolve;

import io.lantrel.catalog.ColumnType;
import io.lantrel.resolve.Conjunct.Equated;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Condition.Comparison;
import io.lantrel.sql.tree.Condition.ComparisonOperator;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Value.Cast;
import io.lantrel.sql.tree.Value.Collated;
import io.lantrel.sql.tree.Value.Literal;
import io.lantrel.sql.tree.Value.Signed;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * A column under casts and functions: {@code CAST(s.id AS VARCHAR)}, {@code LOWER(TRIM(s.code))}.
 *
 * <p>It is kept if different values stay different. Two columns of one kind that are kept are equal
 * just where what is made of them is, so that a condition which compares that says the same of the
 * rows as one that compares the columns. Of the others it is still known which column is meant.
 */
final class KeptColumn {

  /** Characters that hold every whole number of eight bytes, with its sign. */
  private static final int LONGEST_NUMBER = 20;

  /** Characters that hold a day, as {@code -2000-12-31}. */
  private static final int LONGEST_DAY = 11;

  private static final int LONGEST_UUID = 36;

  /** Functions that make texts alike which differ in case or in blanks; of no others. */
  private static final Set<String> OF_TEXT =
      Set.of("lower", "upper", "trim", "ltrim", "rtrim", "btrim", "lcase", "ucase");

  private KeptColumn() {}

  /** The column whose values an expression keeps apart; empty if it is something else. */
  static Optional<UseColumn> of(Expression expression, QueryBlock block, Set<TableUse> whole) {
    return meant(expression, block).filter(column -> keeps(expression, column, whole));
  }

  /** The column that an expression makes its value of, whether it keeps the values apart or not. */
  static Optional<UseColumn> meant(Expression expression, QueryBlock block) {
    Expression inner = expression;
    for (Expression next = within(inner); next != null; next = within(inner)) {
      inner = next;
    }
    return block.column(inner);
  }

  private static @Nullable Expression within(Expression expression) {
    if (expression instanceof Cast cast) {
      return cast.value();
    }
    if (expression instanceof Collated collated) {
      return collated.value();
    }
    if (!(expression instanceof FunctionCall call)
        || call.name().size() != 1
        || call.arguments().isEmpty()) {
      return null;
    }
    List<Expression> arguments = call.arguments();
    boolean ofText = OF_TEXT.contains(call.key()) && arguments.size() == 1;
    boolean forNull =
        Functions.fillsNull(call) && arguments.size() == 2 && isConstant(arguments.get(1));
    return ofText || forNull ? arguments.get(0) : null;
  }

  private static boolean isConstant(Expression value) {
    return value instanceof Literal
        || (value instanceof Signed signed && isConstant(signed.value()));
  }

  /**
   * The two columns that a condition sets equal.
   *
   * @param whole table uses that no outer join has filled where the condition is asked
   */
  static Optional<Equated> equated(Expression condition, QueryBlock block, Set<TableUse> whole) {
    return Sides.of(condition)
        .flatMap(sides -> sides.columns(block).filter(each -> isExact(sides, each, block, whole)));
  }

  private static boolean isNeverNull(UseColumn column, Set<TableUse> whole) {
    return !column.nullable() && whole.contains(column.use());
  }

  /** The two columns that a condition sets equal, or alike but for case, blanks, type or NULL. */
  static Optional<Equated> alike(Expression condition, QueryBlock block) {
    return Sides.of(condition).flatMap(sides -> sides.columns(block));
  }

  /**
   * What a condition compares for equality, whatever way that is written.
   *
   * @param meetNulls whether two NULLs count as equal
   */
  private record Sides(Expression left, Expression right, boolean meetNulls) {

    static Optional<Sides> of(Expression condition) {
      if (condition instanceof Comparison comparison
          && comparison.operator() == ComparisonOperator.EQUAL) {
        return Optional.of(new Sides(comparison.left(), comparison.right(), false));
      }
      if (condition instanceof Condition.Not not
          && not.value() instanceof Comparison comparison
          && comparison.operator() == ComparisonOperator.NOT_EQUAL) {
        return Optional.of(new Sides(comparison.left(), comparison.right(), false));
      }
      if (condition instanceof Condition.InList in && !in.negated() && in.list().size() == 1) {
        return Optional.of(new Sides(in.value(), in.list().get(0), false));
      }
      return condition instanceof Condition.IsDistinct distinct && distinct.negated()
          ? Optional.of(new Sides(distinct.left(), distinct.right(), true))
          : Optional.empty();
    }

    Optional<Equated> columns(QueryBlock block) {
      return meant(left, block)
          .flatMap(one -> meant(right, block).map(other -> new Equated(one, other)));
    }
  }

  /**
   * A text and a number are not of one kind: of {@code '1'} and {@code '01'} one number is made.
   */
  private static boolean isExact(
      Sides sides, Equated columns, QueryBlock block, Set<TableUse> whole) {
    UseColumn left = columns.left();
    UseColumn right = columns.right();
    if (sides.meetNulls() && !isNeverNull(left, whole) && !isNeverNull(right, whole)) {
      return false;
    }
    return (block.column(sides.left()).isPresent() && block.column(sides.right()).isPresent())
        || (kind(left.type()).isPresent()
            && kind(left.type()).equals(kind(right.type()))
            && keeps(sides.left(), left, whole)
            && keeps(sides.right(), right, whole));
  }

  private static boolean keeps(Expression expression, UseColumn column, Set<TableUse> whole) {
    Expression here = expression;
    for (Expression next = within(here); next != null; next = within(here)) {
      if (!keepsAtOnce(here, column, whole)) {
        return false;
      }
      here = next;
    }
    return true;
  }

  private static boolean keepsAtOnce(Expression outer, UseColumn column, Set<TableUse> whole) {
    if (outer instanceof Cast cast) {
      return keeps(ColumnType.of(cast.type().text()), column.type());
    }
    return isOfText(outer)
        ? kind(column.type()).isPresent()
        : outer instanceof FunctionCall && isNeverNull(column, whole);
  }

  private static boolean isOfText(Expression expression) {
    return expression instanceof FunctionCall call && OF_TEXT.contains(call.key());
  }

  private static boolean keeps(ColumnType target, ColumnType type) {
    Optional<Kind> kind = kind(type);
    if (kind.isEmpty() || target.isPadded()) {
      return false;
    }
    List<Integer> numbers = target.numbers();
    return switch (target.family()) {
      case TEXT -> numbers.isEmpty() || numbers.get(0) >= longest(type);
      case INTEGER -> kind.get() == Kind.NUMBER;
      // MariaDB makes the largest number that fits of a larger one.
      case DECIMAL ->
          kind.get() == Kind.NUMBER
              && !numbers.isEmpty()
              && numbers.get(0) - (numbers.size() > 1 ? numbers.get(1) : 0) >= longest(type);
      case DATE, TIMESTAMP, FLOAT, TRUTH, TIME, OTHER -> false;
    };
  }

  /** Characters that its longest text has. */
  private static int longest(ColumnType type) {
    return switch (type.family()) {
      case DECIMAL -> type.numbers().get(0) + 1;
      case DATE -> LONGEST_DAY;
      case OTHER -> LONGEST_UUID;
      default -> LONGEST_NUMBER;
    };
  }

  /** What values are of which each has one text and one only. */
  private enum Kind {
    NUMBER,
    DAY,
    UUID
  }

  /** Empty for texts too: a cast may give them other rules by which they are equal. */
  private static Optional<Kind> kind(ColumnType type) {
    List<Integer> numbers = type.numbers();
    return switch (type.family()) {
      case INTEGER -> Optional.of(Kind.NUMBER);
      // A number with decimals is one text here and another there: 1.5 and 1.50.
      case DECIMAL ->
          numbers.size() == 1 || (numbers.size() == 2 && numbers.get(1) == 0)
              ? Optional.of(Kind.NUMBER)
              : Optional.empty();
      case DATE -> Optional.of(Kind.DAY);
      case OTHER ->
          type.text().equalsIgnoreCase("uuid") ? Optional.of(Kind.UUID) : Optional.empty();
      case TEXT, FLOAT, TRUTH, TIME, TIMESTAMP -> Optional.empty();
    };
  }
}
