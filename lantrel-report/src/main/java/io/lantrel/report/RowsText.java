package io.lantrel.report;

import io.lantrel.ledger.Change;
import io.lantrel.ledger.Entry;
import io.lantrel.rows.ShownRows;
import io.lantrel.rows.ShownRows.Cell;
import io.lantrel.rows.ShownRows.Heading;
import io.lantrel.rows.StepRows;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/**
 * Rows for a terminal: a table where its columns fit, or else a row as a block of lines. What is
 * NULL, what an outer join filled and what is an empty text look different.
 */
public final class RowsText {

  /** So wide a cell may be, the widest that fits. */
  static final List<Integer> WIDTHS = List.of(60, 40, 28, 20, 14);

  private static final int INDENT = 2;
  private static final int BETWEEN = 2;

  private final Style style;

  public RowsText(Style style) {
    this.style = style;
  }

  /** The rows of a result. */
  public String result(ShownRows rows) {
    List<String> lines = new ArrayList<>(lines(rows, List.of(rows.labels()), rows.labels()));
    lines.add(style.faint("  " + count(rows)));
    return text(lines);
  }

  /** The rows after one step of FROM, under its words and figures. */
  public String step(StepRows step) {
    ShownRows rows = step.rows();
    List<String> lines = new ArrayList<>();
    lines.add(style.strong(step.number() + "  " + step.entry().words()));
    lines.add("   " + figures(step));
    List<String> whole = rows.headings().stream().map(each -> added(each) + each.whole()).toList();
    List<String> names = rows.headings().stream().map(Heading::name).toList();
    lines.addAll(lines(rows, List.of(tables(rows.headings()), names), whole));
    if (rows.count() > rows.rows().size()) {
      lines.add(style.faint("  " + count(rows)));
    }
    if (rows.hasFilled()) {
      lines.add(
          style.faint(
              "  "
                  + Cells.FILLED
                  + " filled by an outer join; "
                  + Cells.NULL
                  + " is empty in the data"));
    }
    return text(lines);
  }

  private static String text(List<String> lines) {
    return String.join("\n", lines) + "\n";
  }

  /** What the step did, in one line. */
  static String figures(StepRows step) {
    Entry entry = step.entry();
    List<String> parts = new ArrayList<>();
    for (Change change : entry.changes()) {
      if (change.rows() == 0) {
        continue;
      }
      String figure = change.figure().name().toLowerCase(Locale.ROOT);
      String sign = change.figure().sign() < 0 ? "− " : change.figure().sign() > 0 ? "+ " : "";
      parts.add(sign + Words.number(change.rows()) + " " + figure);
    }
    String rows = Words.rows(entry.after());
    return step.number() == 1
        ? rows
        : rows
            + ": "
            + Words.number(entry.before())
            + " before"
            + (parts.isEmpty() ? ", one partner each" : ", " + String.join(", ", parts));
  }

  /** How many rows there are, and how many of them are here. */
  static String count(ShownRows rows) {
    return rows.count() > rows.rows().size()
        ? "the first " + Words.number(rows.rows().size()) + " of " + Words.rows(rows.count())
        : Words.rows(rows.count());
  }

  private static String added(Heading heading) {
    return heading.added() ? "+ " : "";
  }

  /** What each table goes by, over the first of its columns. */
  private static List<String> tables(List<Heading> headings) {
    List<String> tables = new ArrayList<>();
    String last = "";
    for (Heading heading : headings) {
      tables.add(heading.table().equals(last) ? "" : added(heading) + heading.table());
      last = heading.table();
    }
    return tables;
  }

  /**
   * @param heads lines over a table
   * @param labels what stands before each value, where a table does not fit
   */
  private List<String> lines(ShownRows rows, List<List<String>> heads, List<String> labels) {
    for (int width : WIDTHS) {
      if (tableWidth(rows, heads, width) <= style.width()) {
        return table(rows, heads, width);
      }
    }
    return blocks(rows, labels);
  }

  private static int tableWidth(ShownRows rows, List<List<String>> heads, int most) {
    int all = INDENT - BETWEEN;
    for (int i = 0; i < rows.headings().size(); i++) {
      int widest = 0;
      for (List<String> head : heads) {
        widest = Math.max(widest, Layout.columns(Visible.line(head.get(i))));
      }
      for (List<Cell> row : rows.rows()) {
        widest = Math.max(widest, Layout.columns(Cells.cut(Cells.plain(row.get(i)), most)));
      }
      all += widest + BETWEEN;
    }
    return all;
  }

  private List<String> table(ShownRows rows, List<List<String>> heads, int most) {
    List<List<String>> cells = new ArrayList<>();
    for (List<String> head : heads) {
      List<String> line = new ArrayList<>();
      for (int i = 0; i < head.size(); i++) {
        line.add(heading(head.get(i), rows.headings().get(i)));
      }
      cells.add(line);
    }
    rows.rows().forEach(row -> cells.add(row.stream().map(each -> cell(each, most)).toList()));
    return Layout.table(cells, rows.headings().stream().map(Heading::number).toList(), INDENT);
  }

  private List<String> blocks(ShownRows rows, List<String> labels) {
    int widest =
        labels.stream().mapToInt(each -> Layout.columns(Visible.line(each))).max().orElse(0);
    int room = Math.max(14, style.width() - widest - INDENT - BETWEEN);
    List<String> lines = new ArrayList<>();
    int number = 0;
    for (List<Cell> row : rows.rows()) {
      lines.add(style.faint("  row " + ++number));
      for (int i = 0; i < labels.size(); i++) {
        String label = heading(labels.get(i), rows.headings().get(i));
        lines.add("  " + Layout.padded(label, widest) + "  " + cell(row.get(i), room));
      }
    }
    return lines;
  }

  private String heading(String label, Heading heading) {
    String line = Visible.line(label);
    return heading.added() ? style.come(line) : style.strong(line);
  }

  private String cell(Cell cell, int most) {
    String text = Cells.cut(Cells.plain(cell), most);
    return cell.value() == null ? style.faint(text) : text;
  }
}
