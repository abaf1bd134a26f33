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

  /** The same problem, now that one guess is known to make the statement readable. */
  SyntaxProblem mendedBy(Edit guess, String replaced) {
    boolean wordForWord = guess.span().length() > 0 && !guess.text().isEmpty();
    return wordForWord
        ? new SyntaxProblem(
            guess.span(), "found " + replaced + "; expected " + guess.text(), List.of(guess))
        : new SyntaxProblem(place, message, List.of(guess));
  }
}
