package io.lantrel.engine;

import de.siegmar.fastcsv.reader.AbstractBaseCsvCallbackHandler;
import de.siegmar.fastcsv.reader.CsvParseException;
import de.siegmar.fastcsv.reader.CsvReader;
import io.lantrel.catalog.Column;
import io.lantrel.catalog.Table;
import io.lantrel.sql.NearNames;
import io.lantrel.sql.tree.Identifier;
import java.io.FilterReader;
import java.io.IOException;
import java.io.Reader;
import java.io.UncheckedIOException;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/**
 * The rows of one table in a CSV file (RFC 4180, with a header line, UTF-8). An empty field is
 * NULL; an empty field in quotes is an empty text.
 */
final class CsvFile {

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
    try (QuoteCounter text =
            new QuoteCounter(Files.newBufferedReader(path, StandardCharsets.UTF_8));
        CsvReader<Line> reader =
            CsvReader.builder()
                .detectBomHeader(false)
                .skipEmptyLines(table.columns().size() > 1)
                .allowExtraFields(true)
                .allowMissingFields(true)
                .build(new Lines(), text)) {
      return rows(reader, text);
    } catch (CsvParseException | UncheckedIOException malformed) {
      throw malformed.getCause() instanceof CharacterCodingException
          ? notUtf8(malformed)
          : new DataException(name + ": " + malformed.getMessage(), malformed);
    } catch (CharacterCodingException malformed) {
      throw notUtf8(malformed);
    } catch (IOException failure) {
      throw new DataException(name + ": cannot be read: " + failure.getMessage(), failure);
    }
  }

  private DataException notUtf8(Exception malformed) {
    return new DataException(
        name + ":" + firstLineNotUtf8() + ":1: this is not UTF-8; save the file as UTF-8",
        malformed);
  }

  private List<@Nullable Object[]> rows(CsvReader<Line> reader, QuoteCounter text) {
    int @Nullable [] targets = null;
    List<@Nullable Object[]> rows = new ArrayList<>();
    for (Line line : reader) {
      if (targets == null) {
        targets = header(line);
      } else {
        rows.add(row(line, targets, text));
      }
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
      String text = heading == null ? "" : heading.replaceFirst("^\\uFEFF", "").strip();
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

  private @Nullable Object[] row(Line line, int[] targets, QuoteCounter text) {
    if (text.isAtEnd() && text.isOdd()) {
      throw wrong(
          line,
          0,
          "a quote is opened from here on and never closed; the rest of the file is in it");
    }
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
   * Counts quotes: RFC 4180 has them in pairs, and the reader takes an open one up to the end of
   * the file for a long field.
   */
  private static final class QuoteCounter extends FilterReader {
    private boolean odd;
    private boolean atEnd;

    QuoteCounter(Reader in) {
      super(in);
    }

    boolean isOdd() {
      return odd;
    }

    boolean isAtEnd() {
      return atEnd;
    }

    @Override
    public int read(char[] buffer, int offset, int length) throws IOException {
      int count = super.read(buffer, offset, length);
      atEnd |= count < 0;
      for (int i = offset; i < offset + count; i++) {
        odd ^= buffer[i] == '"';
      }
      return count;
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
  }

  private static final class Lines extends AbstractBaseCsvCallbackHandler<Line> {
    private List<@Nullable String> fields = new ArrayList<>();

    @Override
    protected void handleBegin(long startingLineNumber) {
      fields = new ArrayList<>();
    }

    @Override
    protected void handleField(int index, char[] buffer, int offset, int length, boolean quoted) {
      fields.add(length == 0 && !quoted ? null : new String(buffer, offset, length));
    }

    @Override
    protected void handleEmpty() {
      fields.add(null);
    }

    @Override
    protected Line buildRecord() {
      return new Line(getStartingLineNumber(), fields);
    }
  }
}
