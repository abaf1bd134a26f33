package io.lantrel;

import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CompletionException;
import java.util.function.Supplier;

/**
 * Work on a thread with a large stack: a statement that is nested deep is read, understood and
 * written by calls within calls, and the threads of a program seldom have room for that.
 */
public final class LargeStack {

  /** Only reserved: what is not used takes no memory. */
  private static final long BYTES = 1L << 29;

  private LargeStack() {}

  /**
   * Does work there and waits for it; on such a thread already, it is done at once.
   *
   * @throws RuntimeException what the work throws, and so with an Error
   */
  public static <T> T call(Supplier<T> work) {
    if (Thread.currentThread() instanceof Large) {
      return work.get();
    }
    CompletableFuture<T> answer = new CompletableFuture<>();
    new Large(() -> answer.completeAsync(work, Runnable::run)).start();
    try {
      return answer.join();
    } catch (CompletionException failure) {
      if (failure.getCause() instanceof RuntimeException known) {
        throw known;
      }
      if (failure.getCause() instanceof Error known) {
        throw known;
      }
      throw failure;
    }
  }

  private static final class Large extends Thread {
    Large(Runnable work) {
      super(null, work, "lantrel", BYTES);
      setDaemon(true);
    }
  }
}
