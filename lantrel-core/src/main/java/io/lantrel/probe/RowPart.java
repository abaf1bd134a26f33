package io.lantrel.probe;

import io.lantrel.catalog.TypeFamily;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value.Arithmetic;
import io.lantrel.sql.tree.Value.ArithmeticOperator;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;

/**
 * A part of the rows of a table use, the same ones for every question: those whose whole numbers,
 * mixed, leave a small rest. It does not depend on where the rows lie, and no chance is in it.
 *
 * @param use whose rows
 * @param by the columns that tell which
 * @param taken how many of {@value #OF} rests are taken
 */
public record RowPart(TableUse use, List<UseColumn> by, long taken) {

  /** A prime, so that rests of whole numbers follow no pattern that data have. */
  public static final int OF = 9_973;

  /** Others, by which the columns are mixed. */
  private static final List<Integer> FACTORS = List.of(7_919, 6_037, 4_021);

  public RowPart {
    by = List.copyOf(by);
  }

  /**
   * A part of the rows of a table use.
   *
   * @param share more than 0; no less than one in {@value #OF} is taken
   * @return empty if it has no whole numbers
   */
  public static Optional<RowPart> of(TableUse use, double share) {
    List<UseColumn> by = columns(use);
    long taken = Math.max(1, Math.min(OF, Math.round(share * OF)));
    return by.isEmpty() ? Optional.empty() : Optional.of(new RowPart(use, by, taken));
  }

  /** Why there is no part of the rows of a table use, as a sentence without its stop. */
  public static String missing(TableUse use) {
    return use.words()
        + " has no column of whole numbers, by which a part of its rows could be taken";
  }

  /** A key of whole numbers tells rows apart; else some whole numbers, which are seldom empty. */
  private static List<UseColumn> columns(TableUse use) {
    List<UseColumn> numbers =
        use.columns().stream()
            .filter(each -> each.type().family() == TypeFamily.INTEGER)
            .sorted(Comparator.comparing(UseColumn::nullable))
            .limit(FACTORS.size())
            .toList();
    return use.keys().stream()
        .map(key -> key.columns().stream().flatMap(each -> use.column(each).stream()).toList())
        .filter(key -> !key.isEmpty() && numbers.containsAll(key))
        .findFirst()
        .orElse(numbers);
  }

  /**
   * Which rows are in it.
   *
   * @param named a column in the names of the rows
   */
  public Expression condition(Function<UseColumn, Expression> named) {
    List<Expression> mixed = new ArrayList<>();
    for (UseColumn column : by) {
      Expression value = named.apply(column);
      Expression known =
          column.nullable() ? FunctionCall.of("COALESCE", value, Sql.number(0)) : value;
      mixed.add(
          new Arithmetic(
              Span.NOWHERE,
              ArithmeticOperator.TIMES,
              FunctionCall.of("ABS", rest(known)),
              Sql.number(FACTORS.get(mixed.size()))));
    }
    Expression sum =
        mixed.stream()
            .reduce(
                (one, other) -> new Arithmetic(Span.NOWHERE, ArithmeticOperator.PLUS, one, other))
            .orElseThrow();
    return Sql.greater(Sql.number(taken), rest(sum));
  }

  private static Expression rest(Expression value) {
    return FunctionCall.of("MOD", value, Sql.number(OF));
  }
}
