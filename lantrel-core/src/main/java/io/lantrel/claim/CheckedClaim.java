package io.lantrel.claim;

import io.lantrel.catalog.Constraint;
import io.lantrel.compare.Comparison;
import java.util.List;
import java.util.Optional;

/**
 * A claim, and whether it is so.
 *
 * @param claim the claim
 * @param verdict what is known of it
 * @param reason why, in a sentence
 * @param constraints what a proof rests on; empty if it rests on nothing, or there is none
 * @param rows the rows that break it; empty if none do, or they are told by the comparison
 * @param comparison how the result differs from the one that it is to be like; empty for claims of
 *     another kind
 */
public record CheckedClaim(
    Claim claim,
    Verdict verdict,
    String reason,
    List<Constraint> constraints,
    Optional<BreakingRows> rows,
    Optional<Comparison> comparison) {

  public CheckedClaim {
    constraints = List.copyOf(constraints);
  }

  /** One without rows. */
  public static CheckedClaim of(Claim claim, Verdict verdict, String reason) {
    return new CheckedClaim(claim, verdict, reason, List.of(), Optional.empty(), Optional.empty());
  }
}
