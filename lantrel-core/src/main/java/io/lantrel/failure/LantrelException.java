package io.lantrel.failure;

import org.jspecify.annotations.Nullable;

/**
 * What Lantrel could not do, in one sentence for people: what is wrong, where, and what to do. Its
 * subclasses tell the cases apart. That a method is called in a way that it excludes is told by
 * Java's own exceptions.
 */
public abstract class LantrelException extends RuntimeException {
  private static final long serialVersionUID = 1L;

  /**
   * @param cause what it comes from; null if from nothing
   */
  protected LantrelException(String message, @Nullable Throwable cause) {
    super(message, cause);
  }
}
