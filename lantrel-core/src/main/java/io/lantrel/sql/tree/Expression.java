package io.lantrel.sql.tree;

import java.util.List;
import org.jspecify.annotations.Nullable;

/** A value or a condition. */
public sealed interface Expression extends Node {

  /** Calls the method of the visitor that fits. */
  <R> R accept(Visitor<R> visitor);

  /** The same expression at another place: one in parentheses stands where these stand. */
  Expression at(Span span);

  /** One method for every kind of expression. */
  interface Visitor<R> {
    R columnName(ColumnName columnName);

    R literal(Literal literal);

    R arithmetic(Arithmetic arithmetic);

    R signed(Signed signed);

    R comparison(Comparison comparison);

    R and(And and);

    R or(Or or);

    R not(Not not);

    R isNull(IsNull isNull);

    R isTruth(IsTruth isTruth);

    R isDistinct(IsDistinct isDistinct);

    R between(Between between);

    R inList(InList inList);

    R inQuery(InQuery inQuery);

    R like(Like like);

    R exists(Exists exists);

    R scalarQuery(ScalarQuery scalarQuery);

    R caseOf(Case node);

    R cast(Cast cast);

    R extract(Extract extract);

    R functionCall(FunctionCall functionCall);

    R rowNumber(RowNumber rowNumber);
  }

  /**
   * A column by its name.
   *
   * @param span where it stands
   * @param qualifier the table's name in parts, or empty
   * @param name the column's name
   */
  record ColumnName(Span span, List<Identifier> qualifier, Identifier name) implements Expression {
    public ColumnName {
      qualifier = List.copyOf(qualifier);
    }

    /** A column that Lantrel names itself. */
    public static ColumnName of(String table, String column) {
      return new ColumnName(Span.NOWHERE, List.of(Identifier.of(table)), Identifier.of(column));
    }

    @Override
    public List<Node> children() {
      return Node.nodes(qualifier, name);
    }

    @Override
    public ColumnName at(Span place) {
      return new ColumnName(place, qualifier, name);
    }

    @Override
    public <R> R accept(Visitor<R> visitor) {
      return visitor.columnName(this);
    }
  }

  /**
   * A constant as written: {@code 12.5}, {@code 'text'}, {@code DATE '2026-05-01'}, {@code NULL}.
   *
   * @param span where it stands
   * @param kind what sort of constant
   * @param text its text as it stands in SQL
   */
  record Literal(Span span, LiteralKind kind, String text) implements Expression {
    /** A whole number. */
    public static Literal number(long value) {
      return new Literal(Span.NOWHERE, LiteralKind.NUMBER, Long.toString(value));
    }

    /** NULL. */
    public static Literal nothing() {
      return new Literal(Span.NOWHERE, LiteralKind.NULL, "NULL");
    }

    @Override
    public List<Node> children() {
      return List.of();
    }

    @Override
    public Literal at(Span place) {
      return new Literal(place, kind, text);
    }

    @Override
    public <R> R accept(Visitor<R> visitor) {
      return visitor.literal(this);
    }
  }

  /**
   * Two values put together by a sign.
   *
   * @param span where it stands
   * @param operator the sign
   * @param left the value before it
   * @param right the value behind it
   */
  record Arithmetic(Span span, ArithmeticOperator operator, Expression left, Expression right)
      implements Expression {
    @Override
    public List<Node> children() {
      return List.of(left, right);
    }

    @Override
    public Arithmetic at(Span place) {
      return new Arithmetic(place, operator, left, right);
    }

    @Override
    public <R> R accept(Visitor<R> visitor) {
      return visitor.arithmetic(this);
    }
  }

  /**
   * A value with a sign before it.
   *
   * @param span where it stands
   * @param minus whether the sign is a minus
   * @param value the value
   */
  record Signed(Span span, boolean minus, Expression value) implements Expression {
    @Override
    public List<Node> children() {
      return List.of(value);
    }

    @Override
    public Signed at(Span place) {
      return new Signed(place, minus, value);
    }

