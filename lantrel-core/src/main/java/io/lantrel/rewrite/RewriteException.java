package io.lantrel.rewrite;

import io.lantrel.failure.LantrelException;

/** A query that cannot be brought into a form; the message says why, and what to do. */
public final class RewriteException extends LantrelException {

  private static final long serialVersionUID = 1;

  /** One clause, without a full stop. */
  public RewriteException(String message) {
    super(message, null);
  }
}
