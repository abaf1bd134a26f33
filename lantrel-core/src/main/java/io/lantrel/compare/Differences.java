package io.lantrel.compare;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * The rows in which two results differ.
 *
 * @param headings of the columns, as the first result has them
 * @param key positions, from 0, of the columns by which rows were paired; empty if none were
 * @param onlyFirst how many rows are only in the first, as often as they come; those of changed
 *     rows are not among them
 * @param onlySecond the same for the second
 * @param changed how many rows of one key have other values
 * @param lone rows that only one of them has, or has more often; some of them if there are many
 * @param changes rows of one key with other values; some of them if there are many
 * @param counted whether the figures hold; if not, there are at least so many: too many rows differ
 *     to pair all of them
 */
public record Differences(
    List<String> headings,
    List<Integer> key,
    long onlyFirst,
    long onlySecond,
    long changed,
    List<LoneRow> lone,
    List<Change> changes,
    boolean counted) {

  public Differences {
    headings = List.copyOf(headings);
    key = List.copyOf(key);
    lone = List.copyOf(lone);
    changes = List.copyOf(changes);
  }

  /**
   * A row that comes more often in one of the two.
   *
   * @param values its values, null for NULL
   * @param first how often it comes in the first
   * @param second how often in the second
   */
  public record LoneRow(List<@Nullable Object> values, long first, long second) {
    public LoneRow {
      values = copy(values);
    }
  }

  /**
   * Two rows of one key that differ elsewhere.
   *
   * @param first the row of the first result
   * @param second that of the second
   * @param cells positions of the columns that differ, from 0
   */
  public record Change(
      List<@Nullable Object> first, List<@Nullable Object> second, List<Integer> cells) {
    public Change {
      first = copy(first);
      second = copy(second);
      cells = List.copyOf(cells);
    }
  }

  /** Whether rows beyond those shown differ as well. */
  public boolean hasMore() {
    return !counted
        || onlyFirst > lone.stream().mapToLong(row -> Math.max(0, row.first() - row.second())).sum()
        || onlySecond
            > lone.stream().mapToLong(row -> Math.max(0, row.second() - row.first())).sum()
        || changed > changes.size();
  }

  private static List<@Nullable Object> copy(List<@Nullable Object> values) {
    return Collections.unmodifiableList(new ArrayList<>(values));
  }
}
