package io.lantrel.check.kinds.outer;

import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.edit.QueryEdits;
import io.lantrel.engine.NamedRow;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.RowNames;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.NullRejection;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * An inner join whose condition needs a row that an outer join before may have filled with NULLs:
 * what the outer join keeps, this one drops again.
 */
public final class OuterChainBroken implements Check {

  private static final int SHOWN = 3;

  @Override
  public List<Suspicion> suspect(Subject subject) {
    List<Suspicion> suspicions = new ArrayList<>();
    QueryBlock block = subject.block();
    for (JoinStep step : block.steps()) {
      if (!step.kind().isOuter()) {
        block.steps().stream()
            .filter(earlier -> earlier.number() < step.number() && earlier.kind().isOuter())
            .filter(earlier -> step.left().containsAll(earlier.right()))
            .filter(earlier -> drops(step, earlier, block))
            .findFirst()
            .ifPresent(earlier -> suspicions.add(suspicion(step, earlier, subject)));
      }
    }
    return suspicions;
  }

  /** The side of it that it fills. */
  private static List<TableUse> filled(JoinStep earlier) {
    return earlier.kind().keepsLeft() ? earlier.right() : earlier.left();
  }

  private static List<TableUse> kept(JoinStep earlier) {
    return earlier.kind().keepsLeft() ? earlier.left() : earlier.right();
  }

  private static boolean drops(JoinStep step, JoinStep earlier, QueryBlock block) {
    Set<TableUse> filled = Set.copyOf(filled(earlier));
    return step.conjuncts().stream()
        .filter(each -> each.uses().stream().anyMatch(filled::contains))
        .anyMatch(each -> NullRejection.rejects(each.condition(), block, filled));
  }

  private static Suspicion suspicion(JoinStep step, JoinStep earlier, Subject subject) {
    Optional<Question<Long>> lost =
        subject.rows().map(rows -> Question.count(rows.attempts(step), lost(rows, step, earlier)));
    return Suspicion.asking(
        Kind.OUTER_CHAIN_BROKEN,
        step.place(),
        List.of(step.place()),
        lost,
        count -> Optional.of(conclude(step, earlier, count, subject)));
  }

  private static Expression lost(JoinedRows rows, JoinStep step, JoinStep earlier) {
    List<Expression> conditions = new ArrayList<>();
    conditions.add(rows.reached(step));
    conditions.add(rows.isAlone(step));
    filled(earlier).forEach(use -> conditions.add(Sql.not(rows.isThere(rows.attempts(step), use))));
    return Sql.all(conditions);
  }

  private static Conclusion conclude(
      JoinStep step, JoinStep earlier, Optional<Long> count, Subject subject) {
    TableUse kept = keptSubject(earlier);
    String optional = Words.list(filled(earlier).stream().map(TableUse::words).toList());
    long lost = count.orElse(0L);
    String message =
        "The "
            + earlier.kind().words()
            + " before keeps every "
            + kept.rowWord()
            + ", and this "
            + (step.kind() == JoinKind.COMMA ? "comma join" : step.kind().words())
            + " drops those without "
            + optional
            + " again, since its condition needs "
            + optional
            + (lost > 0 ? ": " + Words.count(lost, "row") + " lost." : ".")
            + (step.kind() == JoinKind.INNER
                ? " Write LEFT JOIN here too to keep them."
                : " Join it with LEFT JOIN to keep them.");
    List<List<Edit>> repairs = repairs(step, earlier, subject);
    if (lost == 0) {
      List<String> none =
          count.isPresent()
              ? List.of("the sample has no such row: every " + kept.rowWord() + " has one")
              : List.of(optional + " is optional from the " + earlier.kind().words() + " on");
      return Conclusion.warning(message, none, repairs);
    }
    JoinedRows rows = subject.rows().orElseThrow();
    Question<List<NamedRow>> names =
        RowNames.question(rows, rows.attempts(step), kept, lost(rows, step, earlier), SHOWN);
    return Conclusion.asking(
        Severity.WARNING,
        message,
        names,
        named -> new Evidence(Map.of("rows lost", lost), named, List.of()),
        repairs);
  }

  /** The kept table that the outer join's condition mentions. */
  private static TableUse keptSubject(JoinStep earlier) {
    return earlier.conjuncts().stream()
        .flatMap(each -> each.uses().stream())
        .filter(kept(earlier)::contains)
        .findFirst()
        .orElseGet(() -> kept(earlier).get(0));
  }

  /** Once one link is optional, every link behind it has to be. */
  private static List<List<Edit>> repairs(JoinStep step, JoinStep earlier, Subject subject) {
    QueryEdits edits = subject.edits();
    List<List<Edit>> repairs = new ArrayList<>();
    if (step.kind() == JoinKind.INNER) {
      List<Edit> chain = new ArrayList<>(List.of(edits.kind(step, JoinKind.LEFT)));
      Set<TableUse> optional = new HashSet<>(step.right());
      for (JoinStep later : subject.block().steps()) {
        boolean behind =
            later.number() > step.number()
                && later.kind() == JoinKind.INNER
                && later.conjuncts().stream()
                    .map(Conjunct::uses)
                    .anyMatch(uses -> uses.stream().anyMatch(optional::contains));
        if (behind) {
          chain.add(edits.kind(later, JoinKind.LEFT));
          optional.addAll(later.right());
        }
      }
      repairs.add(chain);
    }
    if (earlier.kind() == JoinKind.LEFT || earlier.kind() == JoinKind.RIGHT) {
      repairs.add(List.of(edits.kind(earlier, JoinKind.INNER)));
    }
    return repairs;
  }
}
