package io.lantrel.compare;

import io.lantrel.engine.CsvTable;
import io.lantrel.engine.Rows;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A table that somebody expects a query to give. Its values have no types of their own: each is
 * read as the column of the query is.
 *
 * @param name what it is called, as its file
 * @param headings the names of its columns
 * @param rows the rows, each with a text, a number, a truth value, or null for NULL, for every
 *     heading
 */
public record ExpectedTable(String name, List<String> headings, List<List<@Nullable Object>> rows) {

  /**
   * @throws IllegalArgumentException if a row has more or fewer values than there are headings
   */
  public ExpectedTable {
    headings = List.copyOf(headings);
    rows = rows.stream().map(row -> Collections.unmodifiableList(new ArrayList<>(row))).toList();
    for (List<@Nullable Object> row : rows) {
      if (row.size() != headings.size()) {
        throw new IllegalArgumentException(
            "a row has " + row.size() + " values, and there are " + headings.size() + " headings");
      }
    }
  }

  /** The same under another name. */
  public ExpectedTable called(String other) {
    return new ExpectedTable(other, headings, rows);
  }

  /**
   * Reads a CSV file (RFC 4180, UTF-8, first line the headings; an empty field is NULL, {@code ""}
   * an empty text).
   *
   * @throws io.lantrel.engine.DataException if it cannot be read; the message names file, line and
   *     column
   */
  public static ExpectedTable ofCsv(Path file) {
    Rows rows = CsvTable.read(file);
    return new ExpectedTable(String.valueOf(file.getFileName()), rows.headings(), rows.rows());
  }
}
