package io.lantrel.report;

import io.lantrel.Study;
import io.lantrel.claim.CheckedClaim;
import java.util.List;

/**
 * Claims that could be made of a query.
 *
 * @param file its file, as people know it
 * @param study the query
 * @param claims the claims, the strongest first
 */
public record SuggestedClaims(String file, Study study, List<CheckedClaim> claims) {
  public SuggestedClaims {
    claims = List.copyOf(claims);
  }
}
