package io.lantrel.sample;

import io.lantrel.failure.LantrelException;

/** A sample was asked for that cannot be drawn, masked or written so. */
public final class SampleException extends LantrelException {
  private static final long serialVersionUID = 1L;

  public SampleException(String message) {
    super(message, null);
  }

  public SampleException(String message, Throwable cause) {
    super(message, cause);
  }
}
