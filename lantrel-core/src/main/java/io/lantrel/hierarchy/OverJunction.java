package io.lantrel.hierarchy;

import io.lantrel.catalog.Reference;
import io.lantrel.catalog.Table;
import io.lantrel.engine.NamedRow;
import java.util.List;

/**
 * How a row can be below several others: a junction table names pairs of rows of one table. Every
 * way to a row counts then, so that a row has a place below each that it is below.
 *
 * @param below the reference by which the junction names the lower row
 * @param above the one by which it names the upper row
 * @param pairs how many different pairs it names
 * @param broken how many of these name a row that is not there
 * @param shared rows that are below several, the first of them
 * @param sharing how many rows are below several
 */
public record OverJunction(
    Reference below,
    Reference above,
    long pairs,
    long broken,
    List<SharedRow> shared,
    long sharing) {
  public OverJunction {
    shared = List.copyOf(shared);
  }

  /** The junction table. */
  public Table table() {
    return above.from();
  }

  /**
   * A row that is below several others.
   *
   * @param row the row by name
   * @param above how many others it is directly below
   */
  public record SharedRow(NamedRow row, long above) {}
}
