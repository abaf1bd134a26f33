package io.lantrel.ledger;

import io.lantrel.sql.tree.Span;

/**
 * What a subquery that looks at the rows outside found for them.
 *
 * @param words the subquery in the names of its author, as {@code EXISTS (SELECT …)}
 * @param place where it stands
 * @param outside for how many rows outside it looked
 * @param none how many of them found no row
 * @param one how many of them found just one
 * @param found how many rows were found in all
 * @param most how many the luckiest row outside found
 */
public record RowsFound(
    String words, Span place, long outside, long none, long one, long found, long most) {

  /** How many rows outside found several. */
  public long several() {
    return outside - none - one;
  }
}
