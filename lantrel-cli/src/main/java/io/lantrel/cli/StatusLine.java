package io.lantrel.cli;

import io.lantrel.report.Visible;
import java.io.PrintWriter;

/** One line on a terminal that says what is being done, and that is gone when it is done. */
final class StatusLine implements AutoCloseable {

  private static final int WIDTH = 70;

  private final PrintWriter out;
  private final boolean shown;

  private StatusLine(PrintWriter out, boolean shown) {
    this.out = out;
    this.shown = shown;
  }

  /** Where nobody watches, nothing is written. */
  @SuppressWarnings("SystemConsoleNull") // the launcher asks newer Javas for the console of old
  static StatusLine onTerminal(PrintWriter out) {
    return new StatusLine(out, System.console() != null);
  }

  /** Whether somebody watches. */
  boolean isShown() {
    return shown;
  }

  void show(String doing) {
    if (shown) {
      String line = Visible.line(doing);
      String cut = line.length() > WIDTH ? line.substring(0, WIDTH) : line;
      out.print(Visible.lineStart() + cut + " ".repeat(WIDTH - cut.length()));
      out.flush();
    }
  }

  @Override
  public void close() {
    if (shown) {
      out.print(Visible.lineStart() + " ".repeat(WIDTH) + Visible.lineStart());
      out.flush();
    }
  }
}
