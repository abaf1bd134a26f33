package io.lantrel.check.kinds.joins;

import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.RowNames;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.words.Words;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * The first rows that LATERAL looks up for each row, joined so that rows for which there are none
 * are gone: who asks for the latest of each may miss those without any.
 */
public final class LateralLosesRows implements Check {

  private static final int SHOWN = 3;

  @Override
  public List<Suspicion> suspect(Subject subject) {
    Optional<JoinedRows> rows = subject.rows();
    if (rows.isEmpty() || subject.block().isOnlyAskedForARow()) {
      return List.of();
    }
    return subject.block().steps().stream()
        .filter(step -> !step.kind().isOuter() && picksForEach(step, subject.block()))
        .map(step -> suspicion(step, rows.get(), subject))
        .toList();
  }

  /** Whether a query on the right looks up a limited number of rows for one table on the left. */
  private static boolean picksForEach(JoinStep step, QueryBlock block) {
    TableUse right = step.right().get(0);
    return step.right().size() == 1
        && step.left().size() == 1
        && right.item() instanceof FromItem.DerivedTable derived
        && derived.lateral()
        && derived.query().limit() != null
        && derived.query().limit().skip() == null
        && block.mentioned(derived).contains(step.left().get(0))
        && block.filters().stream().noneMatch(each -> each.uses().contains(right));
  }

  private static Suspicion suspicion(JoinStep step, JoinedRows rows, Subject subject) {
    Expression alone = Sql.all(List.of(rows.reached(step), rows.isAlone(step)));
    Question<Long> lost = Question.count(rows.attempts(step), alone);
    return Suspicion.counting(
        Kind.ROWS_WITHOUT_PARTNER,
        step.place(),
        List.of(step.place()),
        lost,
        count -> conclude(step, count, alone, rows, subject));
  }

  private static Conclusion conclude(
      JoinStep step, long count, Expression alone, JoinedRows rows, Subject subject) {
    TableUse left = step.left().get(0);
    String message =
        "For "
            + Words.count(count, left.rowWord())
            + " there is no row in "
            + step.right().get(0).name()
            + ", and "
            + (count == 1 ? "it is" : "they are")
            + " lost. LEFT JOIN keeps "
            + (count == 1 ? "it." : "them.");
    Edit kept = subject.edits().kind(step, JoinKind.LEFT);
    boolean cross = step.kind() == JoinKind.CROSS;
    int end = step.join().right().span().end();
    String on = " " + subject.edits().keyword("ON TRUE");
    return Conclusion.asking(
        Severity.NOTE,
        message,
        RowNames.question(rows, rows.attempts(step), left, alone, SHOWN),
        names -> new Evidence(Map.of("rows lost", count), names, List.of()),
        step.kind() == JoinKind.COMMA
            ? List.of()
            : List.of(cross ? List.of(kept, Edit.insert(end, on)) : List.of(kept)));
  }
}
