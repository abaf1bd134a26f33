package io.lantrel.trace.asked;

import io.lantrel.engine.Rows;
import io.lantrel.engine.ValueText;
import io.lantrel.trace.Answer.TracedValue;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Rows of a result with the mark as their last column.
 *
 * @param rows the rows
 */
record MarkedRows(Rows rows) {

  /** The numbers, from 1, of those with the mark. */
  List<Integer> numbers() {
    List<Integer> numbers = new ArrayList<>();
    for (int i = 0; i < rows.size(); i++) {
      List<@Nullable Object> row = rows.rows().get(i);
      if (row.get(row.size() - 1) instanceof Number number && number.intValue() == 1) {
        numbers.add(i + 1);
      }
    }
    return numbers;
  }

  /** A row as the query itself shows it. */
  List<@Nullable Object> row(int number) {
    return unmarked(rows.rows().get(number - 1));
  }

  /** Without the mark, and without those that a star shows of a query in FROM. */
  private List<@Nullable Object> unmarked(List<@Nullable Object> row) {
    List<@Nullable Object> own = new ArrayList<>();
    for (int i = 0; i < row.size(); i++) {
      if (!MarkedText.isName(rows.headings().get(i))) {
        own.add(row.get(i));
      }
    }
    return own;
  }

  /** How many rows the query shows alike. */
  long alike(List<@Nullable Object> row) {
    return rows.rows().stream().map(this::unmarked).filter(row::equals).count();
  }

  /** A row with its headings. */
  List<TracedValue> values(int number) {
    return values(rows.headings(), rows.rows().get(number - 1));
  }

  /** Any row with its headings; marks are left out. */
  static List<TracedValue> values(List<String> headings, List<@Nullable Object> row) {
    List<TracedValue> values = new ArrayList<>();
    for (int i = 0; i < row.size(); i++) {
      if (!MarkedText.isName(headings.get(i))) {
        Object value = row.get(i);
        values.add(new TracedValue(headings.get(i), value == null ? null : ValueText.of(value)));
      }
    }
    return values;
  }
}
