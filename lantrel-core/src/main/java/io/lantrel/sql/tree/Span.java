package io.lantrel.sql.tree;

/**
 * A stretch of a text: half-open offsets in characters (UTF-16 units), counted from 0.
 *
 * @param start offset of the first character
 * @param end offset behind the last character, at least {@code start}
 */
public record Span(int start, int end) {

  /** The place of everything that Lantrel writes itself: it stands in nobody's text. */
  public static final Span NOWHERE = new Span(0, 0);

  /**
   * @throws IllegalArgumentException if the offsets are negative or the wrong way round
   */
  public Span {
    if (start < 0 || end < start) {
      throw new IllegalArgumentException("not a span: " + start + " to " + end);
    }
  }

  /** Whether this is the place of nothing that was written. */
  public boolean isNowhere() {
    return end == 0;
  }

  /** Whether it is the same stretch. */
  public boolean isSame(Span other) {
    return start == other.start && end == other.end;
  }

  /** Number of characters. */
  public int length() {
    return end - start;
  }

  /** The smallest span that holds this one and the other. */
  public Span to(Span other) {
    return new Span(Math.min(start, other.start), Math.max(end, other.end));
  }

  /** Whether the other span lies within this one. */
  public boolean contains(Span other) {
    return start <= other.start && other.end <= end;
  }

  /** What stands between two spans, the earlier one first. */
  public static Span between(Span first, Span second) {
    int from = first.end();
    int to = second.start();
    return new Span(from, to);
  }
}
