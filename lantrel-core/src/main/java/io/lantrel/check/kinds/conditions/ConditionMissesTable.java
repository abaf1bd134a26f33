package io.lantrel.check.kinds.conditions;

import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.edit.QueryEdits;
import io.lantrel.probe.Question;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.Link;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.JoinCondition;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.sql.tree.Value;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/** An ON that says nothing about the table that it joins: each of its rows is a partner. */
public final class ConditionMissesTable implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    List<Suspicion> suspicions = new ArrayList<>();
    for (JoinStep step : subject.block().writtenSteps()) {
      if (step.join().condition() instanceof JoinCondition.On on && misses(step)) {
        suspicions.add(suspicion(on, step, subject));
      }
    }
    return suspicions;
  }

  private static boolean misses(JoinStep step) {
    Set<TableUse> uses = new LinkedHashSet<>();
    step.conjuncts().stream()
        .filter(each -> each.origin() == Conjunct.Origin.ON)
        .forEach(each -> uses.addAll(each.uses()));
    boolean unread =
        step.conjuncts().stream()
            .flatMap(each -> each.condition().preorder())
            .anyMatch(node -> node instanceof Value.Parameter || node instanceof Value.WholeRow);
    return !uses.isEmpty() && !unread && Collections.disjoint(uses, step.right());
  }

  private static Suspicion suspicion(JoinCondition.On on, JoinStep step, Subject subject) {
    Optional<Question<Long>> right =
        subject.rows().map(rows -> Question.count(rows.side(step.join().right())));
    return Suspicion.asking(
        Kind.CONDITION_MISSES_TABLE,
        on.condition().span(),
        List.of(step.place(), on.condition().span()),
        right,
        count -> conclude(on, step, count, subject));
  }

  private static Optional<Conclusion> conclude(
      JoinCondition.On on, JoinStep step, Optional<Long> count, Subject subject) {
    if (count.isPresent() && count.get() < 2) {
      return Optional.empty();
    }
    String table = Words.list(step.right().stream().map(TableUse::words).toList());
    List<String> links =
        step.left().stream()
            .flatMap(
                left ->
                    step.right().stream()
                        .flatMap(right -> subject.block().linksBetween(left, right).stream()))
            .map(Link::condition)
            .distinct()
            .toList();
    String message =
        "This condition says nothing about "
            + table
            + ": each row that meets it gets all "
            + count.map(rows -> Words.number(rows) + " ").orElse("")
            + "rows of "
            + table
            + ". "
            + (links.isEmpty()
                ? "Add the condition that connects them, or write CROSS JOIN if this is meant."
                : "Join on " + String.join(" or ", links) + ".");
    Evidence evidence =
        new Evidence(
            count.map(rows -> Map.of("partners of each row", rows)).orElse(Map.of()),
            List.of(),
            List.of("no column of " + table + " stands in " + subject.text(on.condition())));
    List<List<Edit>> repairs =
        links.size() == 1 ? repairs(on, step, links.get(0), subject) : List.of();
    return Optional.of(new Conclusion(Severity.WARNING, message, evidence, repairs));
  }

  /** Beside what is there, unless that only repeats an earlier join. */
  private static List<List<Edit>> repairs(
      JoinCondition.On on, JoinStep step, String link, Subject subject) {
    boolean repeated =
        subject.block().steps().stream()
            .filter(other -> !other.equals(step))
            .flatMap(other -> other.conjuncts().stream())
            .flatMap(other -> other.likeness().stream())
            .anyMatch(
                other ->
                    step.conjuncts().stream()
                        .flatMap(each -> each.likeness().stream())
                        .anyMatch(
                            each ->
                                each.of(other.left().use()).equals(Optional.of(other.left()))
                                    && each.of(other.right().use())
                                        .equals(Optional.of(other.right()))));
    QueryEdits edits = subject.edits();
    List<Edit> instead = List.of(new Edit(on.condition().span(), link));
    List<Edit> beside = edits.and(on.condition(), link);
    List<List<Edit>> repairs = new ArrayList<>();
    for (List<Edit> each : repeated ? List.of(instead) : List.of(beside, instead)) {
      repairs.add(each);
      if (step.kind() == JoinKind.INNER) {
        List<Edit> keeping = new ArrayList<>(each);
        keeping.add(edits.kind(step, JoinKind.LEFT));
        repairs.add(keeping);
      }
    }
    return repairs;
  }
}
