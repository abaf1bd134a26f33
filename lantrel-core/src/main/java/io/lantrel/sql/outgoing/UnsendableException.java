package io.lantrel.sql.outgoing;

import io.lantrel.failure.LantrelException;

/** A statement that cannot be sent to a product as it is meant; the message says why. */
public final class UnsendableException extends LantrelException {
  private static final long serialVersionUID = 1L;

  UnsendableException(String message) {
    super(message, null);
  }
}
