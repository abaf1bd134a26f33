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

    R setOperation(SetOperation operation);

    R values(Values values);

    R nested(Nested nested);
  }

  /**
   * A query block: SELECT … FROM … with its clauses (ISO/IEC 9075-2, 7.16). {@code TABLE t} is one
   * too.
   *
   * @param span where it stands
   * @param distinct whether DISTINCT is written
   * @param distinctOn the values of DISTINCT ON, of which one row each stays, or empty
   * @param items the select list
   * @param from the tables; commas are joins of kind {@link JoinKind#COMMA}; null if there is none
   * @param where the condition of WHERE; null if there is none
   * @param groupBy the items of GROUP BY, or empty
   * @param having the condition of HAVING; null if there is none
   * @param windows the windows of WINDOW, or empty
   * @param qualify the condition of QUALIFY; null if there is none
   */
  record Select(
      Span span,
      boolean distinct,
      List<Expression> distinctOn,
      List<SelectItem> items,
      @Nullable FromItem from,
      @Nullable Expression where,
      List<Expression> groupBy,
      @Nullable Expression having,
      List<Window.Named> windows,
      @Nullable Expression qualify)
      implements QueryBody {

    public Select {
      distinctOn = List.copyOf(distinctOn);
      items = List.copyOf(items);
      groupBy = List.copyOf(groupBy);
      windows = List.copyOf(windows);
    }

    /** One without windows. */
    public Select(
        Span span,
        boolean distinct,
        List<SelectItem> items,
        @Nullable FromItem from,
        @Nullable Expression where,
        List<Expression> groupBy,
        @Nullable Expression having) {
      this(span, distinct, List.of(), items, from, where, groupBy, having, List.of(), null);
    }

    /** A plain SELECT that Lantrel writes itself. */
    public static Select of(
        List<SelectItem> items, @Nullable FromItem from, @Nullable Expression where) {
      return new Select(Span.NOWHERE, false, items, from, where, List.of(), null);
    }

    /** The same with another select list. */
    public Select withItems(List<SelectItem> others) {
      return new Select(
          span, distinct, distinctOn, others, from, where, groupBy, having, windows, qualify);
    }

    /** The same with another condition of WHERE. */
    public Select withWhere(@Nullable Expression other) {
      return new Select(
          span, distinct, distinctOn, items, from, other, groupBy, having, windows, qualify);
    }

    @Override
    public List<Node> children() {
      return Node.nodes(distinctOn, items, from, where, groupBy, having, windows, qualify);
    }

    @Override
    public <R> R accept(Visitor<R> visitor) {
      return visitor.select(this);
    }
  }

  /**
   * Bodies put together from left to right (ISO/IEC 9075-2, 7.17).
   *
   * @param span where it stands
   * @param operator how
   * @param all whether equal rows stay; if not, one of them does
   * @param matching the words that say how columns are paired, as {@code BY NAME}; null if by
   *     position
   * @param parts the bodies, at least two; one for a union that Lantrel writes itself
   */
  record SetOperation(
      Span span,
      SetOperator operator,
      boolean all,
      @Nullable String matching,
      List<QueryBody> parts)
      implements QueryBody {

    /**
     * @throws IllegalArgumentException if there is no part
     */
    public SetOperation {
      parts = List.copyOf(parts);
      if (parts.isEmpty()) {
        throw new IllegalArgumentException(operator + " of nothing");
      }
    }

    /** The rows of all parts, one after the other. */
    public static SetOperation unionAll(List<QueryBody> parts) {
      return new SetOperation(Span.NOWHERE, SetOperator.UNION, true, null, parts);
    }

    @Override
    public List<Node> children() {
      return Node.nodes(parts);
    }

    @Override
    public <R> R accept(Visitor<R> visitor) {
      return visitor.setOperation(this);
    }
  }

  /** The ways to put bodies together. */
  enum SetOperator {
    UNION,
    EXCEPT,
    INTERSECT
  }

  /**
   * Rows by their values (ISO/IEC 9075-2, 7.3).
   *
   * @param span where it stands
   * @param rows the rows, each a row value
   */
  record Values(Span span, List<Value.RowValue> rows) implements QueryBody {
    public Values {
      rows = List.copyOf(rows);
    }

    @Override
    public List<Node> children() {
      return Node.nodes(rows);
    }

    @Override
    public <R> R accept(Visitor<R> visitor) {
      return visitor.values(this);
    }
  }

  /**
   * A query in parentheses, which may have an order and a limit of its own.
   *
   * @param span where it stands, with its parentheses
   * @param query the query
   */
  record Nested(Span span, Query query) implements QueryBody {
    @Override
    public List<Node> children() {
      return List.of(query);
    }

    @Override
    public <R> R accept(Visitor<R> visitor) {
      return visitor.nested(this);
    }
  }
}
