package io.lantrel.sql.tree;

/** The kinds of join (ISO/IEC 9075-2, 7.10), and the comma between two items of FROM. */
public enum JoinKind {
  COMMA(",", false, false),
  CROSS("CROSS JOIN", false, false),
  INNER("JOIN", false, false),
  LEFT("LEFT JOIN", true, false),
  RIGHT("RIGHT JOIN", false, true),
  FULL("FULL JOIN", true, true);

  private final String words;
  private final boolean keepsLeft;
  private final boolean keepsRight;

  JoinKind(String words, boolean keepsLeft, boolean keepsRight) {
    this.words = words;
    this.keepsLeft = keepsLeft;
    this.keepsRight = keepsRight;
  }

  /** How it is written. */
  public String words() {
    return words;
  }

  /** Whether rows of the left side stay without a partner. */
  public boolean keepsLeft() {
    return keepsLeft;
  }

  /** Whether rows of the right side stay without a partner. */
  public boolean keepsRight() {
    return keepsRight;
  }

  /** Whether one side is kept. */
  public boolean isOuter() {
    return keepsLeft || keepsRight;
  }
}
