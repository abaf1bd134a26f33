package io.lantrel.engine;

import io.lantrel.catalog.Column;
import io.lantrel.catalog.Table;
import io.lantrel.sql.NearNames;
import io.lantrel.sql.tree.Identifier;
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

  private final CsvRecords records;
  private final Table table;
  private final List<Function<String, Object>> parsers;

  /**
   * @param decimalDefaults precision and scale of DECIMAL without numbers; empty for any number
   */
  CsvFile(Path path, Table table, List<Integer> decimalDefaults) {
    this.records = new CsvRecords(path);
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
    List<@Nullable Object[]> rows = new ArrayList<>();
    List<int[]> targets = new ArrayList<>();
    records.each(
        line -> {
          if (targets.isEmpty()) {
            targets.add(header(line));
          } else if (!line.isEmpty() || targets.get(0).length == 1) {
            rows.add(row(line, targets.get(0)));
          }
        });
    if (targets.isEmpty()) {
      throw records.isEmpty("its first line must name the columns: " + columnNames());
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
  private int[] header(CsvRecords.Line line) {
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
        throw records.wrong(
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
        throw records.wrong(line, field, "the column " + text + " stands here twice");
      }
    }
    if (!missing.isEmpty()) {
      throw records.wrong(
          line,
          0,
          "the header lacks " + String.join(", ", missing) + " of the table " + table.name());
    }
    return targets;
  }

  private @Nullable Object[] row(CsvRecords.Line line, int[] targets) {
    if (line.size() != targets.length) {
      throw records.wrong(
          line,
          Math.min(line.size(), targets.length) - (line.size() > targets.length ? 0 : 1),
          "this line has " + CsvRecords.fields(line.size()) + ", the header has " + targets.length);
    }
    @Nullable Object[] row = new @Nullable Object[targets.length];
    for (int field = 0; field < targets.length; field++) {
      String value = line.fields().get(field);
      row[targets[field]] = value == null ? null : value(line, field, value, targets[field]);
    }
    return row;
  }

  private Object value(CsvRecords.Line line, int field, String text, int target) {
    try {
      return parsers.get(target).apply(text);
    } catch (IllegalArgumentException unfit) {
      Column column = table.columns().get(target);
      throw records.wrong(
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
}
