package io.lantrel.report;

import io.lantrel.engine.CsvLine;
import io.lantrel.engine.ValueText;
import io.lantrel.rows.ShownRows;
import io.lantrel.rows.ShownRows.Cell;
import io.lantrel.rows.StepRows;
import java.util.List;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** Rows for other programs and for pages: CSV and Markdown. */
public final class RowsFile {

  private RowsFile() {}

  /** RFC 4180 with a line of headings; an empty field is NULL, {@code ""} an empty text. */
  public static String csv(ShownRows rows) {
    StringBuilder text = new StringBuilder();
    text.append(CsvLine.of(rows.labels()));
    for (List<Cell> row : rows.rows()) {
      text.append(CsvLine.of(row.stream().<@Nullable String>map(RowsFile::text).toList()));
    }
    return text.toString();
  }

  private static @Nullable String text(Cell cell) {
    return cell.value() == null ? null : ValueText.of(cell.value());
  }

  /** A table of Markdown, with the count of all rows below it. */
  public static String markdown(ShownRows rows) {
    return table(rows, rows.labels()) + "\n" + RowsText.count(rows) + "\n";
  }

  /** The same of a step, below its words. */
  public static String markdown(StepRows step) {
    List<String> labels = step.rows().headings().stream().map(each -> each.whole()).toList();
    return "### "
        + step.number()
        + " "
        + escaped(step.entry().words())
        + "\n\n"
        + table(step.rows(), labels)
        + "\n"
        + RowsText.figures(step)
        + "\n";
  }

  private static String table(ShownRows rows, List<String> labels) {
    StringBuilder text = new StringBuilder();
    text.append(line(labels.stream().map(RowsFile::escaped).toList()));
    text.append(
        line(rows.headings().stream().map(each -> each.number() ? "---:" : "---").toList()));
    rows.rows().forEach(row -> text.append(line(row.stream().map(RowsFile::markdown).toList())));
    return text.toString();
  }

  private static String markdown(Cell cell) {
    String text = text(cell);
    return text == null ? (cell.filled() ? "*filled*" : "*NULL*") : escaped(text);
  }

  private static String line(List<String> cells) {
    return cells.stream().collect(Collectors.joining(" | ", "| ", " |\n"));
  }

  /** What Markdown or HTML would take for something else than text. */
  static String escaped(String text) {
    return Visible.line(text).replaceAll("([\\\\`*_{}\\[\\]<>#|&])", "\\\\$1");
  }
}
