package io.lantrel.ledger;

import io.lantrel.failure.LantrelException;

/** A ledger that does not balance, or disagrees with the database: a defect of Lantrel. */
public final class LedgerDefect extends LantrelException {
  private static final long serialVersionUID = 1L;

  public LedgerDefect(String message) {
    super(message, null);
  }
}
