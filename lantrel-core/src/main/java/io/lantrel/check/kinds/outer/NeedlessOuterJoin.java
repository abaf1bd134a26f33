package io.lantrel.check.kinds.outer;

import io.lantrel.check.Kind;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.probe.Question;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.Multiplicity;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** An outer join that keeps nothing: by its reference every row has a partner. */
public final class NeedlessOuterJoin implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    List<Suspicion> suspicions = new ArrayList<>();
    QueryBlock block = subject.block();
    for (JoinStep step : block.steps()) {
      boolean sure =
          step.kind() == JoinKind.LEFT
              && block.partnersOnTheRight(step) == Multiplicity.EXACTLY_ONE
              && step.right().stream().allMatch(use -> use.table().isPresent());
      if (sure) {
        suspicions.add(suspicion(step, subject));
      }
    }
    return suspicions;
  }

  private static Suspicion suspicion(JoinStep step, Subject subject) {
    // Where the data break the reference, the outer join is needed after all.
    Optional<Question<Long>> alone =
        subject
            .rows()
            .map(
                rows ->
                    Question.count(
                        rows.attempts(step),
                        Sql.all(List.of(rows.reached(step), rows.isAlone(step)))));
    TableUse right = step.right().get(0);
    List<String> facts =
        step.conjuncts().stream()
            .flatMap(each -> each.equality().stream())
            .flatMap(each -> subject.block().linksAlong(each).stream())
            .map(link -> "the schema has " + link.reference().words() + ", which is never NULL")
            .distinct()
            .toList();
    String message =
        "Every row has "
            + Words.one(right.rowWord())
            + " here, so this LEFT JOIN gives the rows that JOIN gives. Write JOIN, which says so.";
    List<List<Edit>> repairs = List.of(List.of(subject.edits().kind(step, JoinKind.INNER)));
    return Suspicion.asking(
        Kind.NEEDLESS_OUTER_JOIN,
        step.place(),
        List.of(),
        alone,
        count ->
            count.orElse(0L) > 0
                ? Optional.empty()
                : Optional.of(Conclusion.note(message, facts, repairs)));
  }
}
