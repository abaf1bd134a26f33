package io.lantrel.check.kinds.outer;

import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Value.Cast;
import java.util.Set;

/**
 * Functions that make one value of another, and NULL of NULL (ISO/IEC 9075-2, 6.13, 6.30 and 6.32).
 */
final class NullForNull {

  private static final Set<String> FUNCTIONS =
      Set.of(
          "upper",
          "lower",
          "trim",
          "ltrim",
          "rtrim",
          "substr",
          "substring",
          "initcap",
          "round",
          "abs",
          "floor",
          "ceil",
          "ceiling");

  private NullForNull() {}

  /** What such functions are given, around which they stand; the value itself where none does. */
  static Expression within(Expression value) {
    Expression inner = value;
    while (true) {
      if (inner instanceof Cast cast) {
        inner = cast.value();
      } else if (inner instanceof FunctionCall call
          && FUNCTIONS.contains(call.key())
          && !call.arguments().isEmpty()) {
        inner = call.arguments().get(0);
      } else {
        return inner;
      }
    }
  }
}
