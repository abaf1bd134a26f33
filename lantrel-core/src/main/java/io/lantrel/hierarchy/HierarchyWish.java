package io.lantrel.hierarchy;

import io.lantrel.survey.walk.HierarchyWalk;

/**
 * Which hierarchy is to be looked at, and how much of it.
 *
 * @param table the table that refers to itself
 * @param by the column by which it does so; empty if there is only one
 * @param sum a column that is summed up the tree; empty for none
 * @param levels how many levels are shown at most; 0 for as many as the rows allow
 * @param rows how many rows are shown at most, at least 1
 */
public record HierarchyWish(String table, String by, String sum, int levels, int rows) {

  /** No hierarchy is walked deeper than so many levels: not every engine goes further. */
  public static final int DEEPEST = HierarchyWalk.DEEPEST;

  /** How many rows are shown, if nothing else is asked for. */
  public static final int ROWS = 100;

  /** The hierarchy of a table that refers to itself in one way. */
  public static HierarchyWish of(String table) {
    return new HierarchyWish(table, "", "", 0, ROWS);
  }

  /** The same along this column. */
  public HierarchyWish by(String column) {
    return new HierarchyWish(table, column, sum, levels, rows);
  }

  /** The same with a column summed up. */
  public HierarchyWish summing(String column) {
    return new HierarchyWish(table, by, column, levels, rows);
  }

  /** The same with at most so many levels and rows shown. */
  public HierarchyWish showing(int mostLevels, int mostRows) {
    return new HierarchyWish(table, by, sum, mostLevels, mostRows);
  }
}
