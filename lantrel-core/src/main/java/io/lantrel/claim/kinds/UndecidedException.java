package io.lantrel.claim.kinds;

import io.lantrel.failure.LantrelException;

/** A claim says something, and it cannot be found out whether it is so; the message tells why. */
public final class UndecidedException extends LantrelException {
  private static final long serialVersionUID = 1L;

  public UndecidedException(String message) {
    super(message, null);
  }
}
