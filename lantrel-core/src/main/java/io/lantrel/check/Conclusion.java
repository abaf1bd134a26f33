package io.lantrel.check;

import io.lantrel.sql.Edit;
import java.util.List;

/**
 * What the answers to a suspicion amount to.
 *
 * @param severity how bad it is
 * @param message what happens to the rows, and what to do
 * @param evidence what shows it
 * @param repairs edits to try, the best first
 */
public record Conclusion(
    Severity severity, String message, Evidence evidence, List<List<Edit>> repairs) {
  public Conclusion {
    repairs = repairs.stream().map(List::copyOf).toList();
  }
}
