package io.lantrel.sql.tree;

import java.util.List;
import org.jspecify.annotations.Nullable;

/** What a query's rows come from. */
public sealed interface QueryBody extends Node {

  /** Calls the method of the visitor that fits. */
  <R> R accept(Visitor<R> visitor);

  /** One method for every kind of body. */
  interface Visitor<R> {
    R select(Select select);

    R unionAll(UnionAll union);
  }

  /**
   * A query block: SELECT … FROM … with its clauses (ISO/IEC 9075-2, 7.16).
   *
   * @param span where it stands
   * @param distinct whether DISTINCT is written
   * @param items the select list
   * @param from the tables; commas are joins of kind {@link JoinKind#COMMA}; null if there is none
   * @param where the condition of WHERE; null if there is none
   * @param groupBy the items of GROUP BY, or empty
   * @param having the condition of HAVING; null if there is none
   */
  record Select(
      Span span,
      boolean distinct,
      List<SelectItem> items,
      @Nullable FromItem from,
      @Nullable Expression where,
      List<Expression> groupBy,
      @Nullable Expression having)
      implements QueryBody {

    public Select {
      items = List.copyOf(items);
      groupBy = List.copyOf(groupBy);
    }

    /** A plain SELECT that Lantrel writes itself. */
    public static Select of(
        List<SelectItem> items, @Nullable FromItem from, @Nullable Expression where) {
      return new Select(Span.NOWHERE, false, items, from, where, List.of(), null);
    }

    @Override
    public List<Node> children() {
      return Node.nodes(items, from, where, groupBy, having);
    }

    @Override
    public <R> R accept(Visitor<R> visitor) {
      return visitor.select(this);
    }
  }

  /**
   * The rows of several bodies, one after the other.
   *
   * @param span where it stands
   * @param parts the bodies, at least one
   */
  record UnionAll(Span span, List<QueryBody> parts) implements QueryBody {

    /**
     * @throws IllegalArgumentException if there is no part
     */
    public UnionAll {
      parts = List.copyOf(parts);
      if (parts.isEmpty()) {
        throw new IllegalArgumentException("UNION ALL of nothing");
      }
    }

    @Override
    public List<Node> children() {
      return Node.nodes(parts);
    }

    @Override
    public <R> R accept(Visitor<R> visitor) {
      return visitor.unionAll(this);
    }
  }
}
