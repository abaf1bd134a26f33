package io.lantrel.hierarchy;

import io.lantrel.failure.LantrelException;

/** A hierarchy was asked for that is none, or that cannot be told from others. */
public final class HierarchyException extends LantrelException {
  private static final long serialVersionUID = 1L;

  public HierarchyException(String message) {
    super(message, null);
  }
}
