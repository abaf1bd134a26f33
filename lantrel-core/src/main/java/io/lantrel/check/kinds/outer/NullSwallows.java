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
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Dialect.Rule;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Value.Arithmetic;
import io.lantrel.sql.tree.Value.ArithmeticOperator;
import io.lantrel.sql.tree.Value.Cast;
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

  /** Functions that give NULL for NULL and make one text of another. */
  private static final Set<String> OF_ONE_TEXT =
      Set.of("upper", "lower", "trim", "ltrim", "rtrim", "substr", "substring", "initcap");

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    if (block.isGrouped()) {
      return List.of();
    }
    return block.outputs().stream()
        .flatMap(output -> whole(output.value(), subject).stream())
        .flatMap(whole -> suspicion(whole, subject).stream())
        .toList();
  }

  /**
   * Parts of which each makes it NULL.
   *
   * @param value all of it
   * @param isText whether texts are put together; else numbers are added
   * @param parts its parts
   */
  private record Whole(Expression value, boolean isText, List<Expression> parts) {

    /** Those that can be NULL. */
    List<Expression> optional(QueryBlock block) {
      return parts.stream()
          .filter(part -> column(part, block).filter(each -> isOptional(each, block)).isPresent())
          .toList();
    }

    /** What is reckoned with a value that the table does not have is rightly unknown. */
    private boolean isOptional(UseColumn column, QueryBlock block) {
      return !block.isNeverNull(column) && (isText || !block.stepsThatFill(column.use()).isEmpty());
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
              .filter(other -> other != part && column(other, block).isPresent())
              .map(other -> Sql.isNotNull(rows.value(rows.all(), other)))
              .toList();
      return isSureOfValue(block) ? rows.isKept(isNull) : rows.isKept(isNull, Sql.any(values));
    }
  }

  private static Optional<UseColumn> column(Expression part, QueryBlock block) {
    return block.column(part).filter(block::isOwn);
  }

  private static Optional<Whole> whole(Expression value, Subject subject) {
    if (value instanceof Arithmetic sum && isSum(sum)) {
      boolean isText = isConcatenation(sum);
      return Optional.of(new Whole(value, isText, parts(value, isText)));
    }
    if (value instanceof Cast cast) {
      return whole(cast.value(), subject);
    }
    if (value instanceof FunctionCall call && !call.arguments().isEmpty()) {
      if (OF_ONE_TEXT.contains(call.key())) {
        return whole(call.arguments().get(0), subject);
      }
      if (call.key().equals("concat")
          && subject.block().dialect().has(Rule.CONCAT_OF_NULL_IS_NULL)) {
        return Optional.of(new Whole(value, true, call.arguments()));
      }
    }
    return Optional.empty();
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
    long columns = whole.parts().stream().filter(part -> column(part, block).isPresent()).count();
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
    if (counts.isEmpty()) {
      String part = subject.text(optional.get(0));
      return Optional.of(
          Conclusion.note(
              message(part, "", nothing),
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
    return Optional.of(
        Conclusion.asking(
            Severity.WARNING,
            message(subject.text(met.get(0)), ": " + Words.rows(count), nothing),
            names,
            named -> new Evidence(Map.of("rows with NULL", count), named, List.of()),
            List.of(filled(met, nothing, subject))));
  }

  private static String message(String part, String count, String nothing) {
    return "Where "
        + part
        + " is NULL, the whole of this is NULL, the other parts too"
        + count
        + ". Write COALESCE("
        + part
        + ", "
        + nothing
        + ").";
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
