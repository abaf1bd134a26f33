package io.lantrel.trace.asked;

import io.lantrel.catalog.ColumnType;
import io.lantrel.engine.Rows;
import io.lantrel.engine.ValueText;
import io.lantrel.probe.Sql;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value.Literal;
import io.lantrel.sql.tree.Value.LiteralKind;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.Locale;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** Values of a result as constants that can be written into a query. */
final class Constants {

  private Constants() {}

  /** A value as a constant; empty if no constant is just that value. */
  private static Optional<Expression> of(@Nullable Object value) {
    if (value == null) {
      return Optional.of(Sql.nothing());
    }
    if (value instanceof Boolean truth) {
      return Optional.of(new Literal(Span.NOWHERE, LiteralKind.TRUTH, truth ? "TRUE" : "FALSE"));
    }
    // A text beside a column takes the type of that, and a time is no text of a date.
    if (value instanceof LocalDate) {
      return Optional.of(typed(LiteralKind.DATE, ValueText.of(value)));
    }
    if (value instanceof LocalDateTime) {
      return Optional.of(typed(LiteralKind.TIMESTAMP, ValueText.of(value)));
    }
    boolean exact =
        !(value instanceof Float) && !(value instanceof Double d && !Double.isFinite(d));
    if (!exact) {
      return Optional.empty();
    }
    // The digits of a double are as many as tell it from all others.
    String text = ValueText.of(value);
    return Optional.of(
        value instanceof Number
            ? new Literal(Span.NOWHERE, LiteralKind.NUMBER, text)
            : Literal.string(text));
  }

  /** The same of a text that stands for a value of a type; NULL for null. */
  static Expression of(@Nullable String text, ColumnType type, Dialect dialect) {
    if (text == null) {
      return Sql.nothing();
    }
    boolean dates = !dialect.has(Dialect.Rule.DATES_ARE_TEXTS);
    return switch (type.family()) {
      case INTEGER, DECIMAL, FLOAT ->
          ValueText.isNumber(text)
              ? new Literal(Span.NOWHERE, LiteralKind.NUMBER, text)
              : Literal.string(text);
      case TRUTH -> new Literal(Span.NOWHERE, LiteralKind.TRUTH, text.toUpperCase(Locale.ROOT));
      case DATE -> dates ? typed(LiteralKind.DATE, text) : Literal.string(text);
      case TIMESTAMP -> dates ? typed(LiteralKind.TIMESTAMP, text) : Literal.string(text);
      case TEXT, TIME, OTHER -> Literal.string(text);
    };
  }

  private static Literal typed(LiteralKind kind, String text) {
    return new Literal(Span.NOWHERE, kind, kind + " " + Literal.string(text).text());
  }

  /** The value of a column in the first of some rows; empty if no constant is just that value. */
  static Optional<Expression> inFirst(Rows rows, int column) {
    Object value = rows.rows().get(0).get(column);
    return value != null && rows.worded().contains(column) ? Optional.empty() : of(value);
  }

  /**
   * What is true where a column has the value of the first of some rows; empty if nothing that can
   * be written is. A number of single precision is no constant, and MariaDB shows six of its
   * digits: it lies near them.
   */
  static Optional<Expression> isAt(Expression column, Rows rows, int at) {
    if (rows.rows().get(0).get(at) instanceof Float number && Float.isFinite(number)) {
      BigDecimal shown = new BigDecimal(number.toString());
      BigDecimal apart = shown.abs().movePointLeft(5);
      return Optional.of(
          new Condition.Between(
              Span.NOWHERE,
              column,
              number(shown.subtract(apart)),
              number(shown.add(apart)),
              false));
    }
    return inFirst(rows, at).map(constant -> Sql.same(column, constant));
  }

  private static Expression number(BigDecimal value) {
    return new Literal(Span.NOWHERE, LiteralKind.NUMBER, value.toPlainString());
  }

  /** That a value is that constant, in the form that indexes and filters of engines know best. */
  static Expression isEqual(Expression value, Expression constant) {
    boolean nothing = constant instanceof Literal literal && literal.kind() == LiteralKind.NULL;
    return nothing ? Sql.isNull(value) : Sql.equal(value, constant);
  }
}
