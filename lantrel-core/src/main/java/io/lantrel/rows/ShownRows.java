package io.lantrel.rows;

import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Rows that are looked at: some, and how many there are in all.
 *
 * @param headings of the columns, in order
 * @param rows some of the rows, each with a cell for every heading
 * @param count how many rows there are in all
 */
public record ShownRows(List<Heading> headings, List<List<Cell>> rows, long count) {
  public ShownRows {
    headings = List.copyOf(headings);
    rows = rows.stream().map(List::copyOf).toList();
  }

  /**
   * A column.
   *
   * @param name its name
   * @param table what the table goes by whose column it is; empty if it is of none
   * @param number whether it holds numbers
   * @param added whether the table came with the last join
   */
  public record Heading(String name, String table, boolean number, boolean added) {

    /** With the table before it, if it is of one. */
    public String whole() {
      return table.isEmpty() ? name : table + "." + name;
    }
  }

  /**
   * One value.
   *
   * @param value it; null for NULL
   * @param filled whether it is NULL only because an outer join filled the row
   */
  public record Cell(@Nullable Object value, boolean filled) {}

  /**
   * The headings as texts of which no two are alike: a name that comes twice has its table before
   * it, and a number behind it if that does not tell it apart either.
   */
  public List<String> labels() {
    List<String> labels = new ArrayList<>();
    for (Heading heading : headings) {
      boolean once = headings.stream().filter(each -> isSame(each, heading)).count() == 1;
      String label = once ? heading.name() : heading.whole();
      int number = 2;
      String free = label;
      while (labels.contains(free)) {
        free = label + " (" + number++ + ")";
      }
      labels.add(free);
    }
    return labels;
  }

  private static boolean isSame(Heading one, Heading other) {
    return one.name().equalsIgnoreCase(other.name());
  }

  /** Whether some cell was filled by an outer join. */
  public boolean hasFilled() {
    return rows.stream().flatMap(List::stream).anyMatch(Cell::filled);
  }
}
