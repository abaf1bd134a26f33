package io.lantrel.check.kinds.outer;

import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.engine.NamedRow;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.RowNames;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.Aggregates;
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Dialect.Rule;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Value.Arithmetic;
import io.lantrel.sql.tree.Value.ArithmeticOperator;
import io.lantrel.words.Words;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.IntStream;
import java.util.stream.Stream;

/**
 * A concatenation or a sum that is NULL as a whole because one part of it is (ISO/IEC 9075-2, 6.29
 * and 6.30), although another part has a value.
 */
public final class NullSwallows implements Check {

  private static final int SHOWN = 3;

  /** Aggregates that leave out what is NULL, though the row was to be part of them. */
  private static final Set<String> TOTALS =
      Set.of("sum", "count", "string_agg", "listagg", "group_concat");

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    Stream<Expression> outputs = block.outputs().stream().map(OutputColumn::value);
    Stream<Whole> wholes =
        block.isGrouped()
            ? outputs
                .flatMap(Aggregates::in)
                .filter(call -> TOTALS.contains(call.key()) && call.filter() == null)
                .flatMap(call -> call.arguments().stream())
                .flatMap(value -> whole(value, true, subject).stream())
            : outputs.flatMap(value -> whole(value, false, subject).stream());
    return wholes.distinct().flatMap(whole -> suspicion(whole, subject).stream()).toList();
  }

  /**
   * Parts of which each makes it NULL.
   *
   * @param value all of it
   * @param isText whether texts are put together; else numbers are added
   * @param isTotalled whether it is the value of a row in a total, which then lacks the row
   * @param parts its parts
   */
  private record Whole(
      Expression value, boolean isText, boolean isTotalled, List<Expression> parts) {

    /** Those that can be NULL. */
    List<Expression> optional(QueryBlock block) {
      return parts.stream()
          .filter(part -> column(part, block).filter(each -> isOptional(each, block)).isPresent())
          .toList();
    }

    /**
     * What is reckoned with a value that the table does not have is rightly unknown, where it can
     * be seen.
     */
    private boolean isOptional(UseColumn column, QueryBlock block) {
      return !block.isNeverNull(column) && (isText || isTotalled || isFilled(column, block));
    }

    /**
     * The difference of two columns of a row may rightly be unknown, as where an end is missing; a
     * number to be taken off is mostly missing where there is nothing to take off.
     */
    boolean isDifference(Expression part, QueryBlock block) {
      return value instanceof Arithmetic sum
          && !(sum.right() == part && isTotalled && isNumber(part, block))
          && sum.operator() == ArithmeticOperator.MINUS
          && column(sum.left(), block).isPresent()
          && column(sum.right(), block).isPresent()
          && column(part, block).filter(each -> !isFilled(each, block)).isPresent();
    }

    boolean isSureOfValue(QueryBlock block) {
      return parts.stream()
          .anyMatch(part -> column(part, block).filter(block::isNeverNull).isPresent());
    }

    /** That a part is NULL, and another is not. */
    Expression isSwallowedBy(Expression part, JoinedRows rows, QueryBlock block) {
      Expression isNull = Sql.isNull(rows.value(rows.all(), part));
      List<Expression> values =
          parts.stream()
              .filter(other -> other != part && isOfRow(other, block))
              .map(other -> Sql.isNotNull(rows.value(rows.all(), other)))
              .toList();
      return isSureOfValue(block) ? rows.isKept(isNull) : rows.isKept(isNull, Sql.any(values));
    }
  }

  private static Optional<UseColumn> column(Expression part, QueryBlock block) {
    return block.column(part).filter(block::isOwn);
  }

  private static boolean isNumber(Expression part, QueryBlock block) {
    return column(part, block).filter(each -> each.type().family().isNumber()).isPresent();
  }

  private static boolean isFilled(UseColumn column, QueryBlock block) {
    return !block.stepsThatFill(column.use()).isEmpty();
  }

  /** A column, or a value reckoned from columns. */
  private static boolean isOfRow(Expression part, QueryBlock block) {
    return column(part, block).isPresent()
        || (part instanceof Arithmetic sum
            && (isOfRow(sum.left(), block) || isOfRow(sum.right(), block)));
  }

  private static Optional<Whole> whole(Expression written, boolean totalled, Subject subject) {
    Expression value = NullForNull.within(written);
    if (value instanceof Arithmetic sum) {
      if (!isSum(sum)) {
        return whole(sum.left(), totalled, subject).or(() -> whole(sum.right(), totalled, subject));
      }
      boolean isText = isConcatenation(sum);
      return Optional.of(new Whole(value, isText, totalled, parts(value, isText)));
    }
    return value instanceof FunctionCall call
            && call.key().equals("concat")
            && subject.block().dialect().has(Rule.CONCAT_OF_NULL_IS_NULL)
        ? Optional.of(new Whole(value, true, totalled, call.arguments()))
        : Optional.empty();
  }

  private static boolean isConcatenation(Arithmetic whole) {
    return whole.operator() == ArithmeticOperator.CONCAT;
  }

  private static List<Expression> parts(Expression value, boolean ofText) {
    if (value instanceof Arithmetic part && isConcatenation(part) == ofText && isSum(part)) {
      return Stream.concat(
              parts(part.left(), ofText).stream(), parts(part.right(), ofText).stream())
          .toList();
    }
    return List.of(value);
  }

  /** A product with nothing is nothing; a sum with nothing is the rest of it. */
  private static boolean isSum(Arithmetic value) {
    return switch (value.operator()) {
      case CONCAT, PLUS, MINUS -> true;
      default -> false;
    };
  }

  private static Optional<Suspicion> suspicion(Whole whole, Subject subject) {
    QueryBlock block = subject.block();
    List<Expression> optional = whole.optional(block);
    long columns = whole.parts().stream().filter(part -> isOfRow(part, block)).count();
    if (optional.isEmpty() || columns < 2) {
      return Optional.empty();
    }
    if (subject.rows().isEmpty() && !whole.isSureOfValue(block)) {
      return Optional.empty();
    }
    Optional<Question<List<Long>>> swallowed =
        subject.rows().map(rows -> swallowed(whole, optional, rows, block));
    return Optional.of(
        Suspicion.asking(
            Kind.NULL_SWALLOWS,
            whole.value().span(),
            List.of(whole.value().span()),
            swallowed,
            counts -> conclude(whole, optional, counts, subject)));
  }

  private static Question<List<Long>> swallowed(
      Whole whole, List<Expression> optional, JoinedRows rows, QueryBlock block) {
    List<Expression> counts =
        optional.stream().map(part -> Sql.countIf(whole.isSwallowedBy(part, rows, block))).toList();
    return Question.figures(
        rows.all(),
        counts,
        answer -> IntStream.range(0, counts.size()).mapToObj(answer::figure).toList());
  }

  private static Optional<Conclusion> conclude(
      Whole whole, List<Expression> optional, Optional<List<Long>> counts, Subject subject) {
    String nothing = whole.isText() ? "''" : "0";
    if (counts.isEmpty() && whole.isDifference(optional.get(0), subject.block())) {
      return Optional.empty();
    }
    if (counts.isEmpty()) {
      String part = subject.text(optional.get(0));
      return Optional.of(
          Conclusion.note(
              message(whole, part, "", nothing) + ".",
              List.of(part + " can be NULL here"),
              List.of(filled(optional, nothing, subject))));
    }
    List<Expression> met =
        IntStream.range(0, optional.size())
            .filter(each -> counts.get().get(each) > 0)
            .mapToObj(optional::get)
            .toList();
    if (met.isEmpty()) {
      return Optional.empty();
    }
    long count = counts.get().get(optional.indexOf(met.get(0)));
    QueryBlock block = subject.block();
    JoinedRows rows = subject.rows().orElseThrow();
    TableUse use =
        block.mentioned(whole.value()).stream()
            .filter(each -> block.stepsThatFill(each).isEmpty())
            .findFirst()
            .orElseGet(() -> block.mentioned(whole.value()).iterator().next());
    Question<List<NamedRow>> names =
        RowNames.question(
            rows, rows.all(), use, whole.isSwallowedBy(met.get(0), rows, block), SHOWN);
    boolean perhapsMeant = whole.isDifference(met.get(0), block);
    return Optional.of(
        Conclusion.asking(
            perhapsMeant ? Severity.NOTE : Severity.WARNING,
            message(whole, subject.text(met.get(0)), ": " + Words.rows(count), nothing)
                + (perhapsMeant ? " if nothing means 0 there." : "."),
            names,
            named -> new Evidence(Map.of("rows with NULL", count), named, List.of()),
            perhapsMeant ? List.of() : List.of(filled(met, nothing, subject))));
  }

  private static String message(Whole whole, String part, String count, String nothing) {
    return "Where "
        + part
        + " is NULL, the whole of this is NULL, "
        + (whole.isTotalled() ? "and the total lacks the row" : "the other parts too")
        + count
        + ". Write COALESCE("
        + part
        + ", "
        + nothing
        + ")";
  }

  private static List<Edit> filled(List<Expression> parts, String nothing, Subject subject) {
    String coalesce = subject.edits().keyword("COALESCE");
    return parts.stream()
        .map(
            each ->
                new Edit(each.span(), coalesce + "(" + subject.text(each) + ", " + nothing + ")"))
        .toList();
  }
}
