package io.lantrel.sql.outgoing;

/** A statement that cannot be sent to a product as it is meant; the message says why. */
public final class UnsendableException extends RuntimeException {
  private static final long serialVersionUID = 1L;

  UnsendableException(String message) {
    super(message);
  }
}
