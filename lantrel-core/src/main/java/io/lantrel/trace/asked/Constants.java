package io.lantrel.trace.asked;

import io.lantrel.engine.ValueText;
import io.lantrel.probe.Sql;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value.Literal;
import io.lantrel.sql.tree.Value.LiteralKind;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** Values of a result as constants that can be written into a query. */
final class Constants {

  private Constants() {}

  /** A value as a constant; empty if no constant is just that value. */
  static Optional<Expression> of(@Nullable Object value) {
    if (value == null) {
      return Optional.of(Sql.nothing());
    }
    if (value instanceof Boolean truth) {
      return Optional.of(new Literal(Span.NOWHERE, LiteralKind.TRUTH, truth ? "TRUE" : "FALSE"));
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

  /** All of these; empty if one of them has none. */
  static List<Expression> ofAll(List<@Nullable Object> values) {
    List<Expression> constants = new ArrayList<>();
    for (Object value : values) {
      Optional<Expression> constant = of(value);
      if (constant.isEmpty()) {
        return List.of();
      }
      constants.add(constant.get());
    }
    return constants;
  }

  /** That a value is that constant, in the form that indexes and filters of engines know best. */
  static Expression isEqual(Expression value, Expression constant) {
    boolean nothing = constant instanceof Literal literal && literal.kind() == LiteralKind.NULL;
    return nothing ? Sql.isNull(value) : Sql.equal(value, constant);
  }
}
