package io.lantrel.sample;

import java.util.List;
import java.util.Set;

/**
 * How much of a database is drawn, and what of it is masked.
 *
 * @param rows how many rows there are in all at most, at least 1
 * @param seed which rows are taken where any would do: the same seed takes the same ones
 * @param masked columns whose values are replaced, as {@code station.name}, {@code station.*} or
 *     {@code name}; {@code *} stands for any characters
 * @param kept what the values in their place have in common with them
 */
public record SampleWish(int rows, long seed, List<String> masked, Set<Likeness> kept) {

  /** How many rows, if nothing else is asked for. */
  public static final int ROWS = 300;

  public SampleWish {
    if (rows < 1) {
      throw new IllegalArgumentException("a sample has a row at least, not " + rows);
    }
    masked = List.copyOf(masked);
    kept = Set.copyOf(kept);
  }

  /** What a masked value can have in common with the one that it stands for. */
  public enum Likeness {
    /** What came first comes first. */
    ORDER,
    /** A text is as long as it was, a number has as many digits. */
    LENGTH
  }

  /** {@value #ROWS} rows, nothing masked. */
  public static SampleWish usual() {
    return new SampleWish(ROWS, 1, List.of(), Set.of());
  }

  /** The same with so many rows at most. */
  public SampleWish ofRows(int most) {
    return new SampleWish(most, seed, masked, kept);
  }

  /** The same with other rows where any would do. */
  public SampleWish seeded(long other) {
    return new SampleWish(rows, other, masked, kept);
  }

  /**
   * The same with columns masked.
   *
   * @param columns as {@code station.name}, {@code station.*} or {@code name}
   * @param likeness what the values keep
   */
  public SampleWish masking(List<String> columns, Set<Likeness> likeness) {
    return new SampleWish(rows, seed, columns, likeness);
  }
}
