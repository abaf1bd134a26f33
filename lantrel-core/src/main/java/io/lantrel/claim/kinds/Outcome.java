package io.lantrel.claim.kinds;

import io.lantrel.claim.Verdict;
import io.lantrel.engine.Rows;
import io.lantrel.probe.Question;
import java.util.List;
import java.util.Optional;

/**
 * What the answers tell of a claim.
 *
 * @param verdict whether it is so
 * @param reason why, in a sentence
 * @param count how many rows break it
 * @param rows what asks for some of these rows; empty if they are not shown
 * @param headings of these rows
 * @param fault what happened to rows that should not have, if the account of the query can tell
 *     where
 */
public record Outcome(
    Verdict verdict,
    String reason,
    long count,
    Optional<Question<Rows>> rows,
    List<String> headings,
    Optional<Fault> fault) {

  /** What can happen to rows of a table between FROM and the result. */
  public record Fault(Subject subject, boolean repeated) {}

  public Outcome {
    headings = List.copyOf(headings);
  }

  /** It is so here. */
  static Outcome holds(String reason) {
    return new Outcome(Verdict.HOLDS, reason, 0, Optional.empty(), List.of(), Optional.empty());
  }

  /** There is nothing here that could show it. */
  static Outcome nothing(String reason) {
    return new Outcome(
        Verdict.UNDECIDED,
        "nothing to show it: " + reason,
        0,
        Optional.empty(),
        List.of(),
        Optional.empty());
  }

  /** It is not so; no row shows it. */
  static Outcome broken(String reason) {
    return new Outcome(Verdict.BROKEN, reason, 0, Optional.empty(), List.of(), Optional.empty());
  }

  /** It is not so, and rows show it. */
  static Outcome broken(String reason, long count, Question<Rows> rows, List<String> headings) {
    return new Outcome(
        Verdict.BROKEN, reason, count, Optional.of(rows), headings, Optional.empty());
  }

  /** The same with what became of the rows of a table. */
  Outcome by(Subject subject, boolean repeated) {
    return new Outcome(
        verdict, reason, count, rows, headings, Optional.of(new Fault(subject, repeated)));
  }
}
