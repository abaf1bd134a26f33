package io.lantrel.check;

import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * What was found about one statement.
 *
 * @param understood whether Lantrel could read it; if not, nothing was checked
 * @param findings in the order of the text
 * @param refused why it is not run, although Lantrel finds no error: the database would not, or it
 *     uses what is not known to only compute; null if it is
 * @param unchecked what was not checked, and why
 */
public record Inspection(
    boolean understood, List<Finding> findings, @Nullable String refused, List<String> unchecked) {
  public Inspection {
    findings = List.copyOf(findings);
    unchecked = List.copyOf(unchecked);
  }

  /** Why a statement in which Lantrel finds no error is not run. */
  public Optional<String> refusal() {
    return Optional.ofNullable(refused);
  }

  static Inspection of(List<Finding> findings) {
    return new Inspection(true, findings, null, List.of());
  }
}
