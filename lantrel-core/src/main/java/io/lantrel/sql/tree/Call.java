package io.lantrel.sql.tree;

import java.util.List;
import org.jspecify.annotations.Nullable;

/** A call of a function (ISO/IEC 9075-2, 6.10, 6.11, 10.9), and what only stands in one. */
public sealed interface Call extends Expression {

  /**
   * A call of a function, an aggregate or a window function.
   *
   * @param span where it stands
   * @param name its name in parts
   * @param star whether its argument is {@code *}
   * @param distinct whether DISTINCT is written
   * @param arguments its arguments
   * @param orderBy the order of the values within it, or empty
   * @param separator what stands between the values; null if not given
   * @param withinGroup the order of WITHIN GROUP, or empty
   * @param filter the condition of FILTER; null if there is none
   * @param clauses words at the end within the parentheses, as {@code NULL ON NULL}; null if there
   *     are none
   * @param treatment words between the parentheses and OVER, as {@code IGNORE NULLS}; null if there
   *     are none
   * @param over the window of OVER; null if there is none
   */
  record FunctionCall(
      Span span,
      List<Identifier> name,
      boolean star,
      boolean distinct,
      List<Expression> arguments,
      List<OrderItem> orderBy,
      @Nullable Expression separator,
      List<OrderItem> withinGroup,
      @Nullable Expression filter,
      @Nullable String clauses,
      @Nullable String treatment,
      @Nullable Window over)
      implements Call {
    public FunctionCall {
      name = List.copyOf(name);
      arguments = List.copyOf(arguments);
      orderBy = List.copyOf(orderBy);
      withinGroup = List.copyOf(withinGroup);
    }

    /** A plain call. */
    public FunctionCall(
        Span span,
        List<Identifier> name,
        boolean star,
        boolean distinct,
        List<Expression> arguments,
        @Nullable Expression filter) {
      this(
          span, name, star, distinct, arguments, List.of(), null, List.of(), filter, null, null,
          null);
    }

    /** A call that Lantrel writes itself. */
    public static FunctionCall of(String name, Expression... arguments) {
      return new FunctionCall(
          Span.NOWHERE, List.of(Identifier.of(name)), false, false, List.of(arguments), null);
    }

    /** {@code COUNT(*)}. */
    public static FunctionCall countAll() {
      return new FunctionCall(
          Span.NOWHERE, List.of(Identifier.of("COUNT")), true, false, List.of(), null);
    }

    /** The same for all rows: {@code SUM(x) OVER ()}. */
    public static FunctionCall overAll(String name, Expression argument) {
      return new FunctionCall(
          Span.NOWHERE,
          List.of(Identifier.of(name)),
          false,
          false,
          List.of(argument),
          List.of(),
          null,
          List.of(),
          null,
          null,
          null,
          new Window(Span.NOWHERE, null, false, List.of(), List.of(), null));
    }

    /**
     * {@code row_number() OVER (ORDER BY …)}: Lantrel's probes tell rows apart by it.
     *
     * @param order what the rows are put in order by; empty for any order
     */
    public static FunctionCall rowNumber(List<Expression> order) {
      List<OrderItem> items =
          order.stream().map(each -> new OrderItem(Span.NOWHERE, each, false, null)).toList();
      return over("row_number", new Window(Span.NOWHERE, null, false, List.of(), items, null));
    }

    /** A function over a window. */
    public static FunctionCall over(String name, Window window, Expression... arguments) {
      return new FunctionCall(
          Span.NOWHERE,
          List.of(Identifier.of(name)),
          false,
          false,
          List.of(arguments),
          List.of(),
          null,
          List.of(),
          null,
          null,
          null,
          window);
    }

    /** The same call with DISTINCT. */
    public FunctionCall withDistinct() {
      return new FunctionCall(
          span,
          name,
          star,
          true,
          arguments,
          orderBy,
          separator,
          withinGroup,
          filter,
          clauses,
          treatment,
          over);
    }

    /** The last part of the name, in lower case. */
    public String key() {
      return name.get(name.size() - 1).key();
    }

    @Override
    public List<Node> children() {
      return Node.nodes(name, arguments, orderBy, separator, withinGroup, filter, over);
    }

    @Override
    public FunctionCall at(Span place) {
      return new FunctionCall(
          place,
          name,
          star,
          distinct,
          arguments,
          orderBy,
          separator,
          withinGroup,
          filter,
          clauses,
          treatment,
          over);
    }

    @Override
    public <R> R accept(Visitor<R> visitor) {
      return visitor.functionCall(this);
    }
  }