    @Override
    public <R> R accept(Visitor<R> visitor) {
      return visitor.signed(this);
    }
  }

  /**
   * Two values compared.
   *
   * @param span where it stands
   * @param operator the sign
   * @param left the value before it
   * @param right the value behind it
   */
  record Comparison(Span span, ComparisonOperator operator, Expression left, Expression right)
      implements Expression {
    @Override
    public List<Node> children() {
      return List.of(left, right);
    }

    @Override
    public Comparison at(Span place) {
      return new Comparison(place, operator, left, right);
    }

    @Override
    public <R> R accept(Visitor<R> visitor) {
      return visitor.comparison(this);
    }
  }

  /**
   * Conditions that must all hold.
   *
   * @param span where it stands
   * @param terms the conditions, two or more
   */
  record And(Span span, List<Expression> terms) implements Expression {
    public And {
      terms = List.copyOf(terms);
    }

    @Override
    public List<Node> children() {
      return Node.nodes(terms);
    }

    @Override
    public And at(Span place) {
      return new And(place, terms);
    }

    @Override
    public <R> R accept(Visitor<R> visitor) {
      return visitor.and(this);
    }
  }

  /**
   * Conditions of which one must hold.
   *
   * @param span where it stands
   * @param terms the conditions, two or more
   */
  record Or(Span span, List<Expression> terms) implements Expression {
    public Or {
      terms = List.copyOf(terms);
    }

    @Override
    public List<Node> children() {
      return Node.nodes(terms);
    }

    @Override
    public Or at(Span place) {
      return new Or(place, terms);
    }

    @Override
    public <R> R accept(Visitor<R> visitor) {
      return visitor.or(this);
    }
  }

  /**
   * A condition that must be false.
   *
   * @param span where it stands
   * @param value the condition
   */
  record Not(Span span, Expression value) implements Expression {
    @Override
    public List<Node> children() {
      return List.of(value);
    }

    @Override
    public Not at(Span place) {
      return new Not(place, value);
    }

    @Override
    public <R> R accept(Visitor<R> visitor) {
      return visitor.not(this);
    }
  }

  /**
   * IS [NOT] NULL.
   *
   * @param span where it stands
   * @param value what is tested
   * @param negated whether NOT is written
   */
  record IsNull(Span span, Expression value, boolean negated) implements Expression {
    @Override
    public List<Node> children() {
      return List.of(value);
    }

    @Override
    public IsNull at(Span place) {
      return new IsNull(place, value, negated);
    }

    @Override
    public <R> R accept(Visitor<R> visitor) {
      return visitor.isNull(this);
    }
  }

  /**
   * IS [NOT] TRUE, FALSE, UNKNOWN.
   *
   * @param span where it stands
   * @param value what is tested
   * @param truth the truth value asked for
   * @param negated whether NOT is written
   */
  record IsTruth(Span span, Expression value, Truth truth, boolean negated) implements Expression {
    @Override
    public List<Node> children() {
      return List.of(value);
    }

    @Override
    public IsTruth at(Span place) {
      return new IsTruth(place, value, truth, negated);
    }

    @Override
    public <R> R accept(Visitor<R> visitor) {
      return visitor.isTruth(this);
    }
  }

  /**
   * IS [NOT] DISTINCT FROM.
   *
   * @param span where it stands
   * @param left one value
   * @param right the other
   * @param negated whether NOT is written
   */
  record IsDistinct(Span span, Expression left, Expression right, boolean negated)
      implements Expression {
    @Override
    public List<Node> children() {
      return List.of(left, right);
    }

    @Override
    public IsDistinct at(Span place) {
      return new IsDistinct(place, left, right, negated);
    }

    @Override
    public <R> R accept(Visitor<R> visitor) {
      return visitor.isDistinct(this);
    }
  }

  /**
   * [NOT] BETWEEN.
   *
   * @param span where it stands
   * @param value what is tested
   * @param low the lower bound
   * @param high the upper bound
   * @param negated whether NOT is written
   */
  record Between(Span span, Expression value, Expression low, Expression high, boolean negated)
      implements Expression {
    @Override
    public List<Node> children() {
      return List.of(value, low, high);
    }

    @Override
    public Between at(Span place) {
      return new Between(place, value, low, high, negated);
    }

    @Override
    public <R> R accept(Visitor<R> visitor) {
      return visitor.between(this);
    }
  }

