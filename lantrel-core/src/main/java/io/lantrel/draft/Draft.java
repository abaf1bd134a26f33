package io.lantrel.draft;

import java.util.List;

/**
 * A query that was written for a wish.
 *
 * @param sql its text
 * @param reading how it understands the wish, in one line
 * @param reasons why each table is there, one sentence for each join, in order
 * @param claims what the reading promises, as claims that can be verified
 * @param form what sort of answer it is, where there are several to one wish; else empty
 */
public record Draft(
    String sql, String reading, List<String> reasons, List<String> claims, String form) {
  public Draft {
    reasons = List.copyOf(reasons);
    claims = List.copyOf(claims);
  }

  Draft(String sql, String reading, List<String> reasons) {
    this(sql, reading, reasons, List.of(), "");
  }

  /** The same, called a form. */
  Draft as(String name) {
    return new Draft(sql, reading, reasons, claims, name);
  }
}