  /**
   * A call with words between its values: {@code EXTRACT(YEAR FROM x)}, {@code TRIM(BOTH x FROM
   * y)}.
   *
   * @param span where it stands
   * @param name its name as written
   * @param values its values
   * @param words what stands before the first value, between two, and behind the last: one more
   *     than values
   */
  record WordedCall(Span span, String name, List<Expression> values, List<String> words)
      implements Call {
    public WordedCall {
      values = List.copyOf(values);
      words = List.copyOf(words);
    }

    /** The name in lower case. */
    public String key() {
      return Identifier.key(name);
    }

    @Override
    public List<Node> children() {
      return Node.nodes(values);
    }

    @Override
    public WordedCall at(Span place) {
      return new WordedCall(place, name, values, words);
    }

    @Override
    public <R> R accept(Visitor<R> visitor) {
      return visitor.wordedCall(this);
    }
  }

  /**
   * An argument with its name: {@code f(width => 3)}.
   *
   * @param span where it stands
   * @param name the name
   * @param sign what stands between
   * @param value the value
   */
  record NamedArgument(Span span, Identifier name, String sign, Expression value) implements Call {
    @Override
    public List<Node> children() {
      return Node.nodes(name, value);
    }

    @Override
    public NamedArgument at(Span place) {
      return new NamedArgument(place, name, sign, value);
    }

    @Override
    public <R> R accept(Visitor<R> visitor) {
      return visitor.namedArgument(this);
    }
  }

  /**
   * A function written in place: {@code lambda x : x + 1}.
   *
   * @param span where it stands
   * @param names its parameters
   * @param body its value
   */
  record Lambda(Span span, List<Identifier> names, Expression body) implements Call {
    public Lambda {
      names = List.copyOf(names);
    }

    @Override
    public List<Node> children() {
      return Node.nodes(names, body);
    }

    @Override
    public Lambda at(Span place) {
      return new Lambda(place, names, body);
    }

    @Override
    public <R> R accept(Visitor<R> visitor) {
      return visitor.lambda(this);
    }
  }

  /**
   * Several ways to group at once (ISO/IEC 9075-2, 7.13). It stands in GROUP BY only.
   *
   * @param span where it stands
   * @param kind which ways
   * @param items what they are made of; a list is a row value
   */
  record Grouping(Span span, GroupingKind kind, List<Expression> items) implements Call {
    public Grouping {
      items = List.copyOf(items);
    }

    @Override
    public List<Node> children() {
      return Node.nodes(items);
    }

    @Override
    public Grouping at(Span place) {
      return new Grouping(place, kind, items);
    }

    @Override
    public <R> R accept(Visitor<R> visitor) {
      return visitor.grouping(this);
    }
  }

  /** The ways to group at once. */
  enum GroupingKind {
    /** Each item is a way of its own. */
    SETS("GROUPING SETS"),
    /** All items, then without the last, and so on to none. */
    ROLLUP("ROLLUP"),
    /** Every choice of items. */
    CUBE("CUBE"),
    /** All items together, without sets that come twice. */
    DISTINCT("DISTINCT"),
    /** By every output column that is no aggregate. */
    ALL("ALL");

    private final String words;

    GroupingKind(String words) {
      this.words = words;
    }

    /** How it is written. */
    public String words() {
      return words;
    }
  }
}
