package io.lantrel.draft;

import io.lantrel.failure.LantrelException;

/** A wish that no query can be written for; the message says what is wrong and what to do. */
public final class WishException extends LantrelException {

  private static final long serialVersionUID = 1;

  /** One sentence. */
  public WishException(String message) {
    super(message, null);
  }
}
