package io.lantrel.sql;

/** Blanks in the place of what is no SQL: every offset stays, and every line. */
final class Blanks {

  private Blanks() {}

  static void put(StringBuilder text, int start, int end) {
    for (int i = start; i < end; i++) {
      if (text.charAt(i) != '\n' && text.charAt(i) != '\r') {
        text.setCharAt(i, ' ');
      }
    }
  }
}
