package io.lantrel.ledger;

import java.util.List;

/**
 * What becomes of the joined rows without one of the joins.
 *
 * @param step which step, as the account numbers them: the first table is step 1
 * @param words the join as it is written
 * @param along the joins that fall away with it, since they are joined to what it joins
 * @param conditions the conditions of WHERE that fall away with it
 * @param uses the clauses that use its columns, as {@code SELECT}
 * @param rows how many rows the joins and WHERE give now
 * @param other how many they would give
 */
public record WithoutJoin(
    int step,
    String words,
    List<String> along,
    List<String> conditions,
    List<String> uses,
    long rows,
    long other) {
  public WithoutJoin {
    along = List.copyOf(along);
    conditions = List.copyOf(conditions);
    uses = List.copyOf(uses);
  }
}
