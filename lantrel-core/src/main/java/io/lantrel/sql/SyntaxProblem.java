package io.lantrel.sql;

import io.lantrel.sql.tree.Span;
import java.util.List;
import java.util.Locale;

/**
 * Where a text stopped being SQL.
 *
 * @param place the characters that do not fit; empty at the end of a statement
 * @param message what was found and what could stand there, as a sentence
 * @param guesses changes that might mend it, the likeliest first
 * @param cause why reading stopped
 */
public record SyntaxProblem(Span place, String message, List<Edit> guesses, Cause cause) {
  public SyntaxProblem {
    guesses = List.copyOf(guesses);
  }

  /** Why reading stopped. */
  public enum Cause {
    /** A slip of the pen: its first guess is known to mend it, or the text is certainly wrong. */
    SLIP,
    /** The statement is longer or deeper than Lantrel reads. */
    LIMIT,
    /** It may be wrong, or some product's own. */
    UNKNOWN
  }

  /** What stands for the condition of a join where it is missing, until a better one is known. */
  public static final String ANY_CONDITION = " ON TRUE";

  /** One of an unknown cause. */
  public SyntaxProblem(Span place, String message, List<Edit> guesses) {
    this(place, message, guesses, Cause.UNKNOWN);
  }

  static SyntaxProblem limit(Span place, String message) {
    return new SyntaxProblem(place, message, List.of(), Cause.LIMIT);
  }

  /** Whether it is certainly wrong. */
  public boolean isSlip() {
    return cause == Cause.SLIP;
  }

  /** The same, known to be wrong. */
  SyntaxProblem asMended() {
    return new SyntaxProblem(place, message, guesses, Cause.SLIP);
  }

  /** The same in a longer text. */
  SyntaxProblem movedBy(int offset) {
    return new SyntaxProblem(
        moved(place, offset),
        message,
        guesses.stream().map(each -> new Edit(moved(each.span(), offset), each.text())).toList(),
        cause);
  }

  /** The same in the text before a change further to the left. */
  SyntaxProblem before(Edit earlier) {
    return movedBy(earlier.span().length() - earlier.text().length());
  }

  private static Span moved(Span span, int by) {
    return new Span(Math.max(0, span.start() + by), Math.max(0, span.end() + by));
  }

  /**
   * The same problem, now that one guess is known to make the statement readable: a word changed is
   * the place itself, and so is the word before which something is missing.
   */
  SyntaxProblem mendedBy(Edit guess, String text, boolean sure) {
    Span where = place;
    boolean changed = guess.span().length() > 0 && !guess.text().isEmpty();
    if (changed) {
      where = guess.span();
    } else if (guess.span().length() == 0) {
      where = wordAt(text, guess.span().start());
    }
    String found = text.substring(where.start(), where.end());
    String said = message;
    boolean parenthesis = message.startsWith("this parenthesis");
    if (parenthesis || guess.text().equals(ANY_CONDITION)) {
      return new SyntaxProblem(
          parenthesis ? place : where, message, List.of(guess), sure ? Cause.SLIP : cause);
    }
    if (guess.text().equals("\"" + found + "\"")) {
      said = found.toUpperCase(Locale.ROOT) + " is a word of SQL; in quotes it can be a name";
    } else if (changed || !where.equals(place)) {
      said =
          "found "
              + found
              + "; expected "
              + (guess.text().equals(",") ? "a comma" : guess.text().strip());
    }
    return new SyntaxProblem(where, said, List.of(guess), sure ? Cause.SLIP : cause);
  }

  private Span wordAt(String text, int offset) {
    int start = offset;
    while (start < text.length() && Character.isWhitespace(text.charAt(start))) {
      start++;
    }
    int end = start;
    while (end < text.length() && Character.isJavaIdentifierPart(text.charAt(end))) {
      end++;
    }
    return end > start && start < place.start() ? new Span(start, end) : place;
  }
}
