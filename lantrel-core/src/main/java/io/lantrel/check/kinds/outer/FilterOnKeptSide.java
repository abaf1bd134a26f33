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
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;

/**
 * A condition in the ON of an outer join that is only about the side whose rows are all kept: it
 * filters nothing, rows that do not meet it just get no partner.
 */
public final class FilterOnKeptSide implements Check {

  private static final int SHOWN = 3;

  @Override
  public List<Suspicion> suspect(Subject subject) {
    List<Suspicion> suspicions = new ArrayList<>();
    for (JoinStep step : subject.block().steps()) {
      if (step.kind().isOuter()) {
        boolean left = step.kind() == JoinKind.LEFT;
        for (Conjunct conjunct : step.conjuncts()) {
          boolean onlyKept =
              !conjunct.uses().isEmpty()
                  && kept(step).anyMatch(each -> each.containsAll(conjunct.uses()))
                  && conjunct.origin() == Conjunct.Origin.ON
                  && step.conjuncts().size() > 1;
          if (onlyKept) {
            suspicions.add(suspicion(step, conjunct, left, subject));
          }
        }
      }
    }
    return suspicions;
  }

  /** The sides of which all rows are kept. */
  private static Stream<List<TableUse>> kept(JoinStep step) {
    return switch (step.kind()) {
      case LEFT -> Stream.of(step.left());
      case RIGHT -> Stream.of(step.right());
      case FULL -> Stream.of(step.left(), step.right());
      default -> Stream.of();
    };
  }

  private static Suspicion suspicion(
      JoinStep step, Conjunct conjunct, boolean left, Subject subject) {
    Optional<Question<Long>> kept =
        left
            ? subject
                .rows()
                .map(rows -> Question.count(rows.attempts(step), kept(rows, step, conjunct)))
            : Optional.empty();
    return Suspicion.asking(
        Kind.FILTER_ON_KEPT_SIDE,
        conjunct.span(),
        List.of(conjunct.span()),
        kept,
        count ->
            count.isPresent() && count.get() == 0
                ? Optional.empty()
                : Optional.of(conclude(step, conjunct, count, subject)));
  }

  private static Expression kept(JoinedRows rows, JoinStep step, Conjunct conjunct) {
    return Sql.all(
        List.of(
            rows.reached(step),
            rows.isAlone(step),
            Sql.not(rows.holds(rows.attempts(step), conjunct.condition()))));
  }

  private static Conclusion conclude(
      JoinStep step, Conjunct conjunct, Optional<Long> count, Subject subject) {
    TableUse use = conjunct.uses().iterator().next();
    boolean full = step.kind() == JoinKind.FULL;
    String text = subject.text(conjunct.condition());
    String message =
        "This condition filters no "
            + use.rowWord()
            + ": the "
            + step.kind().words()
            + " keeps all of them"
            + count
                .map(
                    rows ->
                        ", "
                            + Words.number(rows)
                            + " of which "
                            + (rows == 1 ? "does" : "do")
                            + " not meet it")
                .orElse("")
            + "; these only get no "
            + Words.list(
                (step.left().contains(use) ? step.right() : step.left())
                    .stream().map(TableUse::rowWord).toList())
            + (full
                ? ". Put it into a query in FROM, before the join, if they should go."
                : ". Move it to WHERE if they should go.");
    // In WHERE it would drop what only the other side of a FULL JOIN has.
    List<List<Edit>> repairs =
        full
            ? List.of()
            : subject.edits().fromOnToWhere(step, conjunct.condition()).stream().toList();
    if (count.isEmpty()) {
      return Conclusion.warning(
          message, List.of(text + " mentions nothing of the optional side"), repairs);
    }
    JoinedRows rows = subject.rows().orElseThrow();
    Question<List<NamedRow>> names =
        RowNames.question(rows, rows.attempts(step), use, kept(rows, step, conjunct), SHOWN);
    return Conclusion.asking(
        Severity.WARNING,
        message,
        names,
        named ->
            new Evidence(Map.of("rows kept without meeting it", count.get()), named, List.of()),
        repairs);
  }
}
