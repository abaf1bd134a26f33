package io.lantrel.engine;

import io.lantrel.engine.Session.Work;
import java.sql.SQLException;
import java.sql.SQLTimeoutException;
import java.sql.Statement;
import java.time.Duration;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.ScheduledFuture;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import org.jspecify.annotations.Nullable;

/**
 * Stops a statement that runs too long, or when it is told to. Drivers have time limits too, but
 * one ignores them, and none looks at its own while rows are fetched that have already come.
 */
final class TimeLimit implements AutoCloseable {

  /** How much later than the driver's own limit this one strikes. */
  private static final Duration GRACE = Duration.ofSeconds(1);

  private final Duration grace;
  private @Nullable ScheduledExecutorService clock;
  private volatile @Nullable Statement running;
  private volatile boolean stopped;
  private volatile boolean cancelled;
  private volatile long deadline;

  /**
   * @param second whether something else holds the limit, so that this is only for when it fails
   */
  TimeLimit(boolean second) {
    this.grace = second ? GRACE : Duration.ZERO;
  }

  /** Forgets that earlier work was stopped. */
  void reset() {
    stopped = false;
  }

  /** Does work under a time limit; what is to be stopped is told by {@link #watch}. */
  <T> T within(Duration limit, Work<T> work) throws SQLException {
    Duration patience = limit.plus(grace);
    deadline = System.nanoTime() + patience.toNanos();
    ScheduledFuture<?> alarm =
        clock().schedule(this::stop, patience.toMillis(), TimeUnit.MILLISECONDS);
    try {
      return work.run();
    } finally {
      running = null;
      alarm.cancel(false);
    }
  }

  /** The statement that now runs. */
  void watch(Statement statement) {
    running = statement;
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

  /**
   * Stops what runs, from another thread, for good. A server that hangs must not hold the caller.
   */
  void cancel() {
    cancelled = true;
    if (clock == null || clock.isShutdown()) {
      return;
    }
    try {
      clock().submit(this::stopRunning).get(GRACE.toMillis(), TimeUnit.MILLISECONDS);
    } catch (InterruptedException interrupted) {
      Thread.currentThread().interrupt();
    } catch (ExecutionException | TimeoutException silent) {
      // Told as often as it will hear: whoever waits for the answer leaves, too.
      running = null;
    }
  }

  boolean isCancelled() {
    return cancelled;
  }

  /** Whether the last work was stopped because its time was over. */
  boolean hasStopped() {
    return stopped;
  }

  @Override
  public void close() {
    if (clock != null) {
      clock.shutdownNow();
    }
  }
}
