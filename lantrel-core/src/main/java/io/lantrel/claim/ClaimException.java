package io.lantrel.claim;

import io.lantrel.failure.LantrelException;

/** A claim that says nothing; the message tells what is wrong with it. */
public final class ClaimException extends LantrelException {
  private static final long serialVersionUID = 1L;

  public ClaimException(String message) {
    super(message, null);
  }
}
