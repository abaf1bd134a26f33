package io.lantrel.report;

import java.util.ArrayList;
import java.util.List;
import java.util.regex.Pattern;
import org.jline.utils.AttributedString;

/** Lines and tables that keep to a width; wide characters count as the columns that they take. */
final class Layout {

  private static final Pattern SPACES = Pattern.compile("\\s+");

  private Layout() {}

  /** Columns that a text takes; colours take none. */
  static int columns(String text) {
    return new AttributedString(Visible.withoutMarks(text)).columnLength();
  }

  static String padded(String text, int width) {
    return text + " ".repeat(Math.max(0, width - columns(text)));
  }

  static String right(String text, int width) {
    return " ".repeat(Math.max(0, width - columns(text))) + text;
  }

  /** A text in lines of at most this width, each behind an indent; words are not broken. */
  static List<String> wrapped(String text, int indent, int width) {
    List<String> lines = new ArrayList<>();
    StringBuilder line = new StringBuilder();
    for (String word : SPACES.splitAsStream(text.strip()).toList()) {
      boolean full = line.length() > 0 && indent + columns(line + " " + word) > width;
      if (full) {
        lines.add(" ".repeat(indent) + line);
        line.setLength(0);
      }
      line.append(line.length() == 0 ? "" : " ").append(word);
    }
    lines.add(" ".repeat(indent) + line);
    return lines;
  }

  /** A line of code in pieces of at most this width, cut at blanks; later pieces are indented. */
  static List<String> folded(String line, int width) {
    List<String> pieces = new ArrayList<>();
    String rest = line;
    while (columns(rest) > width) {
      int cut = rest.lastIndexOf(' ', width);
      if (cut <= rest.length() - rest.stripLeading().length()) {
        break;
      }
      pieces.add(rest.substring(0, cut));
      rest = "    " + rest.substring(cut + 1);
    }
    pieces.add(rest);
    return pieces;
  }

  /** A wrapped text behind a word that stands on its first line only. */
  static List<String> labelled(String label, String text, int indent, int gap, int width) {
    List<String> lines = wrapped(text, indent + gap, width);
    String first = " ".repeat(indent) + padded(label, gap) + lines.get(0).substring(indent + gap);
    List<String> all = new ArrayList<>(List.of(first));
    all.addAll(lines.subList(1, lines.size()));
    return all;
  }

  /**
   * A table: the first row is its head.
   *
   * @param numbers which columns hold numbers, and are set to the right
   */
  static List<String> table(List<List<String>> rows, List<Boolean> numbers, int indent) {
    List<String> lines = new ArrayList<>();
    int columns = rows.get(0).size();
    int[] widths = new int[columns];
    for (List<String> row : rows) {
      for (int i = 0; i < columns; i++) {
        widths[i] = Math.max(widths[i], columns(row.get(i)));
      }
    }
    for (List<String> row : rows) {
      StringBuilder line = new StringBuilder(" ".repeat(indent));
      for (int i = 0; i < columns; i++) {
        String cell = row.get(i);
        line.append(i == 0 ? "" : "  ")
            .append(numbers.get(i) ? right(cell, widths[i]) : padded(cell, widths[i]));
      }
      lines.add(line.toString().stripTrailing());
    }
    return lines;
  }
}
