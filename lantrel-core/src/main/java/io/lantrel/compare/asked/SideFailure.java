package io.lantrel.compare.asked;

import io.lantrel.engine.DatabaseException;

/** That one of the two results is not to be had; the message says which, and why. */
final class SideFailure extends RuntimeException {
  private static final long serialVersionUID = 1L;

  private SideFailure(String message, DatabaseException cause) {
    super(message, cause);
  }

  /**
   * @param name what does not run
   * @throws DatabaseException if nothing can be asked any more
   */
  static SideFailure of(String name, DatabaseException failure) {
    if (failure.isFatal()) {
      throw failure;
    }
    return new SideFailure(
        name
            + (failure.tookTooLong() ? " takes too long: " : " does not run: ")
            + failure.getMessage(),
        failure);
  }
}
