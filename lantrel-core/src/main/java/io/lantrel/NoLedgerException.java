package io.lantrel;

/** A ledger was asked for where there can be none; the message says why. */
public final class NoLedgerException extends RuntimeException {
  private static final long serialVersionUID = 1L;

  NoLedgerException(String message) {
    super(message);
  }
}
