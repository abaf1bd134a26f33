package io.lantrel.trace;

import java.util.List;

/**
 * Where a column of a result comes from.
 *
 * @param heading of the column
 * @param value what it shows, as it is written
 * @param copied whether it is the value of a column as it is, and nothing is worked out
 * @param from the columns of tables whose values it is worked out from, through queries in FROM and
 *     views; each once, empty if it is a constant
 */
public record ColumnOrigin(String heading, String value, boolean copied, List<OfTable> from) {
  public ColumnOrigin {
    from = List.copyOf(from);
  }

  /**
   * A column of a table.
   *
   * @param table its table
   * @param column its name there
   */
  public record OfTable(String table, String column) {

    /** As {@code station.name}. */
    public String words() {
      return table + "." + column;
    }
  }
}