  /**
   * [NOT] IN over a list.
   *
   * @param span where it stands
   * @param value what is tested
   * @param list the values
   * @param negated whether NOT is written
   */
  record InList(Span span, Expression value, List<Expression> list, boolean negated)
      implements Expression {
    public InList {
      list = List.copyOf(list);
    }

    @Override
    public List<Node> children() {
      return Node.nodes(value, list);
    }

    @Override
    public InList at(Span place) {
      return new InList(place, value, list, negated);
    }

    @Override
    public <R> R accept(Visitor<R> visitor) {
      return visitor.inList(this);
    }
  }

  /**
   * [NOT] IN over a subquery.
   *
   * @param span where it stands
   * @param value what is tested
   * @param query the subquery
   * @param negated whether NOT is written
   */
  record InQuery(Span span, Expression value, Query query, boolean negated) implements Expression {
    @Override
    public List<Node> children() {
      return List.of(value, query);
    }

    @Override
    public InQuery at(Span place) {
      return new InQuery(place, value, query, negated);
    }

    @Override
    public <R> R accept(Visitor<R> visitor) {
      return visitor.inQuery(this);
    }
  }

  /**
   * [NOT] LIKE.
   *
   * @param span where it stands
   * @param value what is tested
   * @param ignoringCase whether ILIKE is written
   * @param pattern the pattern
   * @param escape the escape character; null if none is given
   * @param negated whether NOT is written
   */
  record Like(
      Span span,
      Expression value,
      boolean ignoringCase,
      Expression pattern,
      @Nullable Expression escape,
      boolean negated)
      implements Expression {
    @Override
    public List<Node> children() {
      return Node.nodes(value, pattern, escape);
    }

    @Override
    public Like at(Span place) {
      return new Like(place, value, ignoringCase, pattern, escape, negated);
    }

    @Override
    public <R> R accept(Visitor<R> visitor) {
      return visitor.like(this);
    }
  }

  /**
   * EXISTS over a subquery.
   *
   * @param span where it stands
   * @param query the subquery
   */
  record Exists(Span span, Query query) implements Expression {
    @Override
    public List<Node> children() {
      return List.of(query);
    }

    @Override
    public Exists at(Span place) {
      return new Exists(place, query);
    }

    @Override
    public <R> R accept(Visitor<R> visitor) {
      return visitor.exists(this);
    }
  }

  /**
   * A subquery used as a value.
   *
   * @param span where it stands
   * @param query the subquery
   */
  record ScalarQuery(Span span, Query query) implements Expression {
    @Override
    public List<Node> children() {
      return List.of(query);
    }

    @Override
    public ScalarQuery at(Span place) {
      return new ScalarQuery(place, query);
    }

    @Override
    public <R> R accept(Visitor<R> visitor) {
      return visitor.scalarQuery(this);
    }
  }

  /**
   * CASE.
   *
   * @param span where it stands
   * @param operand what the cases are compared with; null if each is a condition
   * @param whens the cases
   * @param otherwise the value of ELSE; null if there is none
   */
  record Case(
      Span span, @Nullable Expression operand, List<When> whens, @Nullable Expression otherwise)
      implements Expression {
    public Case {
      whens = List.copyOf(whens);
    }

    @Override
    public List<Node> children() {
      return Node.nodes(operand, whens, otherwise);
    }

    @Override
    public Case at(Span place) {
      return new Case(place, operand, whens, otherwise);
    }

    @Override
    public <R> R accept(Visitor<R> visitor) {
      return visitor.caseOf(this);
    }
  }

  /**
   * CAST or {@code ::}.
   *
   * @param span where it stands
   * @param value what is cast
   * @param type to which type
   */
  record Cast(Span span, Expression value, TypeName type) implements Expression {
    @Override
    public List<Node> children() {
      return List.of(value, type);
    }

