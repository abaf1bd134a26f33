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
import io.lantrel.probe.Sql;
import io.lantrel.resolve.Conjunct;
import io.lantrel.sql.Edit;
import io.lantrel.sql.SqlPrinter;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** AND beside OR without parentheses, where the other reading would give other rows. */
public final class MixedAndOr implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    List<Suspicion> suspicions = new ArrayList<>();
    for (Conjunct conjunct : subject.block().conjuncts()) {
      if (conjunct.condition() instanceof Condition.Or or && !or.span().isNowhere()) {
        OtherReading.of(or)
            .ifPresent(reading -> suspicions.add(suspicion(or, reading, conjunct, subject)));
      }
    }
    return suspicions;
  }

  private static Suspicion suspicion(
      Condition.Or or, OtherReading reading, Conjunct conjunct, Subject subject) {
    Optional<Question<Long>> fewer = subject.rows().map(rows -> fewer(rows, or, reading, conjunct));
    return Suspicion.asking(
        Kind.MIXED_AND_OR,
        or.span(),
        List.of(or.span()),
        fewer,
        found -> conclude(or, reading, found, subject));
  }

  /** The rows that pass, and would not if it were read the other way, which asks for more. */
  private static Question<Long> fewer(
      JoinedRows rows, Condition.Or or, OtherReading reading, Conjunct conjunct) {
    return Question.count(
        rows.all(),
        rows.isKeptBut(
            conjunct,
            rows.holds(rows.all(), or),
            Sql.not(rows.holds(rows.all(), reading.condition()))));
  }

  private static Optional<Conclusion> conclude(
      Condition.Or or, OtherReading reading, Optional<Long> found, Subject subject) {
    if (found.isPresent() && found.get() == 0) {
      return Optional.empty();
    }
    String other = SqlPrinter.print(reading.condition(), subject.block().dialect());
    String message =
        "AND binds before OR"
            + found
                .map(
                    rows ->
                        ": "
                            + Words.rows(rows)
                            + (rows == 1 ? " passes" : " pass")
                            + " that would not by "
                            + other)
                .orElse(", so this is not " + other)
            + ". Put parentheses around what belongs together.";
    Evidence evidence =
        new Evidence(
            found.map(rows -> Map.of("rows that only this reading gives", rows)).orElse(Map.of()),
            List.of(),
            List.of("it is read as " + asRead(or, subject)));
    List<Edit> asItIs = new ArrayList<>();
    for (Expression term : or.terms()) {
      if (term instanceof Condition.And) {
        asItIs.add(Edit.insert(term.span().start(), "("));
        asItIs.add(Edit.insert(term.span().end(), ")"));
      }
    }
    List<List<Edit>> repairs =
        sameColumn(reading.alternatives(), subject)
            ? List.of(reading.edits(), asItIs)
            : List.of(asItIs, reading.edits());
    return Optional.of(
        new Conclusion(
            found.isPresent() ? Severity.WARNING : Severity.NOTE, message, evidence, repairs));
  }

  private static String asRead(Condition.Or or, Subject subject) {
    List<String> terms = new ArrayList<>();
    for (Expression term : or.terms()) {
      String text = subject.text(term);
      terms.add(term instanceof Condition.And && !text.startsWith("(") ? "(" + text + ")" : text);
    }
    return String.join(" OR ", terms);
  }

  /** Alternatives about one column belong together, whatever stands beside them. */
  private static boolean sameColumn(List<Expression> alternatives, Subject subject) {
    return alternatives.stream().map(each -> subject.block().columnsIn(each)).distinct().count()
        == 1;
  }
}
