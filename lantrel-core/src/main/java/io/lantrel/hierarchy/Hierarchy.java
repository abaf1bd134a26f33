package io.lantrel.hierarchy;

import io.lantrel.catalog.Reference;
import io.lantrel.catalog.Table;
import io.lantrel.engine.NamedRow;
import java.math.BigDecimal;
import java.util.List;
import java.util.Optional;

/**
 * A table seen as trees. Every row is in one of them, in a circle, or below one.
 *
 * @param reference by which a row names the row above it; over a junction, by which that names it
 * @param sum the column that is summed up; empty for none
 * @param rows how many rows the table has
 * @param levels how many rows each level has, the roots first
 * @param trees the rows that refer to none, and those that refer to a row that is not there, each
 *     with what is below; of large ones the upper levels
 * @param hidden how many rows of the trees are not among these
 * @param circles rows that refer to each other in a circle, each circle once; a row that refers to
 *     itself is one of its own
 * @param belowCircles how many rows are below a circle, in one that is not named, or deeper than
 *     {@link HierarchyWish#DEEPEST} levels
 * @param junction the junction table over which rows are below others, with each way to a row
 *     counted and shown as one of its own; empty if the table refers to itself
 */
public record Hierarchy(
    Reference reference,
    String sum,
    long rows,
    List<Long> levels,
    List<Node> trees,
    long hidden,
    List<List<NamedRow>> circles,
    long belowCircles,
    Optional<OverJunction> junction) {
  public Hierarchy {
    levels = List.copyOf(levels);
    trees = List.copyOf(trees);
    circles = circles.stream().map(List::copyOf).toList();
  }

  /** The table whose rows these are. */
  public Table table() {
    return reference.to();
  }

  /**
   * One row of a tree.
   *
   * @param row the row by name
   * @param level 1 for the first row of a tree
   * @param size how many rows its subtree has, itself counted
   * @param sum the sum over its subtree; empty if none is wanted, or all of its values are NULL
   * @param refersTo what it refers to that is not there; empty if it refers to none or to the row
   *     above
   * @param below the rows that refer to it, as far as they are shown
   */
  public record Node(
      NamedRow row,
      int level,
      long size,
      Optional<BigDecimal> sum,
      String refersTo,
      List<Node> below) {
    public Node {
      below = List.copyOf(below);
    }

    /** How many rows of its subtree are not shown. */
    public long hidden() {
      return size - shown();
    }

    private long shown() {
      return 1 + below.stream().mapToLong(Node::shown).sum();
    }
  }
}