    @Override
    public Cast at(Span place) {
      return new Cast(place, value, type);
    }

    @Override
    public <R> R accept(Visitor<R> visitor) {
      return visitor.cast(this);
    }
  }

  /**
   * EXTRACT(field FROM value).
   *
   * @param span where it stands
   * @param field the field, as YEAR
   * @param value what it is taken from
   */
  record Extract(Span span, Identifier field, Expression value) implements Expression {
    @Override
    public List<Node> children() {
      return List.of(field, value);
    }

    @Override
    public Extract at(Span place) {
      return new Extract(place, field, value);
    }

    @Override
    public <R> R accept(Visitor<R> visitor) {
      return visitor.extract(this);
    }
  }

  /**
   * A call of a function or an aggregate.
   *
   * @param span where it stands
   * @param name its name in parts
   * @param star whether its argument is {@code *}
   * @param distinct whether DISTINCT is written
   * @param arguments its arguments
   * @param filter the condition of FILTER; null if there is none
   */
  record FunctionCall(
      Span span,
      List<Identifier> name,
      boolean star,
      boolean distinct,
      List<Expression> arguments,
      @Nullable Expression filter)
      implements Expression {
    public FunctionCall {
      name = List.copyOf(name);
      arguments = List.copyOf(arguments);
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

    /** The same call with DISTINCT. */
    public FunctionCall withDistinct() {
      return new FunctionCall(span, name, star, true, arguments, filter);
    }

    /** The last part of the name, in lower case. */
    public String key() {
      return name.get(name.size() - 1).key();
    }

    @Override
    public List<Node> children() {
      return Node.nodes(name, arguments, filter);
    }

    @Override
    public FunctionCall at(Span place) {
      return new FunctionCall(place, name, star, distinct, arguments, filter);
    }

    @Override
    public <R> R accept(Visitor<R> visitor) {
      return visitor.functionCall(this);
    }
  }

  /**
   * {@code row_number() OVER ()}: Lantrel's probes tell rows apart by it.
   *
   * @param span where it stands
   */
  record RowNumber(Span span) implements Expression {
    @Override
    public List<Node> children() {
      return List.of();
    }

    @Override
    public RowNumber at(Span place) {
      return new RowNumber(place);
    }

    @Override
    public <R> R accept(Visitor<R> visitor) {
      return visitor.rowNumber(this);
    }
  }

  /**
   * One WHEN … THEN … of a CASE.
   *
   * @param span where it stands
   * @param when the condition, or the value compared with
   * @param then the value that it gives
   */
  record When(Span span, Expression when, Expression then) implements Node {
    @Override
    public List<Node> children() {
      return List.of(when, then);
    }
  }

  /** The sorts of constants. */
  enum LiteralKind {
    NUMBER,
    STRING,
    TRUTH,
    NULL,
    DATE,
    TIME,
    TIMESTAMP,
    INTERVAL
  }

  /** The three truth values of SQL. */
  enum Truth {
    TRUE,
    FALSE,
    UNKNOWN
  }

  /** Signs between two values. */
  enum ArithmeticOperator {
    TIMES("*", 3),
    DIVIDED("/", 3),
    MODULO("%", 3),
    PLUS("+", 2),
    MINUS("-", 2),
    CONCAT("||", 1);

    private final String sign;
    private final int binding;

    ArithmeticOperator(String sign, int binding) {
      this.sign = sign;
      this.binding = binding;
    }

    /** How it is written. */
    public String sign() {
      return sign;
    }

    /** How strongly it binds: the higher, the more. */
    public int binding() {
      return binding;
    }
  }

  /** Signs that compare. */
  enum ComparisonOperator {
    EQUAL("="),
    NOT_EQUAL("<>"),
    LESS("<"),
    LESS_OR_EQUAL("<="),
    GREATER(">"),
    GREATER_OR_EQUAL(">=");

    private final String sign;

    ComparisonOperator(String sign) {
      this.sign = sign;
    }

    /** How it is written. */
    public String sign() {
      return sign;
    }
  }
}
