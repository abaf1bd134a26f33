package io.lantrel.sql.tree;

import java.util.List;
import org.jspecify.annotations.Nullable;

/** A condition: it is true, false or unknown (ISO/IEC 9075-2, 6.39 and clause 8). */
public sealed interface Condition extends Expression {

  /** What a condition connects with AND; itself if it connects nothing. */
  static List<Expression> terms(Expression condition) {
    return condition instanceof And and ? and.terms() : List.of(condition);
  }

  /** The values that are compared, the first with each of the others; empty if none are. */
  static List<Expression> compared(Node node) {
    return node instanceof Comparison || node instanceof Between || node instanceof InList
        ? node.children().stream().map(Expression.class::cast).toList()
        : List.of();
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
      implements Condition {
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
   * A value compared with all, or with any, of several: {@code x > ALL (…)}.
   *
   * @param span where it stands
   * @param sign the comparison as written, in capitals, as {@code =} or {@code NOT LIKE}
   * @param value what is compared
   * @param all whether it must hold for all; else one is enough
   * @param query the subquery that gives the several; null if a list does
   * @param list an array; null if a subquery gives them
   */
  record Quantified(
      Span span,
      String sign,
      Expression value,
      boolean all,
      @Nullable Query query,
      @Nullable Expression list)
      implements Condition {
    @Override
    public List<Node> children() {
      return Node.nodes(value, query, list);
    }

    @Override
    public Quantified at(Span place) {
      return new Quantified(place, sign, value, all, query, list);
    }

    @Override
    public <R> R accept(Visitor<R> visitor) {
      return visitor.quantified(this);
    }
  }

  /**
   * Conditions that must all hold.
   *
   * @param span where it stands
   * @param terms the conditions, two or more
   */
  record And(Span span, List<Expression> terms) implements Condition {
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
  record Or(Span span, List<Expression> terms) implements Condition {
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
  record Not(Span span, Expression value) implements Condition {
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
  record IsNull(Span span, Expression value, boolean negated) implements Condition {
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
  record IsTruth(Span span, Expression value, Truth truth, boolean negated) implements Condition {
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
      implements Condition {
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
      implements Condition {
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
      implements Condition {
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
  record InQuery(Span span, Expression value, Query query, boolean negated) implements Condition {
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
   * [NOT] LIKE, and what engines have beside it.
   *
   * @param span where it stands
   * @param value what is tested
   * @param how how the pattern is written
   * @param pattern the pattern
   * @param escape the escape character; null if none is given
   * @param negated whether NOT is written
   */
  record Like(
      Span span,
      Expression value,
      Pattern how,
      Expression pattern,
      @Nullable Expression escape,
      boolean negated)
      implements Condition {
    @Override
    public List<Node> children() {
      return Node.nodes(value, pattern, escape);
    }

    @Override
    public Like at(Span place) {
      return new Like(place, value, how, pattern, escape, negated);
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
  record Exists(Span span, Query query) implements Condition {
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

  /** The three truth values of SQL. */
  enum Truth {
    TRUE,
    FALSE,
    UNKNOWN
  }

  /** The sorts of patterns. */
  enum Pattern {
    LIKE("LIKE"),
    ILIKE("ILIKE"),
    SIMILAR("SIMILAR TO"),
    GLOB("GLOB"),
    REGEXP("REGEXP"),
    RLIKE("RLIKE"),
    MATCH("MATCH");

    private final String words;

    Pattern(String words) {
      this.words = words;
    }

    /** How it is written. */
    public String words() {
      return words;
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

    /** The one that says the same of the two sides the other way round. */
    public ComparisonOperator turned() {
      return switch (this) {
        case EQUAL, NOT_EQUAL -> this;
        case LESS -> GREATER;
        case LESS_OR_EQUAL -> GREATER_OR_EQUAL;
        case GREATER -> LESS;
        case GREATER_OR_EQUAL -> LESS_OR_EQUAL;
      };
    }

    /** Whether it holds of a left side below the right one, {@code <} or {@code <=}. */
    public boolean isBelow() {
      return this == LESS || this == LESS_OR_EQUAL;
    }

    /** Whether it holds of a left side above the right one, {@code >} or {@code >=}. */
    public boolean isAbove() {
      return turned().isBelow();
    }

    /** Whether it puts one side before the other. */
    public boolean isOrder() {
      return isBelow() || isAbove();
    }

    /** How it is written. */
    public String sign() {
      return sign;
    }
  }
}
