package io.lantrel.sql.tree;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Which rows a window function looks at (ISO/IEC 9075-2, 7.15).
 *
 * @param span where it stands
 * @param base the named window that it goes by or builds on; null if there is none
 * @param nameOnly whether only that name is written, without parentheses
 * @param partitionBy what the rows are divided by, or empty
 * @param orderBy their order, or empty
 * @param frame which of them; null if none is written
 */
public record Window(
    Span span,
    @Nullable Identifier base,
    boolean nameOnly,
    List<Expression> partitionBy,
    List<OrderItem> orderBy,
    @Nullable Frame frame)
    implements Node {

  public Window {
    partitionBy = List.copyOf(partitionBy);
    orderBy = List.copyOf(orderBy);
  }

  @Override
  public List<Node> children() {
    return Node.nodes(base, partitionBy, orderBy, frame);
  }

  /**
   * A window under a name, of the clause WINDOW.
   *
   * @param span where it stands
   * @param name its name
   * @param window what it is
   */
  public record Named(Span span, Identifier name, Window window) implements Node {
    @Override
    public List<Node> children() {
      return List.of(name, window);
    }
  }

  /**
   * From which row to which.
   *
   * @param span where it stands
   * @param unit ROWS, RANGE or GROUPS
   * @param start where it begins
   * @param end where it ends; null if it ends at the current row
   * @param exclusion the words behind EXCLUDE; null if it is not written
   */
  public record Frame(
      Span span, String unit, Bound start, @Nullable Bound end, @Nullable String exclusion)
      implements Node {
    @Override
    public List<Node> children() {
      return Node.nodes(start, end);
    }
  }

  /**
   * One end of a frame.
   *
   * @param span where it stands
   * @param distance how far from the current row; null for CURRENT ROW and UNBOUNDED
   * @param words CURRENT ROW, UNBOUNDED PRECEDING, PRECEDING or the like
   */
  public record Bound(Span span, @Nullable Expression distance, String words) implements Node {
    @Override
    public List<Node> children() {
      return Node.nodes(distance);
    }
  }
}
