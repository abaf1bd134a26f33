package io.lantrel.engine;

/** A database refused a statement, took too long, or could not be reached. */
public final class DatabaseException extends RuntimeException {
  private static final long serialVersionUID = 1L;

  public DatabaseException(String message, Throwable cause) {
    super(message, cause);
  }
}
