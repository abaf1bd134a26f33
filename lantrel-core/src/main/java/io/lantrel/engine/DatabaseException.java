package io.lantrel.engine;

/** A database refused a statement, took too long, or could not be reached. */
public final class DatabaseException extends RuntimeException {
  private static final long serialVersionUID = 1L;

  private final boolean tookTooLong;

  public DatabaseException(String message, Throwable cause) {
    this(message, cause, false);
  }

  /**
   * @param tookTooLong whether the statement was stopped because it took too long
   */
  public DatabaseException(String message, Throwable cause, boolean tookTooLong) {
    super(message, cause);
    this.tookTooLong = tookTooLong;
  }

  /** Whether the statement was stopped because it took too long; it may be right all the same. */
  public boolean tookTooLong() {
    return tookTooLong;
  }
}
