package io.lantrel.catalog;

import java.util.List;

/**
 * Columns that identify a row: no two rows agree in all of them. A key of no columns says that
 * there is at most one row.
 *
 * @param columns their names
 * @param primary whether it is the primary key
 */
public record Key(List<String> columns, boolean primary) {
  public Key {
    columns = List.copyOf(columns);
  }
}
