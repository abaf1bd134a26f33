package io.lantrel.ledger;

import java.util.List;
import java.util.OptionalLong;

/**
 * What a query would give if one of its joins were of another kind.
 *
 * @param step which step, as the account numbers them: the first table is step 1
 * @param words the join as it is written
 * @param instead the words of the other kind, as {@code LEFT JOIN}
 * @param rows how many rows there are behind the step now
 * @param come which rows would come at the step; empty figures are left out
 * @param go which rows would go
 * @param result how many rows the query gives now
 * @param other how many it would give; empty if that is not known
 * @param refusal why it cannot be of that kind, as a sentence without its stop; empty if it can
 */
public record OtherJoin(
    int step,
    String words,
    String instead,
    long rows,
    List<Change> come,
    List<Change> go,
    long result,
    OptionalLong other,
    String refusal) {
  public OtherJoin {
    come = List.copyOf(come);
    go = List.copyOf(go);
  }

  /** How many rows there would be behind the step. */
  public long otherRows() {
    return rows + sum(come) - sum(go);
  }

  private static long sum(List<Change> changes) {
    return changes.stream().mapToLong(Change::rows).sum();
  }
}
