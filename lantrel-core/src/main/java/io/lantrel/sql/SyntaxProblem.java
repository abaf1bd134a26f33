package io.lantrel.sql;

import io.lantrel.sql.tree.Span;
import java.util.List;

/**
 * Where a text stopped being SQL.
 *
 * @param place the characters that do not fit; empty at the end of a statement
 * @param message what was found and what could stand there, as a sentence
 * @param guesses changes that might mend it, the likeliest first; none has been tried
 */
public record SyntaxProblem(Span place, String message, List<Edit> guesses) {
  public SyntaxProblem {
    guesses = List.copyOf(guesses);
  }

  /**
   * The same problem, now that one guess is known to make the statement readable: a word changed is
   * the place itself, and so is the word before which something is missing.
   */
  SyntaxProblem mendedBy(Edit guess, String text) {
    Span place = place();
    if (guess.span().length() > 0 && !guess.text().isEmpty()) {
      place = guess.span();
    } else if (guess.span().length() == 0) {
      place = wordAt(text, guess.span().start());
    }
    String said =
        place.equals(place())
            ? message
            : "found " + text.substring(place.start(), place.end()) + "; expected " + guess.text();
    return new SyntaxProblem(place, said, List.of(guess));
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
