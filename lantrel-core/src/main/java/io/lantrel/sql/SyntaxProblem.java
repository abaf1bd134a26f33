package io.lantrel.sql;

import io.lantrel.sql.tree.Span;
import java.util.List;

/**
 * Where a text stopped being SQL.
 *
 * @param place the characters that do not fit; empty at the end of a statement
 * @param message what was found and what could stand there, as a sentence
 * @param guesses changes that might mend it, the likeliest first
 * @param isSlip whether the first of these is known to mend it, or the text is certainly wrong;
 *     else it may as well be beyond what is read
 */
public record SyntaxProblem(Span place, String message, List<Edit> guesses, boolean isSlip) {
  public SyntaxProblem {
    guesses = List.copyOf(guesses);
  }

  /** One that is not known to be a slip. */
  public SyntaxProblem(Span place, String message, List<Edit> guesses) {
    this(place, message, guesses, false);
  }

  /** The same, known to be wrong. */
  SyntaxProblem asMended() {
    return new SyntaxProblem(place, message, guesses, true);
  }

  /** The same in a longer text. */
  SyntaxProblem movedBy(int offset) {
    return new SyntaxProblem(
        moved(place, offset),
        message,
        guesses.stream().map(each -> new Edit(moved(each.span(), offset), each.text())).toList(),
        isSlip);
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
    Span place = place();
    if (guess.span().length() > 0 && !guess.text().isEmpty()) {
      place = guess.span();
    } else if (guess.span().length() == 0) {
      place = wordAt(text, guess.span().start());
    }
    String said =
        place.equals(place())
            ? message
            : "found "
                + text.substring(place.start(), place.end())
                + "; expected "
                + guess.text().strip();
    return new SyntaxProblem(place, said, List.of(guess), sure);
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
