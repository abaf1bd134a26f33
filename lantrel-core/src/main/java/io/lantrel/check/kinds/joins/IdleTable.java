package io.lantrel.check.kinds.joins;

import io.lantrel.check.Kind;
import io.lantrel.check.kinds.totals.IdleJoin;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.Multiplicity;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.sql.tree.SelectItem;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** A table that is joined and then used for nothing: the rows are the same without it. */
public final class IdleTable implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    List<Suspicion> suspicions = new ArrayList<>();
    for (JoinStep step : block.steps()) {
      Multiplicity partners = block.partnersOnTheRight(step);
      boolean without =
          (step.kind() == JoinKind.LEFT && (partners.isSingle() || block.isOnlyAskedForARow()))
              || (step.kind() == JoinKind.INNER && partners == Multiplicity.EXACTLY_ONE);
      // What EXISTS shows is read by nobody.
      boolean all =
          !block.hasAllOutputs()
              || block.select().items().stream()
                  .anyMatch(item -> item instanceof SelectItem.AllColumns);
      boolean shown = all && !block.isOnlyAskedForARow();
      if (without && !shown && step.right().get(0).table().isPresent()) {
        new IdleJoin(step, step.left().get(0), subject)
            .takenOut()
            .ifPresent(edits -> suspicions.add(suspicion(step, subject, edits)));
      }
    }
    return suspicions;
  }

  private static Suspicion suspicion(JoinStep step, Subject subject, List<Edit> edits) {
    TableUse use = step.right().get(0);
    boolean asked = subject.block().isOnlyAskedForARow() && step.kind() == JoinKind.LEFT;
    boolean tested = step.conjuncts().stream().anyMatch(each -> each.equality().isEmpty());
    String fact =
        asked
            ? "EXISTS asks for one row, and LEFT JOIN loses none"
            : step.kind() == JoinKind.LEFT
                ? "a row has at most one " + use.rowWord() + ", and LEFT JOIN loses none"
                : "every row has exactly one " + use.rowWord();
    Conclusion conclusion =
        asked && tested
            ? Conclusion.warning(
                "What ON asks of "
                    + use.words()
                    + " keeps no row out: EXISTS is as true without one. Write JOIN if there must be"
                    + " one, or leave the join out.",
                List.of(fact),
                List.of(List.of(subject.edits().kind(step, JoinKind.INNER)), edits))
            : Conclusion.note(
                "Nothing of "
                    + use.words()
                    + " is shown, tested or joined to: the rows are the same without it. Leave the"
                    + " join out.",
                List.of(fact),
                List.of(edits));
    return new Suspicion(
        Kind.IDLE_TABLE,
        step.place(),
        List.of(step.place()),
        List.of(),
        answers -> Optional.of(conclusion));
  }
}
