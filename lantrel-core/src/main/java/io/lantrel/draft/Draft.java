package io.lantrel.draft;

import java.util.List;

/**
 * A query that was written for a wish.
 *
 * @param sql its text
 * @param reading how it understands the wish, in one line
 * @param reasons why each table is there, one sentence for each join, in order
 */
public record Draft(String sql, String reading, List<String> reasons) {
  public Draft {
    reasons = List.copyOf(reasons);
  }
}
