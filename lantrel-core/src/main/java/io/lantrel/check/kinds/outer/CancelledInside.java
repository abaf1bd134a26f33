package io.lantrel.check.kinds.outer;

import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.edit.QueryEdits;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.NullRejection;
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * A condition on a column of a query in FROM that cancels the outer join within it. IS NOT NULL
 * says what it does, and a query that several use keeps the rows for the others.
 */
public final class CancelledInside implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    List<Suspicion> suspicions = new ArrayList<>();
    for (Conjunct filter : block.filters()) {
      if (!(filter.condition() instanceof Condition.IsNull)) {
        for (UseColumn column : block.columnsIn(filter.condition())) {
          Optional<QueryBlock> inner =
              column.use().query().filter(each -> isUsedOnce(each, subject));
          Optional<JoinStep> step =
              inner
                  .filter(each -> NullRejection.rejects(filter.condition(), block, column))
                  .flatMap(each -> filling(each, column));
          if (step.isPresent()) {
            suspicions.add(suspicion(filter, column, inner.orElseThrow(), step.get(), subject));
            break;
          }
        }
      }
    }
    return suspicions;
  }

  private static boolean isUsedOnce(QueryBlock inner, Subject subject) {
    return subject.resolution().blocks().stream()
            .flatMap(each -> each.uses().stream())
            .filter(use -> use.query().filter(inner::equals).isPresent())
            .count()
        == 1;
  }

  /** The outer join that fills what the column shows. */
  private static Optional<JoinStep> filling(QueryBlock inner, UseColumn column) {
    return inner.outputs().stream()
        .filter(each -> each.position() == column.position())
        .map(OutputColumn::value)
        .flatMap(value -> inner.column(value).stream())
        .filter(inner::isOwn)
        .filter(each -> !inner.isNeverNull(each))
        .flatMap(each -> inner.stepsThatFill(each.use()).stream())
        .findFirst();
  }

  private static Suspicion suspicion(
      Conjunct filter, UseColumn column, QueryBlock inner, JoinStep step, Subject subject) {
    Optional<Question<Long>> lost =
        subject.rows().map(rows -> Question.count(rows.all(), lost(rows, filter, column)));
    return Suspicion.asking(
        Kind.OUTER_JOIN_CANCELLED,
        filter.span(),
        List.of(filter.span()),
        lost,
        count -> Optional.of(conclude(column, inner, step, count, subject)));
  }

  private static Expression lost(JoinedRows rows, Conjunct filter, UseColumn column) {
    return rows.isKeptBut(filter, Sql.isNull(rows.column(rows.all(), column)));
  }

  private static Conclusion conclude(
      UseColumn column, QueryBlock inner, JoinStep step, Optional<Long> count, Subject subject) {
    String optional =
        Words.list(
            (step.kind().keepsLeft() ? step.right() : step.left())
                .stream().map(TableUse::words).toList());
    long lost = count.orElse(0L);
    String message =
        "The "
            + step.kind().words()
            + " within "
            + column.use().name()
            + " keeps rows without "
            + optional
            + ", and this condition drops them again, since "
            + column.words()
            + " is NULL there"
            + (lost > 0 ? ": " + Words.rows(lost) + " lost." : ".")
            + " Put the condition into that join, or write JOIN there if they should go.";
    List<List<Edit>> repairs =
        step.kind() == JoinKind.LEFT || step.kind() == JoinKind.RIGHT
            ? List.of(List.of(new QueryEdits(subject.source(), inner).kind(step, JoinKind.INNER)))
            : List.of();
    List<String> facts =
        List.of(
            count.isPresent() && lost == 0
                ? "the sample has no such row"
                : column.words() + " comes from " + optional);
    return new Conclusion(
        count.isPresent() && lost == 0 ? Severity.NOTE : Severity.WARNING,
        message,
        new Evidence(
            count.map(rows -> Map.of("rows lost", rows)).orElse(Map.of()), List.of(), facts),
        repairs);
  }
}
