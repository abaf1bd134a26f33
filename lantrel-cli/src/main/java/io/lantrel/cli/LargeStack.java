package io.lantrel.cli;

import java.io.PrintWriter;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CompletionException;
import java.util.function.IntSupplier;

/**
 * Runs a command on a thread with a large stack: a statement that is nested deep is read and
 * written by calls within calls. What is too much all the same ends in a sentence.
 */
final class LargeStack {

  /** Only reserved: what is not used takes no memory. */
  private static final long BYTES = 1L << 29;

  private LargeStack() {}

  static int call(IntSupplier command, PrintWriter err) {
    CompletableFuture<Integer> exit = new CompletableFuture<>();
    Thread thread =
        new Thread(
            null, () -> exit.completeAsync(command::getAsInt, Runnable::run), "lantrel", BYTES);
    thread.start();
    try {
      return exit.join();
    } catch (CompletionException failure) {
      Throwable cause = failure.getCause();
      err.println(
          "lantrel: "
              + (cause instanceof StackOverflowError
                  ? "this is nested too deep to be worked on"
                  : cause instanceof OutOfMemoryError
                      ? "this needs more memory than Java may use here"
                      : "this is a fault of Lantrel itself, please report it: " + cause));
      return ExitCode.COULD_NOT_RUN;
    }
  }
}
