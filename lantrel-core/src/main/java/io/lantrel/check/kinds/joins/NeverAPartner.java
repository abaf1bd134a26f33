package io.lantrel.check.kinds.joins;

import io.lantrel.check.Kind;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;

/**
 * An outer join that finds no partner for any row although there are rows on both sides: what it
 * adds is NULL everywhere. Who looks for rows without a partner may be glad of that.
 */
public final class NeverAPartner implements Check {

  /** That no row meets one of fewer is no wonder. */
  private static final int FEWEST = 3;

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    List<JoinStep> outer =
        block.steps().stream().filter(step -> isExpectedToMeet(step, subject)).toList();
    if (outer.isEmpty() || block.steps().size() > Emptiness.MOST_JOINS) {
      return List.of();
    }
    List<Suspicion> suspicions = new ArrayList<>();
    subject
        .rows()
        .ifPresent(rows -> outer.forEach(step -> suspicions.add(of(step, rows, subject))));
    return suspicions;
  }

  /** A reference alone finds nothing where all of it is NULL: that is what the data are like. */
  private static boolean isExpectedToMeet(JoinStep step, Subject subject) {
    List<Conjunct> further =
        step.conjuncts().stream().filter(each -> !isAlongReference(each, subject)).toList();
    return step.kind().isOuter()
        && !further.isEmpty()
        // Rows that depend on others cannot be counted by themselves.
        && step.right().stream().noneMatch(TableUse::isDependent)
        && further.stream()
            .filter(each -> each.likeness().isEmpty())
            .noneMatch(each -> Emptiness.isNoSurprise(each.condition(), subject))
        && subject.block().filters().stream().noneMatch(each -> isTestOfNull(each, step, subject));
  }

  private static boolean isAlongReference(Conjunct conjunct, Subject subject) {
    return conjunct.likeness().stream()
        .anyMatch(each -> !subject.block().linksAlong(each).isEmpty());
  }

  /** Whether rows are looked for that have no partner, alone or as one of several possibilities. */
  private static boolean isTestOfNull(Conjunct filter, JoinStep step, Subject subject) {
    Set<UseColumn> tested =
        filter
            .condition()
            .preorder()
            .filter(node -> node instanceof Condition.IsNull test && !test.negated())
            .flatMap(node -> subject.block().columnsIn(node).stream())
            .collect(Collectors.toSet());
    return tested.stream().anyMatch(column -> step.optional().contains(column.use()));
  }

  private static Suspicion of(JoinStep step, JoinedRows rows, Subject subject) {
    Question<Long> met = Emptiness.met(rows, step);
    Question<Long> left = Question.count(rows.attempts(step), rows.reached(step));
    Question<Long> right = Question.count(rows.side(step.join().right()));
    List<Expression> reference =
        step.conjuncts().stream()
            .filter(each -> isAlongReference(each, subject))
            .map(Conjunct::condition)
            .toList();
    // With what else it asks for left out it finds some, or has no reference to find any by.
    Question<Long> almost =
        reference.isEmpty() ? left : Question.count(rows.almostMet(step, true, reference, true));
    return new Suspicion(
        Kind.NEVER_A_PARTNER,
        Emptiness.place(step),
        List.of(step.place()),
        List.of(met, left, right, almost),
        answers -> {
          long others = answers.ifAny(right).orElse(0L);
          long before = answers.ifAny(left).orElse(0L);
          boolean could =
              before >= FEWEST && others >= FEWEST && answers.ifAny(almost).orElse(0L) > 0;
          return !could || answers.ifAny(met).orElse(1L) > 0
              ? Optional.empty()
              : Optional.of(conclusion(step, before, others, subject));
        });
  }

  private static Conclusion conclusion(JoinStep step, long before, long others, Subject subject) {
    String right = Emptiness.words(step.right());
    boolean several = step.optional().size() > 1;
    String what =
        step.kind() == JoinKind.FULL
            ? "each is shown alone"
            : Emptiness.words(List.copyOf(step.optional()))
                + (several ? " are" : " is")
                + " NULL wherever "
                + (several ? "they are" : "it is")
                + " shown";
    return ValuesThere.warning(
        "No row meets a partner at this join: "
            + what
            + ". Nothing meets "
            + Emptiness.condition(step, subject)
            + "; look at the values of both sides.",
        Map.of("rows", before, "rows on the right", others),
        "there are " + Words.rows(before) + " before it and " + Words.rows(others) + " of " + right,
        step.conjuncts().stream().map(Conjunct::condition).toList(),
        subject);
  }
}
