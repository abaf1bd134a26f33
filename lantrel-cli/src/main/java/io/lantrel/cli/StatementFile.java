package io.lantrel.cli;

import io.lantrel.engine.DataException;
import io.lantrel.engine.DatabaseException;
import io.lantrel.engine.SentStatement;
import io.lantrel.engine.StatementWatcher;
import io.lantrel.report.Visible;
import java.io.IOException;
import java.io.InputStream;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.Arrays;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/**
 * A file of all that the database was sent. It is SQL itself: what a statement is about and how
 * long it took stands beside it in comments. A statement is written before it is sent, so that the
 * last one can be seen also when everything was stopped.
 */
final class StatementFile implements StatementWatcher {

  private static final String TITLE = "-- Statements that Lantrel sent, in this order.\n";

  private final Path file;
  private final Writer out;
  private long number;

  private StatementFile(Path file, Writer out) {
    this.file = file;
    this.out = out;
  }

  /**
   * Begins the file anew.
   *
   * @throws DataException if it cannot be written, or holds what this class has not written
   */
  static StatementFile begun(Path file) {
    try {
      if (Files.exists(file) && !isOurs(file)) {
        throw new DataException(
            "--statements: "
                + file
                + " is there already and holds something else; nothing is"
                + " written into it");
      }
      StatementFile begun =
          new StatementFile(file, Files.newBufferedWriter(file, StandardCharsets.UTF_8));
      begun.write(TITLE);
      return begun;
    } catch (IOException failure) {
      throw cannotBeWritten(file, failure);
    }
  }

  /** Also an empty one. */
  private static boolean isOurs(Path file) throws IOException {
    if (!Files.isRegularFile(file)) {
      return false;
    }
    byte[] title = TITLE.getBytes(StandardCharsets.UTF_8);
    try (InputStream in = Files.newInputStream(file)) {
      byte[] first = in.readNBytes(title.length);
      return first.length == 0 || Arrays.equals(title, first);
    }
  }

  @Override
  public void begins(SentStatement statement) {
    number++;
    String read = String.join(", ", statement.tables());
    write(
        "\n-- "
            + number
            + (statement.way() == SentStatement.Way.PLANNED ? ", only planned" : "")
            + (read.isEmpty() ? "" : ", reads " + Visible.line(read))
            + "\n"
            + statement.sql()
            + ";\n");
  }

  @Override
  public void ended(SentStatement statement, Duration took, @Nullable DatabaseException failure) {
    write(
        "-- took "
            + String.format(Locale.ROOT, "%.3f s", took.toNanos() / 1e9)
            + (failure == null
                ? ""
                : ", failed: " + Visible.line(String.valueOf(failure.getMessage())))
            + "\n");
  }

  private void write(String text) {
    try {
      out.write(text);
      out.flush();
    } catch (IOException failure) {
      throw cannotBeWritten(file, failure);
    }
  }

  private static DataException cannotBeWritten(Path file, IOException failure) {
    return new DataException(
        "--statements: " + file + " cannot be written: " + failure.getMessage(), failure);
  }
}
