package io.lantrel.cli;

import java.io.FileDescriptor;
import java.io.FileOutputStream;
import java.io.IOException;
import java.io.OutputStreamWriter;
import java.io.PrintWriter;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import org.jspecify.annotations.Nullable;

/** Standard output or error, which remembers what went wrong with it: a full disk is no success. */
final class StandardStream {

  private final Writer target;
  private final PrintWriter writer;
  private @Nullable IOException failure;

  StandardStream(FileDescriptor descriptor) {
    this.target = new OutputStreamWriter(new FileOutputStream(descriptor), StandardCharsets.UTF_8);
    this.writer = new PrintWriter(new Remembering());
  }

  PrintWriter writer() {
    return writer;
  }

  /**
   * Writes what is still to be written.
   *
   * @param complaints where a failure is told; not that a reader has gone
   * @return whether all arrived
   */
  boolean finish(StandardStream complaints) {
    writer.flush();
    if (failure == null) {
      return true;
    }
    String words = String.valueOf(failure.getMessage());
    if (!words.contains("Broken pipe")) {
      complaints.writer().println("lantrel: the answer could not be written: " + words);
      complaints.writer().flush();
    }
    return false;
  }

  private final class Remembering extends Writer {
    @Override
    public void write(char[] text, int offset, int length) throws IOException {
      try {
        target.write(text, offset, length);
      } catch (IOException first) {
        throw kept(first);
      }
    }

    @Override
    public void flush() throws IOException {
      try {
        target.flush();
      } catch (IOException first) {
        throw kept(first);
      }
    }

    @Override
    public void close() throws IOException {
      target.close();
    }

    private IOException kept(IOException first) {
      failure = failure == null ? first : failure;
      return first;
    }
  }
}
