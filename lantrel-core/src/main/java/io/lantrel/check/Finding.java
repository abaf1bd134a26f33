package io.lantrel.check;

import io.lantrel.sql.tree.Span;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * One thing wrong or risky in a query.
 *
 * @param kind which mistake it is
 * @param severity how bad it is
 * @param message what happens to the rows, in the user's own names, and what to do
 * @param place the characters to look at
 * @param evidence what shows it
 * @param tried the repair; null if there is none that was tried and holds
 */
public record Finding(
    Kind kind,
    Severity severity,
    String message,
    Span place,
    Evidence evidence,
    @Nullable Repair tried) {

  /** The repair, if there is one that was tried and holds. */
  public Optional<Repair> repair() {
    return Optional.ofNullable(tried);
  }
}
