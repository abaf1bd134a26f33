package io.lantrel;

import io.lantrel.failure.LantrelException;

/** A ledger was asked for where there can be none; the message says why. */
public final class NoLedgerException extends LantrelException {
  private static final long serialVersionUID = 1L;

  NoLedgerException(String message) {
    super(message, null);
  }
}
