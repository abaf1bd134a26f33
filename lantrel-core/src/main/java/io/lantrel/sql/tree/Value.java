package io.lantrel.sql.tree;

import java.util.List;
import org.jspecify.annotations.Nullable;

/** A value that is made of columns, constants and signs (ISO/IEC 9075-2, clause 6). */
public sealed interface Value extends Expression {

  /**
   * A column by its name.
   *
   * @param span where it stands
   * @param qualifier the table's name in parts, or empty
   * @param name the column's name
   */
  record ColumnName(Span span, List<Identifier> qualifier, Identifier name) implements Value {
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
   * All columns of a table as one value: {@code COUNT(t.*)}.
   *
   * @param span where it stands
   * @param qualifier the table's name in parts
   */
  record WholeRow(Span span, List<Identifier> qualifier) implements Value {
    public WholeRow {
      qualifier = List.copyOf(qualifier);
    }

    @Override
    public List<Node> children() {
      return Node.nodes(qualifier);
    }

    @Override
    public WholeRow at(Span place) {
      return new WholeRow(place, qualifier);
    }

    @Override
    public <R> R accept(Visitor<R> visitor) {
      return visitor.wholeRow(this);
    }
  }

  /**
   * A constant as written: {@code 12.5}, {@code 'text'}, {@code DATE '2026-05-01'}, {@code NULL}.
   *
   * @param span where it stands
   * @param kind what sort of constant
   * @param text its text as it stands in SQL
   */
  record Literal(Span span, LiteralKind kind, String text) implements Value {

    /** Whether a value is the constant NULL. */
    public static boolean isNull(Expression value) {
      return value instanceof Literal literal && literal.kind() == LiteralKind.NULL;
    }

    /** A whole number. */
    public static Literal number(long value) {
      return new Literal(Span.NOWHERE, LiteralKind.NUMBER, Long.toString(value));
    }

