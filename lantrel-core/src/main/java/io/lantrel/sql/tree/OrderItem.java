package io.lantrel.sql.tree;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * One item of ORDER BY.
 *
 * @param span where it stands
 * @param value what is ordered by
 * @param descending whether DESC is written
 * @param nullsFirst whether NULLS FIRST or NULLS LAST is written; null if neither is
 */
public record OrderItem(
    Span span, Expression value, boolean descending, @Nullable Boolean nullsFirst) implements Node {

  /** Ascending and NULLs last, whatever the engine does by itself. */
  public static OrderItem by(Expression value) {
    return new OrderItem(Span.NOWHERE, value, false, false);
  }

  @Override
  public List<Node> children() {
    return List.of(value);
  }
}
