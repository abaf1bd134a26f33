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

    R function(TableFunction function);

    R join(Join join);
  }

  /**
   * A table by its name.
   *
   * @param span where it stands, with its alias
   * @param only whether ONLY is written: without the rows of tables that inherit from it
   * @param name its name in parts: schema, table
   * @param partition the clause PARTITION as written; null if there is none
   * @param alias its alias; null if it has none
   * @param sample the clause TABLESAMPLE as written; null if there is none
   */
  record TableName(
      Span span,
      boolean only,
      List<Identifier> name,
      @Nullable String partition,
      @Nullable Alias alias,
      @Nullable String sample)
      implements FromItem {
    public TableName {
      name = List.copyOf(name);
    }

    /** A table and its alias, without more. */
    public TableName(Span span, List<Identifier> name, @Nullable Alias alias) {
      this(span, false, name, null, alias, null);
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
   * @param lateral whether it may use columns of the items before it
   * @param query the query
   * @param alias its alias; null if it has none
   */
  record DerivedTable(Span span, boolean lateral, Query query, @Nullable Alias alias)
      implements FromItem {

    /** One that stands on its own. */
    public DerivedTable(Span span, Query query, @Nullable Alias alias) {
      this(span, false, query, alias);
    }

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
   * The rows that a function gives. It may use columns of the items before it.
   *
   * @param span where it stands, with its alias
   * @param lateral whether LATERAL is written
   * @param calls the functions: one, or several side by side by ROWS FROM
   * @param ordinality whether a column with the number of the row is added
   * @param alias its alias; null if it has none
   */
  record TableFunction(
      Span span, boolean lateral, List<Expression> calls, boolean ordinality, @Nullable Alias alias)
      implements FromItem {
    public TableFunction {
      calls = List.copyOf(calls);
    }

    @Override
    public List<Node> children() {
      return Node.nodes(calls, alias);
    }

    @Override
    public <R> R accept(Visitor<R> visitor) {
      return visitor.function(this);
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
   * @param alias the name that the join in parentheses goes by; null if it has none
   * @param way how partners are found if not by the condition alone
   */
  record Join(
      Span span,
      FromItem left,
      JoinKind kind,
      boolean natural,
      FromItem right,
      @Nullable JoinCondition condition,
      Span keyword,
      boolean inParentheses,
      @Nullable Alias alias,
      Way way)
      implements FromItem {

    /** Whether it says JOIN, and neither NATURAL nor any condition, as some products allow. */
    public boolean isBare() {
      return kind == JoinKind.INNER && !natural && condition == null && way == Way.BY_CONDITION;
    }

    /** A join without a name of its own. */
    public Join(
        Span span,
        FromItem left,
        JoinKind kind,
        boolean natural,
        FromItem right,
        @Nullable JoinCondition condition,
        Span keyword,
        boolean inParentheses) {
      this(
          span,
          left,
          kind,
          natural,
          right,
          condition,
          keyword,
          inParentheses,
          null,
          Way.BY_CONDITION);
    }

    /** A join that Lantrel writes itself. */
    public static Join of(
        FromItem left, JoinKind kind, FromItem right, @Nullable Expression condition) {
      JoinCondition on = condition == null ? null : new JoinCondition.On(Span.NOWHERE, condition);
      return new Join(Span.NOWHERE, left, kind, false, right, on, Span.NOWHERE, false);
    }

    @Override
    public List<Node> children() {
      return Node.nodes(left, right, condition, alias);
    }

    @Override
    public <R> R accept(Visitor<R> visitor) {
      return visitor.join(this);
    }
  }

  /** How the partners of a row are found. */
  enum Way {
    /** By the condition of the join. */
    BY_CONDITION(""),
    /** Only whether there is one counts; its columns are not seen. */
    SEMI("SEMI "),
    /** Only that there is none counts. */
    ANTI("ANTI "),
    /** The nearest of those that meet the condition. */
    NEAREST("ASOF "),
    /** The one at the same place in the other table. */
    BY_POSITION("POSITIONAL ");

    private final String words;

    Way(String words) {
      this.words = words;
    }

    /** What is written before the words of the join. */
    public String words() {
      return words;
    }
  }
}
