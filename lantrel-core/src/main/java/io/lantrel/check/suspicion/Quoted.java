package io.lantrel.check.suspicion;

import java.util.Objects;
import org.jspecify.annotations.Nullable;

/** A value of the database as a sentence shows it: in quotation marks, and not at any length. */
public final class Quoted {

  /** Characters of a value that are shown. */
  private static final int LONGEST = 60;

  private Quoted() {}

  public static String text(@Nullable Object value) {
    return "'" + cut(Objects.toString(value)).replace("'", "''") + "'";
  }

  /** At most its first characters. */
  public static String cut(String value) {
    return value.codePointCount(0, value.length()) <= LONGEST
        ? value
        : value.substring(0, value.offsetByCodePoints(0, LONGEST)) + "…";
  }
}
