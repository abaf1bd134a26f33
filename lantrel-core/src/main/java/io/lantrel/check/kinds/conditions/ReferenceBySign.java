package io.lantrel.check.kinds.conditions;

import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.probe.Question;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.Conjunct.Equated;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.Link;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.tree.Condition.Comparison;
import io.lantrel.sql.tree.Condition.ComparisonOperator;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * Two tables joined on the columns of their reference by another sign than =, and by nothing else:
 * a row meets nearly all rows but the one it refers to, or all with a greater number.
 */
public final class ReferenceBySign implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    List<Suspicion> suspicions = new ArrayList<>();
    for (JoinStep step : subject.block().steps()) {
      // Beside an equality it only picks among the partners that this gives.
      boolean byEquality = step.conjuncts().stream().anyMatch(each -> each.likeness().isPresent());
      for (Conjunct conjunct : byEquality ? List.<Conjunct>of() : step.conjuncts()) {
        if (conjunct.condition() instanceof Comparison comparison
            && comparison.operator() != ComparisonOperator.EQUAL) {
          link(comparison, subject)
              .ifPresent(
                  link -> suspicions.add(suspicion(link, comparison, conjunct, step, subject)));
        }
      }
    }
    return suspicions;
  }

  private static Optional<Link> link(Comparison comparison, Subject subject) {
    Optional<UseColumn> left = subject.ownColumn(comparison.left());
    Optional<UseColumn> right = subject.ownColumn(comparison.right());
    if (left.isEmpty() || right.isEmpty() || left.get().use().equals(right.get().use())) {
      return Optional.empty();
    }
    return subject.block().linksAlong(new Equated(left.get(), right.get())).stream()
        .filter(link -> !link.reference().isSelfReference())
        .findFirst();
  }

  private static Suspicion suspicion(
      Link link, Comparison comparison, Conjunct conjunct, JoinStep step, Subject subject) {
    Optional<Question<Long>> joined =
        subject.rows().map(rows -> Question.count(rows.all(), rows.isKept()));
    String right = subject.text(comparison.left()) + " = " + subject.text(comparison.right());
    return Suspicion.asking(
        Kind.NOT_A_REFERENCE,
        conjunct.span(),
        List.of(conjunct.span(), step.place()),
        joined,
        rows ->
            Optional.of(
                new Conclusion(
                    Severity.WARNING,
                    "A row of "
                        + link.from().words()
                        + " refers to the "
                        + link.to().rowWord()
                        + " of the same value, and "
                        + subject.text(comparison)
                        + " puts others beside it"
                        + rows.map(count -> ": " + Words.rows(count)).orElse("")
                        + ". Join on "
                        + right
                        + ".",
                    new Evidence(
                        rows.map(count -> Map.of("rows", count)).orElse(Map.of()),
                        List.of(),
                        List.of("the schema has " + link.reference().words())),
                    Instead.of(conjunct, step, right, subject))));
  }
}
