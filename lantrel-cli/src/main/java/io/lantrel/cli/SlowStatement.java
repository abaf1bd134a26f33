package io.lantrel.cli;

import io.lantrel.engine.DatabaseException;
import io.lantrel.engine.SentStatement;
import io.lantrel.engine.StatementWatcher;
import java.time.Duration;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.ScheduledFuture;
import java.util.concurrent.TimeUnit;
import org.jspecify.annotations.Nullable;

/** Says on a terminal what the database is at work on, once a statement takes long. */
final class SlowStatement implements StatementWatcher {

  private static final int PATIENCE_SECONDS = 2;

  private final StatusLine line;
  private final ScheduledExecutorService clock =
      Executors.newSingleThreadScheduledExecutor(
          task -> {
            Thread thread = new Thread(task, "lantrel-status");
            thread.setDaemon(true);
            return thread;
          });

  private @Nullable ScheduledFuture<?> telling;
  private boolean shown;

  SlowStatement(StatusLine line) {
    this.line = line;
  }

  @Override
  public synchronized void begins(SentStatement statement) {
    stop();
    long begun = System.nanoTime();
    telling =
        clock.scheduleAtFixedRate(
            () -> tell(statement, begun), PATIENCE_SECONDS, 1, TimeUnit.SECONDS);
  }

  private void stop() {
    if (telling != null) {
      telling.cancel(false);
      telling = null;
    }
  }

  private synchronized void tell(SentStatement statement, long begun) {
    // It may have ended while this waited for its turn.
    if (telling != null) {
      line.show(words(statement, Duration.ofNanos(System.nanoTime() - begun)));
      shown = true;
    }
  }

  /** The time first, since a terminal may be narrow. */
  static String words(SentStatement statement, Duration since) {
    String read = String.join(", ", statement.tables());
    return since.toSeconds()
        + " s for statement "
        + statement.number()
        + (read.isEmpty() ? "" : " over " + read)
        + " (Ctrl-C stops it)";
  }

  @Override
  public synchronized void ended(
      SentStatement statement, Duration took, @Nullable DatabaseException failure) {
    stop();
    if (shown) {
      line.close();
      shown = false;
    }
  }
}
