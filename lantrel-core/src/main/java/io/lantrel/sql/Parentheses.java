package io.lantrel.sql;

/** Parentheses around an alternative that is put beside other conditions with AND. */
public final class Parentheses {

  private Parentheses() {}

  /** The text in parentheses, unless one pair stands around all of it. Too many do no harm. */
  public static String around(String text) {
    return isEnclosed(text.strip()) ? text : "(" + text + ")";
  }

  private static boolean isEnclosed(String text) {
    if (!text.startsWith("(") || !text.matches("[^'\"`]*")) {
      return false;
    }
    int depth = 0;
    for (int i = 0; i < text.length(); i++) {
      depth += text.charAt(i) == '(' ? 1 : text.charAt(i) == ')' ? -1 : 0;
      if (depth == 0) {
        return i == text.length() - 1;
      }
    }
    return false;
  }
}
