package io.lantrel.survey;

import io.lantrel.catalog.Column;
import io.lantrel.catalog.Table;
import java.math.BigDecimal;
import java.util.List;
import java.util.OptionalLong;
import org.jspecify.annotations.Nullable;

/**
 * What one pass over a table told.
 *
 * @param table the table
 * @param rows how many rows
 * @param columns figures of each column, in order
 */
record TableFigures(Table table, long rows, List<ColumnFigures> columns) {

  TableFigures {
    columns = List.copyOf(columns);
  }

  ColumnFigures column(String name) {
    return columns.stream()
        .filter(each -> each.column().name().equals(name))
        .findFirst()
        .orElseThrow();
  }

  /** Whether no two rows agree in a column, and none is empty there. */
  boolean isUnique(ColumnFigures column) {
    return rows > 0 && column.filled() == rows && column.different().orElse(0) == rows;
  }

  /**
   * Figures of one column.
   *
   * @param filled rows in which it is not NULL
   * @param different how many different values; empty if that was not asked
   * @param least the least value of a number; null for others
   * @param greatest the greatest value of a number; null for others
   */
  record ColumnFigures(
      Column column,
      long filled,
      OptionalLong different,
      @Nullable BigDecimal least,
      @Nullable BigDecimal greatest) {

    long values() {
      return different.orElse(0);
    }

    /** Whether most numbers between the least and the greatest are there, as in any list of ids. */
    boolean isDense() {
      return least != null
          && greatest != null
          && greatest.subtract(least).doubleValue() < 2.0 * values();
    }

    /** Whether every whole number between the least and the greatest is there. */
    boolean isWithoutGap() {
      return least != null && greatest != null && greatest.subtract(least).doubleValue() < values();
    }

    /** Whether all values lie within those of another column; true where nobody knows. */
    boolean isWithin(ColumnFigures other) {
      return least == null
          || greatest == null
          || other.least == null
          || other.greatest == null
          || (least.compareTo(other.least) >= 0 && greatest.compareTo(other.greatest) <= 0);
    }
  }
}
