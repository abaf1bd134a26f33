package io.lantrel.sql;

import io.lantrel.sql.tree.Span;
import org.antlr.v4.runtime.Token;
import org.jspecify.annotations.Nullable;

/** The lexer counts code points, a Java text UTF-16 units: this turns the one into the other. */
final class Offsets {

  private final int @Nullable [] units;

  private Offsets(int @Nullable [] units) {
    this.units = units;
  }

  static Offsets of(String text) {
    int points = text.codePointCount(0, text.length());
    if (points == text.length()) {
      return new Offsets(null);
    }
    int[] units = new int[points + 1];
    int at = 0;
    for (int point = 0; point < points; point++) {
      units[point] = at;
      at += Character.charCount(text.codePointAt(at));
    }
    units[points] = at;
    return new Offsets(units);
  }

  int of(int point) {
    return units == null ? point : units[point];
  }

  Span span(Token first, Token last) {
    return new Span(
        of(first.getStartIndex()), of(Math.max(first.getStartIndex(), last.getStopIndex() + 1)));
  }
}
