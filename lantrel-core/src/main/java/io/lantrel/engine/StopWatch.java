package io.lantrel.engine;

import io.lantrel.engine.Session.Work;
import java.sql.SQLException;
import java.sql.SQLTimeoutException;
import java.sql.Statement;
import java.time.Duration;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.ScheduledFuture;
import java.util.concurrent.TimeUnit;
import org.jspecify.annotations.Nullable;

/**
 * Stops a statement that runs too long, or when it is told to. Drivers have time limits too, but
 * one ignores them, and none looks at its own while rows are fetched that have already come.
 */
final class StopWatch implements AutoCloseable {

  private static final Duration GRACE = Duration.ofSeconds(5);

  private final Duration limit;
  private final Duration patience;
  private @Nullable ScheduledExecutorService clock;
  private volatile @Nullable Statement running;
  private volatile boolean stopped;
  private volatile boolean cancelled;
  private long deadline;

  /**
   * @param second whether something else holds the limit, so that this is only for when it fails
   */
  StopWatch(Duration limit, boolean second) {
    this.limit = limit;
    this.patience = second ? limit.plus(GRACE) : limit;
  }

  Duration limit() {
    return limit;
  }

  /** Forgets that earlier work was stopped. */
  void reset() {
    stopped = false;
  }

  /**
   * Does work under the time limit.
   *
   * @param statement what to stop; null if nothing can be
   */
  <T> T limit(@Nullable Statement statement, Work<T> work) throws SQLException {
    deadline = System.nanoTime() + patience.toNanos();
    running = statement;
    ScheduledFuture<?> alarm =
        statement == null
            ? null
            : clock().schedule(this::stop, patience.toMillis(), TimeUnit.MILLISECONDS);
    try {
      return work.run();
    } finally {
      running = null;
      if (alarm != null) {
        alarm.cancel(false);
      }
    }
  }

  private ScheduledExecutorService clock() {
    if (clock == null) {
      clock =
          Executors.newSingleThreadScheduledExecutor(
              task -> {
                Thread thread = new Thread(task, "lantrel-clock");
                thread.setDaemon(true);
                return thread;
              });
    }
    return clock;
  }

  private void stop() {
    stopped = true;
    stopRunning();
  }

  private void stopRunning() {
    Statement statement = running;
    if (statement == null) {
      return;
    }
    try {
      statement.cancel();
    } catch (SQLException failure) {
      // The statement ended in the same moment, or the connection is gone: the thread that waits
      // for it gets that failure itself.
      running = null;
    }
  }

  /**
   * Between rows.
   *
   * @throws SQLTimeoutException if the time is over
   */
  void check() throws SQLTimeoutException {
    if (cancelled || System.nanoTime() - deadline > 0) {
      stopped = true;
      throw new SQLTimeoutException("stopped");
    }
  }

  /** Stops what runs, from another thread, for good. */
  void cancel() {
    cancelled = true;
    stopRunning();
  }

  boolean isCancelled() {
    return cancelled;
  }

  /** Whether the last work was stopped because its time was over. */
  boolean hasStopped() {
    return stopped;
  }

  String limitInWords() {
    long seconds = limit.toSeconds();
    return seconds == 1 ? "1 second" : seconds + " seconds";
  }

  @Override
  public void close() {
    if (clock != null) {
      clock.shutdownNow();
    }
  }
}
