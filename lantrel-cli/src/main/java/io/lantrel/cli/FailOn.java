package io.lantrel.cli;

import io.lantrel.check.Severity;
import org.jspecify.annotations.Nullable;

/** From which severity on findings fail the command; the names are those that a user types. */
enum FailOn {
  note(Severity.NOTE),
  warning(Severity.WARNING),
  error(Severity.ERROR),
  none(null);

  private final @Nullable Severity least;

  FailOn(@Nullable Severity least) {
    this.least = least;
  }

  /** The least severity that fails; null if none does. */
  @Nullable Severity least() {
    return least;
  }

  boolean concerns(Severity severity) {
    return least != null && severity.compareTo(least) >= 0;
  }
}
