package io.lantrel.check.kinds.conditions;

import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.resolve.Conjunct;
import io.lantrel.sql.Edit;
import io.lantrel.sql.LexedText;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Span;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** Pairs of rows of one table that come in both orders: a with b, and b with a. */
public final class MirroredPairs implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    List<Suspicion> suspicions = new ArrayList<>();
    for (SelfJoin join : SelfJoin.in(subject)) {
      join.differing(subject)
          .filter(apart -> join.isEven(apart, subject))
          .ifPresent(apart -> suspicions.add(suspicion(join, apart, subject)));
    }
    return suspicions;
  }

  private static Suspicion suspicion(SelfJoin join, Conjunct apart, Subject subject) {
    Optional<Question<Long>> pairs = subject.rows().map(MirroredPairs::pairs);
    return Suspicion.asking(
        Kind.MIRRORED_PAIRS,
        apart.span(),
        List.of(apart.span(), join.step().place()),
        pairs,
        found -> conclude(join, apart, found, subject));
  }

  private static Question<Long> pairs(JoinedRows rows) {
    return Question.count(rows.all(), rows.isKept());
  }

  private static Optional<Conclusion> conclude(
      SelfJoin join, Conjunct apart, Optional<Long> found, Subject subject) {
    if (found.isPresent() && found.get() == 0) {
      return Optional.empty();
    }
    Condition.Comparison comparison = (Condition.Comparison) apart.condition();
    String once = subject.text(comparison.left()) + " < " + subject.text(comparison.right());
    String message =
        "Every pair of "
            + Words.plural(join.first().rowWord())
            + " comes twice, once in each order"
            + found
                .map(rows -> ": " + Words.rows(rows) + " for " + Words.count(rows / 2, "pair"))
                .orElse("")
            + ". Write "
            + once
            + " to have each once.";
    Span between = Span.between(comparison.left().span(), comparison.right().span());
    LexedText text = new LexedText(subject.source(), between, subject.block().dialect());
    List<List<Edit>> repairs =
        text.first("<>").or(() -> text.first("!=")).stream()
            .map(sign -> List.of(new Edit(sign, "<")))
            .toList();
    return Optional.of(
        new Conclusion(
            Severity.WARNING,
            message,
            new Evidence(
                found.map(rows -> Map.of("rows", rows, "pairs", rows / 2)).orElse(Map.of()),
                List.of(),
                List.of("the conditions and columns are the same for both sides")),
            repairs));
  }
}
