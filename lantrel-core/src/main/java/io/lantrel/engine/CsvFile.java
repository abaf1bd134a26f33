package io.lantrel.engine;

import io.lantrel.catalog.Column;
import io.lantrel.catalog.Table;
import io.lantrel.sql.NearNames;
import io.lantrel.sql.tree.Identifier;
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
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Objects;
import java.util.function.Function;
import org.apache.commons.csv.CSVException;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVParser;
import org.apache.commons.csv.CSVRecord;
import org.apache.commons.csv.QuoteMode;
import org.jspecify.annotations.Nullable;

/**
 * The rows of one table in a CSV file (RFC 4180, with a header line, UTF-8). An empty field is
 * NULL; an empty field in quotes is an empty text.
 */
final class CsvFile {

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
  private final Table table;
  private final List<Function<String, Object>> parsers;

  /**
   * @param decimalDefaults precision and scale of DECIMAL without numbers; empty for any number
   */
  CsvFile(Path path, Table table, List<Integer> decimalDefaults) {
    this.path = path;
    this.name = String.valueOf(path.getFileName());
    this.table = table;
    this.parsers =
        table.columns().stream()
            .map(column -> CsvValue.parser(column.type(), decimalDefaults))
            .toList();
  }

  /**
   * Reads and checks all rows, their values in the order of the table's columns.
   *
   * @throws DataException at the first line that does not fit the table
   */
  List<@Nullable Object[]> read() {
    try (RecordCounter text = new RecordCounter(reader());
        CSVParser parser = CSVParser.builder().setReader(text).setFormat(FORMAT).get()) {
      List<@Nullable Object[]> rows = rows(parser, text);
      if (parser.getRecordNumber() != text.records()) {
        throw new DataException(
            name
                + ": counted by its quotes and line ends the file has "
                + text.records()
                + " records, and "
                + parser.getRecordNumber()
                + " were read; see that every quote within a field is doubled");
      }
      return rows;
    } catch (UncheckedIOException malformed) {
      throw failed(Objects.requireNonNull(malformed.getCause()));
    } catch (IOException malformed) {
      throw failed(malformed);
    }
  }

  private Reader reader() throws IOException {
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

  private List<@Nullable Object[]> rows(CSVParser parser, RecordCounter text) {
    int @Nullable [] targets = null;
    List<@Nullable Object[]> rows = new ArrayList<>();
    long begin = 1;
    try {
      for (CSVRecord record : parser) {
        Line line = new Line(begin, Arrays.asList(record.values()));
        begin = parser.getCurrentLineNumber() + 1;
        if (targets == null) {
          targets = header(line);
        } else if (!line.isEmpty() || targets.length == 1) {
          rows.add(row(line, targets));
        }
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
    if (targets == null) {
      throw new DataException(
          name + ":1:1: the file is empty; its first line must name the columns: " + columnNames());
    }
    return rows;
  }

  private String columnNames() {
    return String.join(",", table.columns().stream().map(Column::name).toList());
  }

  /**
   * What a file calls a table or column: a name that is exact in its product has no quotes here.
   */
  static String key(String stored) {
    return Identifier.key(stored.replaceFirst("^\"(.+)\"$", "$1"));
  }

  /** For each field of the file, the position of its column in the table. */
  private int[] header(Line line) {
    List<String> known = table.columns().stream().map(Column::name).toList();
    List<String> keys = known.stream().map(CsvFile::key).toList();
    int[] targets = new int[line.size()];
    List<String> missing = new ArrayList<>(known);
    for (int field = 0; field < targets.length; field++) {
      String heading = line.fields().get(field);
      String text = heading == null ? "" : heading.strip();
      targets[field] = keys.indexOf(Identifier.key(text));
      if (targets[field] < 0) {
        List<String> near = NearNames.of(text, missing);
        throw wrong(
            line,
            field,
            "the table "
                + table.name()
                + " has no column \""
                + text
                + "\""
                + (near.isEmpty()
                    ? "; its columns are " + columnNames()
                    : "; close to it: " + String.join(", ", near)));
      }
      if (!missing.remove(known.get(targets[field]))) {
        throw wrong(line, field, "the column " + text + " stands here twice");
      }
    }
    if (!missing.isEmpty()) {
      throw wrong(
          line,
          0,
          "the header lacks " + String.join(", ", missing) + " of the table " + table.name());
    }
    return targets;
  }

  private @Nullable Object[] row(Line line, int[] targets) {
    if (line.size() != targets.length) {
      throw wrong(
          line,
          Math.min(line.size(), targets.length) - (line.size() > targets.length ? 0 : 1),
          "this line has " + fields(line.size()) + ", the header has " + targets.length);
    }
    @Nullable Object[] row = new @Nullable Object[targets.length];
    for (int field = 0; field < targets.length; field++) {
      String value = line.fields().get(field);
      row[targets[field]] = value == null ? null : value(line, field, value, targets[field]);
    }
    return row;
  }

  private static String fields(int count) {
    return count == 1 ? "1 field" : count + " fields";
  }

  private Object value(Line line, int field, String text, int target) {
    try {
      return parsers.get(target).apply(text);
    } catch (IllegalArgumentException unfit) {
      Column column = table.columns().get(target);
      throw wrong(
          line,
          field,
          shown(text) + " does not fit " + column.name() + ", which is " + column.type().text());
    }
  }

  private static String shown(String text) {
    String line = text.replaceAll("\\s+", " ");
    String cut = line.length() > 40 ? line.substring(0, 40) + "…" : line;
    return text.isEmpty() ? "an empty text" : "\"" + cut + "\"";
  }

  private DataException wrong(Line line, int field, String message) {
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
  private record Line(long number, List<@Nullable String> fields) {
    int size() {
      return fields.size();
    }

    boolean isEmpty() {
      return fields.size() == 1 && fields.get(0) == null;
    }
  }
}