    /** A text. */
    public static Literal string(String text) {
      return new Literal(Span.NOWHERE, LiteralKind.STRING, "'" + text.replace("'", "''") + "'");
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
   * A value that is given when the query runs: {@code ?}, {@code :name}, {@code $1}.
   *
   * @param span where it stands
   * @param text as written
   */
  record Parameter(Span span, String text) implements Value {

    /** Whether the program must give the value; a variable of the session has its own. */
    public boolean isOpen() {
      return !text.startsWith("@");
    }

    @Override
    public List<Node> children() {
      return List.of();
    }

    @Override
    public Parameter at(Span place) {
      return new Parameter(place, text);
    }

    @Override
    public <R> R accept(Visitor<R> visitor) {
      return visitor.parameter(this);
    }
  }

  /**
   * A number of days or the like: {@code INTERVAL 3 DAY}.
   *
   * @param span where it stands
   * @param value how many
   * @param unit of what, as written
   */
  record Interval(Span span, Expression value, String unit) implements Value {
    @Override
    public List<Node> children() {
      return Node.nodes(value);
    }

    @Override
    public Interval at(Span place) {
      return new Interval(place, value, unit);
    }

    @Override
    public <R> R accept(Visitor<R> visitor) {
      return visitor.interval(this);
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
      implements Value {
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
  record Signed(Span span, boolean minus, Expression value) implements Value {
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
   * A sign that some engine knows; Lantrel knows what it stands between, and no more.
   *
   * @param span where it stands
   * @param left the value before it; null if it stands first
   * @param sign the sign or its words, as {@code ->>} or {@code AT TIME ZONE}
   * @param right the value behind it; null if it stands last
   */
  record Operation(Span span, @Nullable Expression left, String sign, @Nullable Expression right)
      implements Value {
    @Override
    public List<Node> children() {
      return Node.nodes(left, right);
    }

    @Override
    public Operation at(Span place) {
      return new Operation(place, left, sign, right);
    }

    @Override
    public <R> R accept(Visitor<R> visitor) {
      return visitor.operation(this);
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
      implements Value {
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

  /**
   * CAST, TRY_CAST or {@code ::}.
   *
   * @param span where it stands
   * @param value what is cast
   * @param type to which type
   * @param trying whether it gives NULL where the value does not fit
   */
  record Cast(Span span, Expression value, TypeName type, boolean trying) implements Value {
    @Override
    public List<Node> children() {
      return Node.nodes(value, type);
    }

    @Override
    public Cast at(Span place) {
      return new Cast(place, value, type, trying);
    }

    @Override
    public <R> R accept(Visitor<R> visitor) {
      return visitor.cast(this);
    }
  }

  /**
   * COLLATE.
   *
   * @param span where it stands
   * @param value the text
   * @param collation the name of the collation, in parts
   */
  record Collated(Span span, Expression value, List<Identifier> collation) implements Value {
    public Collated {
      collation = List.copyOf(collation);
    }

    @Override
    public List<Node> children() {
      return Node.nodes(value, collation);
    }

    @Override
    public Collated at(Span place) {
      return new Collated(place, value, collation);
    }

    @Override
    public <R> R accept(Visitor<R> visitor) {
      return visitor.collated(this);
    }
  }

  /**
   * A field of a structured value: {@code (x).y}.
   *
   * @param span where it stands
   * @param value the value
   * @param field the field; {@code *} for all
   */
  record FieldOf(Span span, Expression value, Identifier field) implements Value {
    @Override
    public List<Node> children() {
      return Node.nodes(value, field);
    }

    @Override
    public FieldOf at(Span place) {
      return new FieldOf(place, value, field);
    }

    @Override
    public <R> R accept(Visitor<R> visitor) {
      return visitor.fieldOf(this);
    }
  }

  /**
   * An element of an array, or a stretch of it: {@code x[1]}, {@code x[1:2]}.
   *
   * @param span where it stands
   * @param value the array
   * @param low which element, or the first; null if a stretch is open there
   * @param stretch whether a colon is written
   * @param high the last element; null if a stretch is open there
   */
  record Subscript(
      Span span,
      Expression value,
      @Nullable Expression low,
      boolean stretch,
      @Nullable Expression high)
      implements Value {
    @Override
    public List<Node> children() {
      return Node.nodes(value, low, high);
    }

    @Override
    public Subscript at(Span place) {
      return new Subscript(place, value, low, stretch, high);
    }

    @Override
    public <R> R accept(Visitor<R> visitor) {
      return visitor.subscript(this);
    }
  }

  /**
   * Several values together: {@code (1, 2)}, {@code ROW(1)}.
   *
   * @param span where it stands
   * @param word whether ROW is written
   * @param values the values, in order
   */
  record RowValue(Span span, boolean word, List<Expression> values) implements Value {
    public RowValue {
      values = List.copyOf(values);
    }

    @Override
    public List<Node> children() {
      return Node.nodes(values);
    }

    @Override
    public RowValue at(Span place) {
      return new RowValue(place, word, values);
    }

    @Override
    public <R> R accept(Visitor<R> visitor) {
      return visitor.rowValue(this);
    }
  }

  /**
   * An array by its elements: {@code ARRAY[1, 2]}, {@code [1, 2]}.
   *
   * @param span where it stands
   * @param word whether ARRAY is written
   * @param values the elements, in order
   */
  record ArrayValue(Span span, boolean word, List<Expression> values) implements Value {
    public ArrayValue {
      values = List.copyOf(values);
    }

    @Override
    public List<Node> children() {
      return Node.nodes(values);
    }

    @Override
    public ArrayValue at(Span place) {
      return new ArrayValue(place, word, values);
    }

    @Override
    public <R> R accept(Visitor<R> visitor) {
      return visitor.arrayValue(this);
    }
  }

  /**
   * Named values together: {@code {'a': 1}}, {@code MAP {1: 2}}.
   *
   * @param span where it stands
   * @param word what stands before the brace; null if nothing does
   * @param names the names, in order
   * @param values their values, in the same order
   */
  record StructValue(
      Span span, @Nullable Identifier word, List<Expression> names, List<Expression> values)
      implements Value {
    public StructValue {
      names = List.copyOf(names);
      values = List.copyOf(values);
    }

    @Override
    public List<Node> children() {
      return Node.nodes(word, names, values);
    }

    @Override
    public StructValue at(Span place) {
      return new StructValue(place, word, names, values);
    }

    @Override
    public <R> R accept(Visitor<R> visitor) {
      return visitor.structValue(this);
    }
  }

  /**
   * A subquery used as a value.
   *
   * @param span where it stands
   * @param query the subquery
   */
  record ScalarQuery(Span span, Query query) implements Value {
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
   * A word over a subquery, as in {@code ARRAY(SELECT …)}.
   *
   * @param span where it stands
   * @param word the word, in capitals
   * @param query the subquery
   */
  record QueryCall(Span span, String word, Query query) implements Value {
    @Override
    public List<Node> children() {
      return Node.nodes(query);
    }

    @Override
    public QueryCall at(Span place) {
      return new QueryCall(place, word, query);
    }

    @Override
    public <R> R accept(Visitor<R> visitor) {
      return visitor.queryCall(this);
    }
  }

  /**
   * A column with the old mark of an outer join: {@code t.id (+)}. Its table is the optional side.
   *
   * @param span where it stands
   * @param column the column
   */
  record OuterMark(Span span, ColumnName column) implements Value {
    @Override
    public List<Node> children() {
      return Node.nodes(column);
    }

    @Override
    public OuterMark at(Span place) {
      return new OuterMark(place, column);
    }

    @Override
    public <R> R accept(Visitor<R> visitor) {
      return visitor.outerMark(this);
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
    INTERVAL,
    /** A text behind the name of its type. */
    OTHER
  }

  /** Signs between two values. */
  enum ArithmeticOperator {
    POWER("^", 4),
    TIMES("*", 3),
    DIVIDED("/", 3),
    MODULO("%", 3),
    WHOLE("//", 3),
    DIV("DIV", 3),
    MOD("MOD", 3),
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
}
