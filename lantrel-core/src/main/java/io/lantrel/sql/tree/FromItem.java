package io.lantrel.sql.tree;

import java.util.List;
import org.jspecify.annotations.Nullable;

/** A table of FROM, or a join of several. */
public sealed interface FromItem extends Node {

  /** Calls the method of the visitor that fits. */
  <R> R accept(Visitor<R> visitor);

  /** One method for every kind of item. */
  interface Visitor<R> {
    R table(TableName table);

    R derived(DerivedTable table);

    R join(Join join);
  }

  /**
   * A table by its name.
   *
   * @param span where it stands, with its alias
   * @param name its name in parts: schema, table
   * @param alias its alias; null if it has none
   */
  record TableName(Span span, List<Identifier> name, @Nullable Alias alias) implements FromItem {
    public TableName {
      name = List.copyOf(name);
    }

    /** A table that Lantrel names itself. */
    public static TableName of(String name) {
      return new TableName(Span.NOWHERE, List.of(Identifier.of(name)), null);
    }

    /** The last part of the name. */
    public Identifier last() {
      return name.get(name.size() - 1);
    }

    @Override
    public List<Node> children() {
      return Node.nodes(name, alias);
    }

    @Override
    public <R> R accept(Visitor<R> visitor) {
      return visitor.table(this);
    }
  }

  /**
   * A query in FROM.
   *
   * @param span where it stands, with its parentheses and its alias
   * @param query the query
   * @param alias its alias; null if it has none
   */
  record DerivedTable(Span span, Query query, @Nullable Alias alias) implements FromItem {
    @Override
    public List<Node> children() {
      return Node.nodes(query, alias);
    }

    @Override
    public <R> R accept(Visitor<R> visitor) {
      return visitor.derived(this);
    }
  }

  /**
   * Two items joined.
   *
   * @param span where it stands, from the left item to the end of the condition
   * @param left the rows so far
   * @param kind the kind of join
   * @param natural whether NATURAL is written
   * @param right the item that is joined
   * @param condition ON or USING; null for CROSS, NATURAL and the comma
   * @param keyword where the words of the join stand ({@code LEFT JOIN}, or the comma)
   * @param inParentheses whether the join as a whole stands in parentheses
   */
  record Join(
      Span span,
      FromItem left,
      JoinKind kind,
      boolean natural,
      FromItem right,
      @Nullable JoinCondition condition,
      Span keyword,
      boolean inParentheses)
      implements FromItem {

    /** A join that Lantrel writes itself. */
    public static Join of(
        FromItem left, JoinKind kind, FromItem right, @Nullable Expression condition) {
      JoinCondition on = condition == null ? null : new JoinCondition.On(Span.NOWHERE, condition);
      return new Join(Span.NOWHERE, left, kind, false, right, on, Span.NOWHERE, false);
    }

    @Override
    public List<Node> children() {
      return Node.nodes(left, right, condition);
    }

    @Override
    public <R> R accept(Visitor<R> visitor) {
      return visitor.join(this);
    }
  }
}
