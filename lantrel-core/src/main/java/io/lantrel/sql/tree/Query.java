package io.lantrel.sql.tree;

import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * A query expression (ISO/IEC 9075-2, 7.17): a body, and what is done to all its rows.
 *
 * @param span where it stands
 * @param recursive whether RECURSIVE is written
 * @param with queries that the body can name, in order
 * @param body the rows
 * @param orderBy their order, or empty
 * @param limit how many of them; null for all
 */
public record Query(
    Span span,
    boolean recursive,
    List<CommonTable> with,
    QueryBody body,
    List<OrderItem> orderBy,
    @Nullable Limit limit)
    implements Node {

  public Query {
    with = List.copyOf(with);
    orderBy = List.copyOf(orderBy);
  }

  /** A query that is just its body. */
  public static Query of(QueryBody body) {
    return new Query(Span.NOWHERE, false, List.of(), body, List.of(), null);
  }

  /** The same with another body. */
  public Query withBody(QueryBody other) {
    return new Query(span, recursive, with, other, orderBy, limit);
  }

  /** Whether only its first row comes. */
  public boolean isCutAfterFirst() {
    return limit != null && limit.isFirstAlone();
  }

  /** The first parameter in it whose value the program must give; empty if there is none. */
  public Optional<Value.Parameter> openParameter() {
    return preorder()
        .filter(Value.Parameter.class::isInstance)
        .map(Value.Parameter.class::cast)
        .filter(Value.Parameter::isOpen)
        .findFirst();
  }

  @Override
  public List<Node> children() {
    return Node.nodes(with, body, orderBy, limit);
  }
}
