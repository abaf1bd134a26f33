package io.lantrel.cli;

import io.lantrel.Lantrel;

/** Ctrl-C: what a database is at work on is stopped there as well, and not only here. */
final class Interrupt {

  private Interrupt() {}

  /** The same, stopped when the process is told to end. */
  static Lantrel stops(Lantrel lantrel) {
    Runtime.getRuntime().addShutdownHook(new Thread(lantrel::cancel, "lantrel-stop"));
    return lantrel;
  }
}
