package io.lantrel.engine;

import io.lantrel.engine.Session.Work;
import java.sql.SQLException;
import java.time.Duration;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import java.util.function.BooleanSupplier;
import org.jspecify.annotations.Nullable;

/**
 * The thread on which a database works. Its stack is large, since a deep plan would overflow that
 * of an embedded engine and end the process; and who waits for it can leave, when a server neither
 * answers nor lets itself be stopped.
 */
final class EngineThread implements AutoCloseable {

  /** Only reserved: what is not used takes no memory. */
  private static final long STACK_BYTES = 1L << 29;

  private static final Duration POLL = Duration.ofMillis(200);

  private final ExecutorService thread =
      Executors.newSingleThreadExecutor(
          task -> {
            Thread large = new Thread(null, task, "lantrel-engine", STACK_BYTES);
            large.setDaemon(true);
            return large;
          });

  /** The work did not come to an end and was left alone. */
  static final class LeftAloneException extends SQLException {
    private static final long serialVersionUID = 1L;

    LeftAloneException() {
      super("it did not answer");
    }
  }

  /**
   * Does work there.
   *
   * @param patience how long it is waited for
   * @param hurried whether it was told to stop, so that it is not waited for much longer
   * @throws LeftAloneException if it took longer
   */
  <T> T call(Work<T> work, Duration patience, BooleanSupplier hurried) throws SQLException {
    Future<T> answer = thread.submit(work::run);
    long end = System.nanoTime() + patience.toNanos();
    int hurry = 0;
    try {
      while (true) {
        try {
          return answer.get(POLL.toMillis(), TimeUnit.MILLISECONDS);
        } catch (TimeoutException notYet) {
          hurry += hurried.getAsBoolean() ? 1 : 0;
          if (System.nanoTime() - end > 0 || hurry > 5) {
            throw new LeftAloneException();
          }
        }
      }
    } catch (InterruptedException interrupted) {
      Thread.currentThread().interrupt();
      throw new LeftAloneException();
    } catch (ExecutionException failure) {
      throw asItWas(failure.getCause());
    }
  }

  /** Too much for the engine is no end of the program. */
  private static SQLException asItWas(@Nullable Throwable cause) {
    if (cause instanceof SQLException known) {
      return known;
    }
    if (cause instanceof StackOverflowError) {
      return new SQLException("the statement is nested too deep for it", cause);
    }
    if (cause instanceof OutOfMemoryError) {
      return new SQLException("it needs more memory than it may use", cause);
    }
    if (cause instanceof Error failure) {
      throw failure;
    }
    throw cause instanceof RuntimeException known ? known : new IllegalStateException(cause);
  }

  @Override
  public void close() {
    thread.shutdownNow();
  }
}
