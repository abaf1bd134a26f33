package io.lantrel.check.kinds.conditions;

/** What is advised where texts mean the same and are not written alike. */
public final class WrittenAlike {

  private WrittenAlike() {}

  /** A value without the blanks at its ends and with all its letters small, as it is written. */
  public static String text(String value) {
    return "LOWER(TRIM(" + value + "))";
  }
}
