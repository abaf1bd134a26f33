package io.lantrel.rewrite;

/** A query that cannot be brought into a form; the message says why, and what to do. */
public final class RewriteException extends RuntimeException {

  private static final long serialVersionUID = 1;

  /** One clause, without a full stop. */
  public RewriteException(String message) {
    super(message);
  }
}
