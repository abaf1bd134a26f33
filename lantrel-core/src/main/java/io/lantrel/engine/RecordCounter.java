package io.lantrel.engine;

import java.io.FilterReader;
import java.io.IOException;
import java.io.Reader;

/**
 * Counts the records of a CSV file while it is read, by nothing but quotes, commas and line ends
 * (RFC 4180, section 2). It reads no field: what the library gives is compared with it, since rows
 * that get lost leave no other trace.
 */
final class RecordCounter extends FilterReader {

  private enum State {
    AT_FIELD,
    IN_FIELD,
    IN_QUOTES,
    BEHIND_QUOTE
  }

  private State state = State.AT_FIELD;
  private boolean behindReturn;
  private boolean begun;
  private long records;

  RecordCounter(Reader in) {
    super(in);
  }

  /** The records so far; one that has no line end counts once the file is at its end. */
  long records() {
    return records + (begun ? 1 : 0);
  }

  /** Whether a quote is open. */
  boolean isOpen() {
    return state == State.IN_QUOTES;
  }

  @Override
  public int read() throws IOException {
    int c = super.read();
    if (c >= 0) {
      count((char) c);
    }
    return c;
  }

  @Override
  public int read(char[] buffer, int offset, int length) throws IOException {
    int count = super.read(buffer, offset, length);
    for (int i = offset; i < offset + count; i++) {
      count(buffer[i]);
    }
    return count;
  }

  private void count(char c) {
    boolean second = behindReturn && c == '\n';
    behindReturn = c == '\r' && state != State.IN_QUOTES;
    if (state == State.IN_QUOTES) {
      state = c == '"' ? State.BEHIND_QUOTE : State.IN_QUOTES;
    } else if (c == '"' && state != State.IN_FIELD) {
      state = State.IN_QUOTES;
      begun = true;
    } else if (c == '\n' || c == '\r') {
      records += second ? 0 : 1;
      begun = false;
      state = State.AT_FIELD;
    } else {
      begun = true;
      state = c == ',' ? State.AT_FIELD : State.IN_FIELD;
    }
  }
}
