package io.lantrel.compare;

import java.math.BigDecimal;
import java.util.List;

/**
 * How two results are compared.
 *
 * @param key headings of the columns by which a row of the one is known again in the other; empty
 *     to take a key that the queries have, or else columns whose values do not repeat
 * @param tolerance so much may two numbers differ and yet be the same; 0 for not at all
 * @param ordered whether the order counts where both have one
 * @param rowsAlone whether the rows are compared without a look for a proof
 * @param shown how many rows are shown at most that only one of the two has, of each, and how many
 *     that have other values
 * @param first what the first is called in sentences
 * @param second what the second is called
 */
public record CompareOptions(
    List<String> key,
    BigDecimal tolerance,
    boolean ordered,
    boolean rowsAlone,
    int shown,
    String first,
    String second) {

  /** No key, no tolerance, in order, 20 rows. */
  public static final CompareOptions USUAL =
      new CompareOptions(List.of(), BigDecimal.ZERO, true, false, 20, "the first", "the second");

  /**
   * @throws IllegalArgumentException if the tolerance or the number of rows is below 0
   */
  public CompareOptions {
    key = List.copyOf(key);
    if (tolerance.signum() < 0) {
      throw new IllegalArgumentException("a tolerance is a number from 0 on, not " + tolerance);
    }
    if (shown < 0) {
      throw new IllegalArgumentException("rows are shown from 0 on, not " + shown);
    }
  }

  /** The same with a key. */
  public CompareOptions by(List<String> columns) {
    return new CompareOptions(columns, tolerance, ordered, rowsAlone, shown, first, second);
  }

  /** The same with a tolerance for numbers. */
  public CompareOptions within(BigDecimal difference) {
    return new CompareOptions(key, difference, ordered, rowsAlone, shown, first, second);
  }

  /** The same without regard to the order of the rows. */
  public CompareOptions inAnyOrder() {
    return new CompareOptions(key, tolerance, false, rowsAlone, shown, first, second);
  }

  /** The same by the rows at hand, whatever could be proven of any. */
  public CompareOptions byRowsAlone() {
    return new CompareOptions(key, tolerance, ordered, true, shown, first, second);
  }

  /** The same with so many rows shown at most. */
  public CompareOptions showing(int rows) {
    return new CompareOptions(key, tolerance, ordered, rowsAlone, rows, first, second);
  }

  /** The same with names for the two, as those of their files. */
  public CompareOptions called(String one, String other) {
    return new CompareOptions(key, tolerance, ordered, rowsAlone, shown, one, other);
  }
}
