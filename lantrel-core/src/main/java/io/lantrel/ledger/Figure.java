package io.lantrel.ledger;

/** What can happen to rows at a step. */
public enum Figure {
  /** Rows so far that are lost. */
  DROPPED(-1),
  /** Further rows, because a row has several partners. */
  REPEATED(1),
  /** Rows of the joined side that are kept without a partner. */
  ADDED(1),
  /** Rows put together into others: by GROUP BY or DISTINCT. */
  MERGED(-1),
  /** Rows beyond LIMIT or before OFFSET. */
  CUT(-1),
  /** Rows kept without a partner, with NULLs for the joined side. No row comes or goes by it. */
  FILLED(0),
  /** Rows of the joined side without a partner that are not kept. No row comes or goes by it. */
  UNUSED(0);

  private final int sign;

  Figure(int sign) {
    this.sign = sign;
  }

  /** Whether rows become more (1) or fewer (-1) by it, or neither (0). */
  public int sign() {
    return sign;
  }
}
