package io.lantrel.sql;

import io.lantrel.sql.tree.Span;
import java.util.Comparator;
import java.util.List;

/**
 * One change of a text: the characters of a span give way to others.
 *
 * @param span what goes; empty for an insertion
 * @param text what comes
 */
public record Edit(Span span, String text) {

  /** Puts a text at an offset. */
  public static Edit insert(int offset, String text) {
    return new Edit(new Span(offset, offset), text);
  }

  /** Takes the first and the last character of a place away: its parentheses. */
  public static List<Edit> withoutParentheses(Span span) {
    return List.of(
        new Edit(new Span(span.start(), span.start() + 1), ""),
        new Edit(new Span(span.end() - 1, span.end()), ""));
  }

  /** The same, so many characters further on. */
  public Edit shifted(int by) {
    return new Edit(new Span(span.start() + by, span.end() + by), text);
  }

  /** Where a place of a text is once edits are made; what they replaced is where they put it. */
  public static Span moved(Span place, List<Edit> edits) {
    int start = place.start();
    int end = place.end();
    for (Edit edit : edits) {
      int longer = edit.text().length() - edit.span().length();
      if (edit.span().end() <= place.start() && edit.span().start() < place.start()) {
        start += longer;
        end += longer;
      } else if (edit.span().start() < place.end() || edit.span().isSame(place)) {
        end += longer;
      }
    }
    return new Span(Math.min(start, Math.max(start, end)), Math.max(start, end));
  }

  /** Whether no two of them touch the same place. */
  public static boolean areApart(List<Edit> edits) {
    List<Span> spans =
        edits.stream().map(Edit::span).sorted(Comparator.comparingInt(Span::start)).toList();
    for (int i = 1; i < spans.size(); i++) {
      Span before = spans.get(i - 1);
      if (spans.get(i).start() < before.end() || spans.get(i).start() == before.start()) {
        return false;
      }
    }
    return true;
  }

  /** Whether two of them change the same characters, so that they cannot be made together. */
  public static boolean overlap(List<Edit> edits) {
    List<Span> spans =
        edits.stream().map(Edit::span).sorted(Comparator.comparingInt(Span::start)).toList();
    int done = 0;
    for (Span span : spans) {
      if (span.start() < done) {
        return true;
      }
      done = span.end();
    }
    return false;
  }

  /**
   * Applies edits that do not overlap, in whatever order they are given.
   *
   * @throws IllegalArgumentException if two of them overlap
   */
  public static String apply(String source, List<Edit> edits) {
    List<Edit> sorted =
        edits.stream().sorted(Comparator.comparingInt(edit -> edit.span().start())).toList();
    StringBuilder changed = new StringBuilder();
    int done = 0;
    for (Edit edit : sorted) {
      if (edit.span().start() < done) {
        throw new IllegalArgumentException("edits overlap at offset " + edit.span().start());
      }
      changed.append(source, done, edit.span().start()).append(edit.text());
      done = edit.span().end();
    }
    return changed.append(source, done, source.length()).toString();
  }
}
