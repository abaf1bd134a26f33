package io.lantrel.draft;

import io.lantrel.failure.LantrelException;

/** A wish that no query can be written for; the message says what is wrong and what to do. */
public final class WishException extends LantrelException {

  private static final long serialVersionUID = 1;

  private final boolean ofReferences;

  /** One sentence. */
  public WishException(String message) {
    this(message, false);
  }

  private WishException(String message, boolean ofReferences) {
    super(message, null);
    this.ofReferences = ofReferences;
  }

  /** A reference is missing for it; further ones, that no schema declares, may help. */
  static WishException ofReferences(String message) {
    return new WishException(message, true);
  }

  /** Whether a reference is missing that no schema may declare and the rows may show. */
  public boolean isOfReferences() {
    return ofReferences;
  }
}
