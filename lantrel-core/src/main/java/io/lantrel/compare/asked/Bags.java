package io.lantrel.compare.asked;

import java.util.List;

/**
 * Two results as bags: how many rows each has, and which come more often in one of them.
 *
 * @param first how many rows the first has
 * @param second how many the second has
 * @param onlyFirst how many rows are only in the first, as often as they come
 * @param onlySecond the same for the second
 * @param leftovers the rows that do not come equally often, at most {@value #MOST} of them
 */
record Bags(long first, long second, long onlyFirst, long onlySecond, List<Leftover> leftovers) {

  /** So many differing rows come out of a database at most. */
  static final int MOST = 10_000;

  Bags {
    leftovers = List.copyOf(leftovers);
  }

  boolean areEqual() {
    return onlyFirst == 0 && onlySecond == 0;
  }

  /** Whether all rows that differ are here. */
  boolean isWhole() {
    return leftovers.stream().mapToLong(Leftover::onlyFirst).sum() == onlyFirst
        && leftovers.stream().mapToLong(Leftover::onlySecond).sum() == onlySecond;
  }
}
