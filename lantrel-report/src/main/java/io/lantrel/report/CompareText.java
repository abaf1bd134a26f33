package io.lantrel.report;

import io.lantrel.compare.Comparison;
import io.lantrel.compare.Differences;
import io.lantrel.compare.Differences.Change;
import io.lantrel.compare.Differences.LoneRow;
import io.lantrel.compare.Verdict;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/** Comparisons for a terminal: the verdict, why, and the rows that differ under each other. */
public final class CompareText {

  private static final int WIDEST_NAME = 24;
  private static final int INDENT = 2;
  private static final int BETWEEN = 2;

  private final Style style;

  public CompareText(Style style) {
    this.style = style;
  }

  /** One pair. */
  public String pair(ComparedPair pair) {
    Comparison comparison = pair.comparison();
    List<String> lines = new ArrayList<>();
    lines.add(
        style.strong(Visible.line(pair.first()) + " and " + Visible.line(pair.second()))
            + ": "
            + verdict(comparison.verdict()));
    lines.addAll(sentence(comparison.reason()));
    if (comparison.verdict() == Verdict.DIFFERENT && comparison.first().isPresent()) {
      lines.add(style.faint("  " + counts(pair)));
    }
    comparison.headings().forEach(other -> lines.addAll(sentence("note: " + other)));
    comparison.remarks().forEach(remark -> lines.addAll(sentence("note: " + remark)));
    comparison
        .differences()
        .ifPresent(each -> lines.addAll(differences(pair.first(), pair.second(), each)));
    return String.join("\n", lines) + "\n";
  }

  /** Which of several give the same rows, in a line for each group. */
  public String groups(List<Group> groups) {
    List<String> lines = new ArrayList<>();
    for (Group group : groups) {
      String names = Words.list(group.names().stream().map(Visible::line).toList());
      lines.add(
          style.strong(names)
              + ": "
              + (group.names().size() == 1
                  ? "like no other"
                  : verdict(group.proven() ? Verdict.SAME : Verdict.SAME_HERE)));
    }
    return String.join("\n", lines) + "\n";
  }

  /**
   * Results that are the same.
   *
   * @param names what they are called
   * @param proven whether they are so for all data
   */
  public record Group(List<String> names, boolean proven) {
    public Group {
      names = List.copyOf(names);
    }
  }

  private List<String> sentence(String text) {
    return Layout.wrapped(Visible.line(text), INDENT, style.width());
  }

  private static String counts(ComparedPair pair) {
    long first = pair.comparison().first().orElse(0);
    long second = pair.comparison().second().orElse(0);
    return first == second
        ? Words.rows(first) + " in each"
        : Words.rows(first)
            + " in "
            + Visible.line(pair.first())
            + ", "
            + Words.number(second)
            + " in "
            + Visible.line(pair.second());
  }

  private String verdict(Verdict verdict) {
    return switch (verdict) {
      case SAME -> style.come("the same rows, proven");
      case SAME_HERE -> style.come("the same rows on this data");
      case DIFFERENT -> style.gone("different");
      case UNDECIDED -> style.marked("undecided");
    };
  }

  // ---- rows ----

  private record Line(String where, List<@Nullable String> cells, Set<Integer> marked) {}

  /** The rows in which two results differ; no line if none are shown. */
  List<String> differences(String first, String second, Differences differences) {
    if (differences.changes().isEmpty() && differences.lone().isEmpty()) {
      return List.of();
    }
    List<Line> all = new ArrayList<>();
    differences.changes().forEach(change -> all.addAll(lines(first, second, change)));
    differences.lone().forEach(row -> all.add(line(first, second, row)));
    List<String> lines = new ArrayList<>(List.of(""));
    lines.addAll(fits(differences, all) ? table(differences, all) : blocks(differences, all));
    if (differences.hasMore()) {
      lines.add(style.faint("  " + more(differences)));
    }
    return lines;
  }

  private static String more(Differences differences) {
    long shown =
        differences.changes().size()
            + differences.lone().stream()
                .mapToLong(row -> Math.abs(row.first() - row.second()))
                .sum();
    long all = differences.onlyFirst() + differences.onlySecond() + differences.changed();
    return "and "
        + Words.rows(all - shown)
        + " more"
        + (differences.counted() ? "" : ", not paired");
  }

