package io.lantrel.compare;

import io.lantrel.failure.LantrelException;

/** That two results cannot be compared as is wished. */
public final class CompareException extends LantrelException {
  private static final long serialVersionUID = 1L;

  public CompareException(String message) {
    super(message, null);
  }
}
