package io.lantrel.trace;

import io.lantrel.failure.LantrelException;

/** A row was asked for that cannot be followed, or that is described by what is not there. */
public final class TraceException extends LantrelException {
  private static final long serialVersionUID = 1L;

  public TraceException(String message) {
    super(message, null);
  }
}
