package io.lantrel.sql.tree;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * LIMIT and OFFSET, FETCH FIRST, or TOP.
 *
 * @param span where it stands
 * @param count how many rows at most; null for no limit
 * @param skip how many rows are passed over first; null for none
 * @param percent whether the count is a share of all rows
 * @param withTies whether rows that equal the last one in the order come too
 */
public record Limit(
    Span span,
    @Nullable Expression count,
    @Nullable Expression skip,
    boolean percent,
    boolean withTies)
    implements Node {

  /** So many rows at most. */
  public static Limit of(long rows) {
    return new Limit(Span.NOWHERE, Value.Literal.number(rows), null, false, false);
  }

  /** Whether it lets the first row through, and no other. */
  public boolean isFirstAlone() {
    return skip == null
        && !percent
        && !withTies
        && count instanceof Value.Literal literal
        && literal.text().equals("1");
  }

  @Override
  public List<Node> children() {
    return Node.nodes(count, skip);
  }
}
