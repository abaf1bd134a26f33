package io.lantrel.sample;

import io.lantrel.catalog.Table;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What is taken of a table.
 *
 * @param table the table
 * @param there how many rows the database has
 * @param rows the rows, each with a text, or null for NULL, for every column
 */
public record SampledTable(Table table, long there, List<List<@Nullable String>> rows) {
  public SampledTable {
    rows = rows.stream().map(row -> Collections.unmodifiableList(new ArrayList<>(row))).toList();
  }

  /** Whether all of it is taken. */
  public boolean isWhole() {
    return rows.size() == there;
  }
}
