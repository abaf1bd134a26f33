package io.lantrel.check;

import io.lantrel.sql.tree.Span;
import java.util.Optional;

/**
 * One thing wrong or risky in a query.
 *
 * @param kind which mistake it is
 * @param severity how bad it is
 * @param message what happens to the rows, in the user's own names, and what to do
 * @param place the characters to look at
 * @param evidence what shows it
 * @param repair what mends it, tried; empty if nothing is known that holds
 */
public record Finding(
    Kind kind,
    Severity severity,
    String message,
    Span place,
    Evidence evidence,
    Optional<Repair> repair) {

  /** The same with another severity. */
  Finding as(Severity other) {
    return new Finding(kind, other, message, place, evidence, repair);
  }
}
