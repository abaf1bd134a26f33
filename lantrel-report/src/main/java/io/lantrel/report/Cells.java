package io.lantrel.report;

import io.lantrel.engine.ValueText;
import io.lantrel.rows.ShownRows.Cell;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** Values in the cells of a table on a terminal. */
final class Cells {

  static final String NULL = "NULL";
  static final String FILLED = "·";

  private Cells() {}

  static String plain(Cell cell) {
    return plain(cell.value(), cell.filled());
  }

  /** A value in one line; what could be taken for something else stands in quotes. */
  static String plain(@Nullable Object value, boolean filled) {
    if (value == null) {
      return filled ? FILLED : NULL;
    }
    String text = Visible.line(ValueText.of(value));
    boolean misleading =
        text.isBlank() || !text.equals(text.strip()) || Set.of(NULL, FILLED).contains(text);
    return misleading ? "'" + text + "'" : text;
  }

  /** At most so many columns of a terminal, with a mark where something is left out. */
  static String cut(String text, int most) {
    if (Layout.columns(text) <= most) {
      return text;
    }
    int end = Math.min(text.length(), most - 1);
    while (end > 0 && Layout.columns(text.substring(0, end)) > most - 1) {
      end--;
    }
    return text.substring(
            0, end > 0 && Character.isHighSurrogate(text.charAt(end - 1)) ? end - 1 : end)
        + "…";
  }
}
