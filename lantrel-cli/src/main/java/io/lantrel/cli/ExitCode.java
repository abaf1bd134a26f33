package io.lantrel.cli;

/** What a command tells the program that called it. */
final class ExitCode {

  /** Nothing at or above the severity of {@code --fail-on}. */
  static final int FINE = 0;

  /** Findings at or above it. */
  static final int FINDINGS = 1;

  /** The command was called wrongly. */
  static final int USAGE = 2;

  /** The data or the database did not let it run. */
  static final int COULD_NOT_RUN = 3;

  private ExitCode() {}
}
