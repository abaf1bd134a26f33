package io.lantrel.engine;

import io.lantrel.failure.LantrelException;
import org.jspecify.annotations.Nullable;

/** A database refused a statement, took too long, or could not be reached. */
public final class DatabaseException extends LantrelException {
  private static final long serialVersionUID = 1L;

  /** Why a database failed. */
  public enum Reason {
    /** It could not read the statement. */
    NOT_READ,
    /** It would not run the statement. */
    REFUSED,
    /** A setting of the database makes it read SQL in a way that Lantrel does not rely on. */
    UNSAFE,
    /** The user may not do this. */
    NO_PERMISSION,
    /** The statement was stopped because it took too long; it may be right all the same. */
    TOOK_TOO_LONG,
    /** It was stopped from outside. */
    CANCELLED,
    /** There is no connection, or it was lost. */
    CONNECTION_LOST
  }

  private final Reason reason;

  public DatabaseException(Reason reason, String message, @Nullable Throwable cause) {
    super(message, cause);
    this.reason = reason;
  }

  /** Why. */
  public Reason reason() {
    return reason;
  }

  /** Whether the statement was stopped because it took too long; it may be right all the same. */
  public boolean tookTooLong() {
    return reason == Reason.TOOK_TOO_LONG;
  }

  /** Whether no further statement can be answered either. */
  public boolean isFatal() {
    return reason == Reason.CONNECTION_LOST || reason == Reason.CANCELLED;
  }
}
