package io.lantrel.cli;

import io.lantrel.check.Severity;

/** From which severity on findings fail the command; the names are those that a user types. */
enum FailOn {
  note(Severity.NOTE),
  warning(Severity.WARNING),
  error(Severity.ERROR);

  private final Severity least;

  FailOn(Severity least) {
    this.least = least;
  }

  boolean concerns(Severity severity) {
    return severity.compareTo(least) >= 0;
  }
}
