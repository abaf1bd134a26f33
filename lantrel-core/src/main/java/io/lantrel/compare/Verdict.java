package io.lantrel.compare;

/** What a comparison came to. */
public enum Verdict {
  /** The same rows on any data that keep the constraints. */
  SAME("same"),
  /** The same rows on the data at hand. */
  SAME_HERE("same-here"),
  /** Other rows, or the same in another order where both have one. */
  DIFFERENT("different"),
  /** One of the two could not be run or read. */
  UNDECIDED("undecided");

  private final String id;

  Verdict(String id) {
    this.id = id;
  }

  /** Its name for programs. */
  public String id() {
    return id;
  }

  /** Whether the rows are the same here. */
  public boolean isSame() {
    return this == SAME || this == SAME_HERE;
  }
}
