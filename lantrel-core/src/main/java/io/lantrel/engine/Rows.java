package io.lantrel.engine;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Set;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;

/**
 * The rows that a query gave.
 *
 * @param headings the names of the columns
 * @param rows the rows, each with one value, or null for NULL, for every heading
 * @param cut whether there were more rows than were asked for
 * @param worded the columns, counted from 0, with values that are told as a text and are none:
 *     bytes, documents, arrays and the like
 */
public record Rows(
    List<String> headings, List<List<@Nullable Object>> rows, boolean cut, Set<Integer> worded) {
  public Rows {
    headings = List.copyOf(headings);
    worded = Set.copyOf(worded);
    rows = rows.stream().map(row -> Collections.unmodifiableList(new ArrayList<>(row))).toList();
  }

  /** Rows whose values are all plain. */
  public Rows(List<String> headings, List<List<@Nullable Object>> rows, boolean cut) {
    this(headings, rows, cut, Set.of());
  }

  /**
   * One of the rows alone.
   *
   * @param row counted from 0
   */
  public Rows only(int row) {
    return new Rows(headings, List.of(rows.get(row)), cut, worded);
  }

  /** Those of the rows that meet a condition. */
  public Rows where(Predicate<List<@Nullable Object>> condition) {
    return new Rows(headings, rows.stream().filter(condition).toList(), cut, worded);
  }

  /**
   * A figure in the first row; NULL counts as 0, as a sum over no rows does.
   *
   * @param column counted from 0
   */
  public long figure(int column) {
    return figure(0, column);
  }

  /**
   * A figure in any row; NULL counts as 0.
   *
   * @param row counted from 0
   * @param column counted from 0
   */
  public long figure(int row, int column) {
    Object value = rows.get(row).get(column);
    return value == null ? 0 : ((Number) value).longValue();
  }

  /** Number of rows here. */
  public int size() {
    return rows.size();
  }
}
