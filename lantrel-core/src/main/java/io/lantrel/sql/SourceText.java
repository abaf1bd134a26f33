package io.lantrel.sql;

import io.lantrel.sql.tree.Span;
import java.util.Arrays;

/** A text, and the one place where its offsets become lines and columns. */
public final class SourceText {

  private final String text;
  private final int[] lineStarts;

  public SourceText(String text) {
    this.text = text;
    this.lineStarts = lineStarts(text);
  }

  /** The whole text. */
  public String text() {
    return text;
  }

  /** The characters of a span. */
  public String at(Span span) {
    return text.substring(span.start(), span.end());
  }

  /** A span as a place with lines and columns. */
  public Place place(Span span) {
    int line = line(span.start());
    int endLine = line(span.end());
    return new Place(
        span.start(),
        span.length(),
        line,
        span.start() - lineStarts[line - 1] + 1,
        endLine,
        span.end() - lineStarts[endLine - 1] + 1);
  }

  /** The line of an offset, from 1. */
  public int line(int offset) {
    int found = Arrays.binarySearch(lineStarts, offset);
    return found >= 0 ? found + 1 : -found - 1;
  }

  /**
   * The characters of a line, without its end.
   *
   * @param line from 1
   */
  public String lineText(int line) {
    int end = line < lineStarts.length ? lineStarts[line] : text.length();
    return text.substring(lineStarts[line - 1], end).stripTrailing();
  }

  private static int[] lineStarts(String text) {
    int[] starts = new int[16];
    int count = 1;
    for (int i = 0; i < text.length(); i++) {
      char c = text.charAt(i);
      boolean alone = i + 1 == text.length() || text.charAt(i + 1) != '\n';
      boolean ends = c == '\n' || (c == '\r' && alone);
      if (ends) {
        if (count == starts.length) {
          starts = Arrays.copyOf(starts, count * 2);
        }
        starts[count++] = i + 1;
      }
    }
    return Arrays.copyOf(starts, count);
  }
}
