package io.lantrel.engine;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** A CSV file that stands for itself, and is not the rows of a table that is known. */
public final class CsvTable {

  private CsvTable() {}

  /**
   * Reads a file (RFC 4180, UTF-8, first line the headings). An empty field is NULL, {@code ""} an
   * empty text.
   *
   * @return the headings, and the rows as texts
   * @throws DataException if it cannot be read, or a line has not as many fields as the first; the
   *     message names file, line and column
   */
  public static Rows read(Path file) {
    CsvRecords records = new CsvRecords(file);
    List<String> headings = new ArrayList<>();
    List<List<@Nullable Object>> rows = new ArrayList<>();
    records.each(
        line -> {
          if (headings.isEmpty()) {
            line.fields().forEach(field -> headings.add(field == null ? "" : field.strip()));
          } else if (!line.isEmpty() || headings.size() == 1) {
            if (line.size() != headings.size()) {
              throw records.wrong(
                  line,
                  Math.min(line.size(), headings.size()) - (line.size() > headings.size() ? 0 : 1),
                  "this line has "
                      + CsvRecords.fields(line.size())
                      + ", the header has "
                      + headings.size());
            }
            rows.add(new ArrayList<>(line.fields()));
          }
        });
    if (headings.isEmpty()) {
      throw records.isEmpty("its first line must name the columns");
    }
    return new Rows(headings, rows, false);
  }
}
