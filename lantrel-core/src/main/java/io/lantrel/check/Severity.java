package io.lantrel.check;

import java.util.Locale;

/** How bad a finding is, from the mildest on. */
public enum Severity {
  /** Worth knowing; nothing is certainly wrong, and no row shows harm. */
  NOTE,
  /** Rows of the sample show harm, or the structure of the query allows it. */
  WARNING,
  /** The database refuses the query, or its result is certainly not what it says. */
  ERROR;

  /** The name in output and files, as {@code warning}. */
  public String id() {
    return name().toLowerCase(Locale.ROOT);
  }
}
