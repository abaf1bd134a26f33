package io.lantrel.claim;

import java.util.List;
import java.util.OptionalLong;

/**
 * What became of the claims of a query.
 *
 * @param claims those that say something, in the order in which they were given
 * @param problems those that do not
 * @param rows how many rows the query gives; empty if it was not run
 */
public record Verification(
    List<CheckedClaim> claims, List<ClaimProblem> problems, OptionalLong rows) {
  public Verification {
    claims = List.copyOf(claims);
    problems = List.copyOf(problems);
  }

  /** Whether every claim is met, and there is one. */
  public boolean isMet() {
    return problems.isEmpty()
        && !claims.isEmpty()
        && claims.stream().allMatch(each -> each.verdict().isMet());
  }

  /**
   * For tests of any framework: fails, and tells all that is to be known, unless every claim is met
   * and there is one.
   *
   * @return this
   * @throws AssertionError if a claim is broken, undecided or misspelt, or there is none
   */
  public Verification assertMet() {
    if (!isMet()) {
      throw new AssertionError(Failure.message(this));
    }
    return this;
  }
}
