package io.lantrel.compare;

import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;

/**
 * Two results side by side.
 *
 * @param verdict whether they are the same
 * @param reason why, in a sentence: what a proof rests on, in what they differ, or why it is open
 * @param first how many rows the first has; empty if it was not run
 * @param second the same for the second
 * @param differences the rows in which they differ; empty if they do not, or were not compared row
 *     by row
 * @param headings which headings differ, in sentences; they make no other rows
 * @param remarks what else is to be known, in sentences: types that differ, what was not compared
 */
public record Comparison(
    Verdict verdict,
    String reason,
    OptionalLong first,
    OptionalLong second,
    Optional<Differences> differences,
    List<String> headings,
    List<String> remarks) {

  public Comparison {
    headings = List.copyOf(headings);
    remarks = List.copyOf(remarks);
  }

  /** One that could not be made, and why. */
  public static Comparison undecided(String reason) {
    return new Comparison(
        Verdict.UNDECIDED,
        reason,
        OptionalLong.empty(),
        OptionalLong.empty(),
        Optional.empty(),
        List.of(),
        List.of());
  }
}
