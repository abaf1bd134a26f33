package io.lantrel.hierarchy;

import io.lantrel.survey.walk.HierarchyWalk;

/**
 * Which hierarchy is to be looked at, and how much of it.
 *
 * @param table the table that refers to itself, or whose rows a junction puts below each other
 * @param over the junction table; empty for none
 * @param by the column by which the row above is named; empty if there is only one
 * @param sum a column that is summed up the tree; empty for none
 * @param levels how many levels are shown at most; 0 for as many as the rows allow
 * @param rows how many rows are shown at most, at least 1
 */
public record HierarchyWish(
    String table, String over, String by, String sum, int levels, int rows) {

  /** No hierarchy is walked deeper than so many levels: not every engine goes further. */
  public static final int DEEPEST = HierarchyWalk.DEEPEST;

  /** How many rows are shown, if nothing else is asked for. */
  public static final int ROWS = 100;

  /** The hierarchy of a table that refers to itself in one way. */
  public static HierarchyWish of(String table) {
    return new HierarchyWish(table, "", "", "", 0, ROWS);
  }

  /** The same over a junction table, which refers to the table twice. */
  public HierarchyWish over(String junction) {
    return new HierarchyWish(table, junction, by, sum, levels, rows);
  }

  /** The same along this column. */
  public HierarchyWish by(String column) {
    return new HierarchyWish(table, over, column, sum, levels, rows);
  }

  /** The same with a column summed up. */
  public HierarchyWish summing(String column) {
    return new HierarchyWish(table, over, by, column, levels, rows);
  }

  /** The same with at most so many levels and rows shown. */
  public HierarchyWish showing(int mostLevels, int mostRows) {
    return new HierarchyWish(table, over, by, sum, mostLevels, mostRows);
  }
}
