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
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Value.Arithmetic;
import io.lantrel.sql.tree.Value.ArithmeticOperator;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;

/**
 * A concatenation or a sum that is NULL as a whole because one part of it is (ISO/IEC 9075-2, 6.29
 * and 6.30), although another part always has a value.
 */
public final class NullSwallows implements Check {

  private static final int SHOWN = 3;

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    List<Suspicion> suspicions = new ArrayList<>();
    if (!block.isGrouped()) {
      for (OutputColumn output : block.outputs()) {
        if (output.value() instanceof Arithmetic whole) {
          swallowed(whole, block)
              .ifPresent(part -> suspicions.add(suspicion(whole, part, subject)));
        }
      }
    }
    return suspicions;
  }

  private static boolean isConcatenation(Arithmetic whole) {
    return whole.operator() == ArithmeticOperator.CONCAT;
  }

  private static List<Expression> parts(Expression value, Arithmetic whole) {
    if (value instanceof Arithmetic part
        && (isConcatenation(part) == isConcatenation(whole))
        && isSum(part)) {
      return Stream.concat(parts(part.left(), whole).stream(), parts(part.right(), whole).stream())
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

  /** A part that can be NULL where others are not. */
  private static Optional<Expression> swallowed(Arithmetic whole, QueryBlock block) {
    if (!isSum(whole)) {
      return Optional.empty();
    }
    List<Expression> parts = parts(whole, whole);
    boolean sure =
        parts.stream().anyMatch(part -> column(part, block).filter(block::isNeverNull).isPresent());
    return parts.stream()
        .filter(
            part ->
                sure
                    && column(part, block)
                        .filter(each -> isOptional(each, whole, block))
                        .isPresent())
        .findFirst();
  }

  private static Optional<UseColumn> column(Expression part, QueryBlock block) {
    return block.column(part).filter(block::isOwn);
  }

  /** What is reckoned with a value that the table does not have is rightly unknown. */
  private static boolean isOptional(UseColumn column, Arithmetic whole, QueryBlock block) {
    return !block.isNeverNull(column)
        && (isConcatenation(whole) || !block.stepsThatFill(column.use()).isEmpty());
  }

  private static Suspicion suspicion(Arithmetic whole, Expression part, Subject subject) {
    Optional<Question<Long>> swallowed =
        subject.rows().map(rows -> Question.count(rows.all(), swallowed(rows, part)));
    return Suspicion.asking(
        Kind.NULL_SWALLOWS,
        whole.span(),
        List.of(whole.span()),
        swallowed,
        count ->
            count.isPresent() && count.get() == 0
                ? Optional.empty()
                : Optional.of(conclude(whole, part, count, subject)));
  }

  private static Expression swallowed(JoinedRows rows, Expression part) {
    return rows.isKept(Sql.isNull(rows.value(rows.all(), part)));
  }

  private static Conclusion conclude(
      Arithmetic whole, Expression part, Optional<Long> count, Subject subject) {
    QueryBlock block = subject.block();
    boolean text = isConcatenation(whole);
    String right = "COALESCE(" + subject.text(part) + ", " + (text ? "''" : "0") + ")";
    String message =
        "Where "
            + subject.text(part)
            + " is NULL, the whole of this is NULL, the other parts too"
            + count.map(rows -> ": " + Words.rows(rows)).orElse("")
            + ". Write "
            + right
            + ".";
    List<Edit> all = new ArrayList<>();
    for (Expression each : parts(whole, whole)) {
      if (column(each, block).filter(column -> isOptional(column, whole, block)).isPresent()) {
        all.add(
            new Edit(
                each.span(),
                subject.edits().keyword("COALESCE")
                    + "("
                    + subject.text(each)
                    + ", "
                    + (text ? "''" : "0")
                    + ")"));
      }
    }
    List<List<Edit>> repairs = List.of(all);
    if (count.isEmpty()) {
      return Conclusion.note(message, List.of(subject.text(part) + " can be NULL here"), repairs);
    }
    JoinedRows rows = subject.rows().orElseThrow();
    TableUse use =
        block.mentioned(whole).stream()
            .filter(each -> block.stepsThatFill(each).isEmpty())
            .findFirst()
            .orElseGet(() -> block.mentioned(whole).iterator().next());
    Question<List<NamedRow>> names =
        RowNames.question(rows, rows.all(), use, swallowed(rows, part), SHOWN);
    return Conclusion.asking(
        Severity.WARNING,
        message,
        names,
        named -> new Evidence(Map.of("rows with NULL", count.get()), named, List.of()),
        repairs);
  }
}
