package io.lantrel.engine;

import io.lantrel.failure.LantrelException;

/** Sample data that cannot be used; the message says which file, where in it, and what to do. */
public final class DataException extends LantrelException {
  private static final long serialVersionUID = 1L;

  public DataException(String message) {
    super(message, null);
  }

  public DataException(String message, Throwable cause) {
    super(message, cause);
  }
}
