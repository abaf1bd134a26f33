package io.lantrel.sql.tree;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * LIMIT and OFFSET, or FETCH FIRST.
 *
 * @param span where it stands
 * @param count how many rows at most; null for no limit
 * @param skip how many rows are passed over first; null for none
 */
public record Limit(Span span, @Nullable Expression count, @Nullable Expression skip)
    implements Node {

  @Override
  public List<Node> children() {
    return Node.nodes(count, skip);
  }
}
