package io.lantrel.resolve;

import io.lantrel.catalog.ColumnType;

/**
 * A column of one table use.
 *
 * @param use the table use
 * @param position of the column in it, from 0
 * @param name its name there
 * @param type its type
 * @param nullable whether the table itself can hold NULL there; an outer join may fill in more
 */
public record UseColumn(
    TableUse use, int position, String name, ColumnType type, boolean nullable) {

  /** As a reader writes it: {@code s.name}. */
  public String words() {
    return use.name() + "." + name;
  }

  /** The same as SQL, with quotes where they are needed. */
  public String written() {
    return use.written() + "." + use.dialect().write(name);
  }

  /** Its name in the table, which an alias may have replaced here; its own name for a query. */
  public String tableColumn() {
    return use.table().map(table -> table.columns().get(position).name()).orElse(name);
  }

  @Override
  public boolean equals(Object other) {
    return other instanceof UseColumn column && column.use == use && column.position == position;
  }

  @Override
  public int hashCode() {
    return 31 * System.identityHashCode(use) + position;
  }
}