  private static String name(String name) {
    return Cells.cut(Visible.line(name), WIDEST_NAME);
  }

  /** What is the same stands in the first line alone. */
  private static List<Line> lines(String one, String other, Change change) {
    Set<Integer> marked = new TreeSet<>(change.cells());
    List<@Nullable String> second = new ArrayList<>();
    for (int i = 0; i < change.second().size(); i++) {
      second.add(marked.contains(i) ? Cells.plain(change.second().get(i), false) : null);
    }
    return List.of(
        new Line(name(one), texts(change.first()), marked), new Line(name(other), second, marked));
  }

  private static List<@Nullable String> texts(List<@Nullable Object> values) {
    List<@Nullable String> texts = new ArrayList<>();
    values.forEach(value -> texts.add(Cells.plain(value, false)));
    return texts;
  }

  private static Line line(String first, String second, LoneRow row) {
    String where;
    if (row.first() > 0 && row.second() > 0) {
      where = row.first() + " in " + name(first) + ", " + row.second() + " in " + name(second);
    } else {
      long times = Math.max(row.first(), row.second());
      where =
          "only "
              + name(row.first() > 0 ? first : second)
              + (times > 1 ? ", " + Words.number(times) + " times" : "");
    }
    return new Line(where, texts(row.values()), Set.of());
  }

  private boolean fits(Differences differences, List<Line> lines) {
    int width = INDENT - BETWEEN + widest(lines.stream().map(Line::where).toList()) + BETWEEN;
    for (int i = 0; i < differences.headings().size(); i++) {
      width += widest(column(differences, lines, i)) + BETWEEN;
    }
    return width <= style.width();
  }

  private static List<String> column(Differences differences, List<Line> lines, int column) {
    List<String> texts = new ArrayList<>(List.of(Visible.line(differences.headings().get(column))));
    lines.forEach(line -> texts.add(cut(line.cells().get(column))));
    return texts;
  }

  private static int widest(List<String> texts) {
    return texts.stream().mapToInt(Layout::columns).max().orElse(0);
  }

  private static String cut(@Nullable String cell) {
    return cell == null ? "" : Cells.cut(cell, RowsText.WIDTHS.get(1));
  }

  private List<String> table(Differences differences, List<Line> lines) {
    List<List<String>> cells = new ArrayList<>();
    List<String> head = new ArrayList<>(List.of(""));
    differences.headings().forEach(heading -> head.add(style.strong(Visible.line(heading))));
    cells.add(head);
    for (Line line : lines) {
      List<String> row = new ArrayList<>(List.of(style.faint(line.where())));
      for (int i = 0; i < line.cells().size(); i++) {
        String text = cut(line.cells().get(i));
        row.add(line.marked().contains(i) ? style.marked(text) : text);
      }
      cells.add(row);
    }
    List<Boolean> right = new ArrayList<>(List.of(false));
    IntStream.range(0, differences.headings().size())
        .forEach(i -> right.add(isNumber(differences, i)));
    return Layout.table(cells, right, INDENT);
  }

  private static boolean isNumber(Differences differences, int column) {
    List<@Nullable Object> values = new ArrayList<>();
    differences.lone().forEach(row -> values.add(row.values().get(column)));
    differences.changes().forEach(change -> values.add(change.first().get(column)));
    return values.stream().allMatch(value -> value == null || value instanceof Number);
  }

  private List<String> blocks(Differences differences, List<Line> lines) {
    List<String> labels = differences.headings().stream().map(Visible::line).toList();
    int widest = widest(labels);
    int room = Math.max(14, style.width() - widest - INDENT - BETWEEN);
    List<String> text = new ArrayList<>();
    for (Line line : lines) {
      text.add(style.faint("  " + line.where()));
      for (int i = 0; i < labels.size(); i++) {
        @Nullable String cell = line.cells().get(i);
        if (cell != null) {
          String cut = Cells.cut(cell, room);
          text.add(
              "  "
                  + Layout.padded(style.strong(labels.get(i)), widest)
                  + "  "
                  + (line.marked().contains(i) ? style.marked(cut) : cut));
        }
      }
    }
    return text;
  }
}
