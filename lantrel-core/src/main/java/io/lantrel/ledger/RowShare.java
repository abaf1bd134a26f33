package io.lantrel.ledger;

/** How many of many rows are looked at: so many, or such a part of them. */
public final class RowShare {

  private final long rows;
  private final double part;

  private RowShare(long rows, double part) {
    this.rows = rows;
    this.part = part;
  }

  /**
   * About so many rows.
   *
   * @throws IllegalArgumentException if it is less than 1
   */
  public static RowShare rows(long rows) {
    if (rows < 1) {
      throw new IllegalArgumentException("at least one row is looked at");
    }
    return new RowShare(rows, 0);
  }

  /**
   * About so many in a hundred.
   *
   * @throws IllegalArgumentException if it is not more than 0, or more than 100
   */
  public static RowShare percent(double percent) {
    if (!(percent > 0 && percent <= 100)) {
      throw new IllegalArgumentException("a share is more than 0 % and at most 100 %");
    }
    return new RowShare(0, percent / 100);
  }

  /**
   * Which part of a table that is, more than 0 and at most 1.
   *
   * @param all how many rows there are
   */
  public double of(long all) {
    if (rows == 0) {
      return part;
    }
    return rows >= all ? 1 : (double) rows / all;
  }
}
