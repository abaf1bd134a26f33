package io.lantrel.engine;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.Reader;
import java.io.UncheckedIOException;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Objects;
import java.util.function.Consumer;
import org.apache.commons.csv.CSVException;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVParser;
import org.apache.commons.csv.CSVRecord;
import org.apache.commons.csv.QuoteMode;
import org.jspecify.annotations.Nullable;

/**
 * The records of a CSV file (RFC 4180, UTF-8). An empty field is NULL; an empty field in quotes is
 * an empty text. No record is lost without a word.
 */
final class CsvRecords {

  /** An empty field is NULL only if it has no quotes, which this mode tells apart. */
  private static final CSVFormat FORMAT =
      CSVFormat.RFC4180
          .builder()
          .setNullString("")
          .setQuoteMode(QuoteMode.ALL_NON_NULL)
          .setIgnoreEmptyLines(false)
          .get();

  private final Path path;
  private final String name;

  CsvRecords(Path path) {
    this.path = path;
    this.name = String.valueOf(path.getFileName());
  }

  /**
   * Hands over the records one by one, the heading among them.
   *
   * @throws DataException if the file cannot be read, or is no CSV; and what the reader throws
   */
  void each(Consumer<Line> reader) {
    try (RecordCounter text = new RecordCounter(opened());
        CSVParser parser = CSVParser.builder().setReader(text).setFormat(FORMAT).get()) {
      records(parser, text, reader);
      if (parser.getRecordNumber() != text.records()) {
        throw new DataException(
            name
                + ": counted by its quotes and line ends the file has "
                + text.records()
                + " records, and "
                + parser.getRecordNumber()
                + " were read; see that every quote within a field is doubled");
      }
    } catch (UncheckedIOException malformed) {
      throw failed(Objects.requireNonNull(malformed.getCause()));
    } catch (IOException malformed) {
      throw failed(malformed);
    }
  }

  private Reader opened() throws IOException {
    BufferedReader text =
        new BufferedReader(
            new InputStreamReader(Files.newInputStream(path), StandardCharsets.UTF_8.newDecoder()));
    // What some programs put before UTF-8 is no part of the first heading.
    text.mark(1);
    if (text.read() != '\uFEFF') {
      text.reset();
    }
    return text;
  }

  private DataException failed(Exception failure) {
    if (failure instanceof CharacterCodingException) {
      return notUtf8(failure);
    }
    return failure instanceof CSVException
        ? new DataException(name + ": " + failure.getMessage(), failure)
        : new DataException(name + ": cannot be read: " + failure.getMessage(), failure);
  }

  private DataException notUtf8(Exception malformed) {
    return new DataException(
        name + ":" + firstLineNotUtf8() + ":1: this is not UTF-8; save the file as UTF-8",
        malformed);
  }

  private void records(CSVParser parser, RecordCounter text, Consumer<Line> reader) {
    long begin = 1;
    try {
      for (CSVRecord record : parser) {
        Line line = new Line(begin, Arrays.asList(record.values()));
        begin = parser.getCurrentLineNumber() + 1;
        reader.accept(line);
      }
    } catch (UncheckedIOException malformed) {
      if (malformed.getCause() instanceof CSVException) {
        throw new DataException(
            name
                + ":"
                + begin
                + ":1: "
                + (text.isOpen()
                    ? "a quote is opened from here on and never closed; the rest of the file is in"
                        + " it"
                    : "behind a quote that closes a field stands something else than a comma; a quote"
                        + " within a field is written twice"),
            malformed);
      }
      throw malformed;
    }
  }

  /** That there is nothing in the file. */
  DataException isEmpty(String whatToDo) {
    return new DataException(name + ":1:1: the file is empty; " + whatToDo);
  }

  static String fields(int count) {
    return count == 1 ? "1 field" : count + " fields";
  }

  /** That something is wrong with a field, with its place. */
  DataException wrong(Line line, int field, String message) {
    return new DataException(
        name + ":" + line.number() + ":" + column(line, field) + ": " + message);
  }

  /** Where a field begins in its line, from 1; looked up again, since this line is the last one. */
  private int column(Line line, int field) {
    try (var lines = Files.lines(path, StandardCharsets.UTF_8)) {
      String text = lines.skip(line.number() - 1).findFirst().orElse("");
      int at = 0;
      boolean quoted = false;
      for (int seen = 0; seen < field && at < text.length(); at++) {
        quoted ^= text.charAt(at) == '"';
        seen += !quoted && text.charAt(at) == ',' ? 1 : 0;
      }
      return at + 1;
    } catch (IOException failure) {
      throw new DataException(name + ": cannot be read: " + failure.getMessage(), failure);
    }
  }

  private int firstLineNotUtf8() {
    int line = 1;
    try {
      byte[] bytes = Files.readAllBytes(path);
      int start = 0;
      for (int i = 0; i < bytes.length; i++) {
        if (bytes[i] == '\n') {
          StandardCharsets.UTF_8.newDecoder().decode(ByteBuffer.wrap(bytes, start, i - start));
          start = i + 1;
          line++;
        }
      }
      return line;
    } catch (CharacterCodingException here) {
      return line;
    } catch (IOException failure) {
      throw new DataException(name + ": cannot be read: " + failure.getMessage(), failure);
    }
  }

  /**
   * One record of the file.
   *
   * @param number the line that it begins on, from 1
   * @param fields its fields; null where an unquoted field is empty
   */
  record Line(long number, List<@Nullable String> fields) {
    int size() {
      return fields.size();
    }

    boolean isEmpty() {
      return fields.size() == 1 && fields.get(0) == null;
    }
  }
}
