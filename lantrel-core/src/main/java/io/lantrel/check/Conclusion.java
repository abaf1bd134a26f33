package io.lantrel.check;

import io.lantrel.sql.Edit;
import java.util.List;
import java.util.function.Supplier;

/**
 * What the answers to a suspicion amount to.
 *
 * @param severity how bad it is
 * @param message what happens to the rows, and what to do
 * @param evidence what shows it; asks the database for it, so it is taken only of what is told
 * @param repairs edits to try, the best first
 */
public record Conclusion(
    Severity severity, String message, Supplier<Evidence> evidence, List<List<Edit>> repairs) {
  public Conclusion {
    repairs = repairs.stream().map(List::copyOf).toList();
  }

  /** One whose evidence is known. */
  public Conclusion(
      Severity severity, String message, Evidence evidence, List<List<Edit>> repairs) {
    this(severity, message, () -> evidence, repairs);
  }
}
