package io.lantrel.compare.proof;

import io.lantrel.resolve.Functions;
import java.util.Set;
import java.util.function.Predicate;

/** What conditions make of NULL (ISO/IEC 9075-2, clause 8). */
final class Nulls {

  private static final Set<String> COMPARING = Set.of("=", "<>", "<", "<=");
  private static final Set<String> RECKONING = Set.of("+", "-", "*", "/", "%", "minus");

  private Nulls() {}

  /** Whether a condition cannot be true if some columns are NULL. */
  static boolean rejects(Term condition, Predicate<Term> isNull) {
    if (condition.is(Term.AND)) {
      return condition.parts().stream().anyMatch(part -> rejects(part, isNull));
    }
    if (condition.is(Term.OR)) {
      return condition.parts().stream().allMatch(part -> rejects(part, isNull));
    }
    if (condition.is(Term.EXISTS) && condition.query() instanceof Shape.Block asked) {
      return !asked.grouped()
          && asked.rows().conditions.stream().anyMatch(part -> rejects(part, isNull));
    }
    boolean needsValues =
        COMPARING.contains(condition.operation())
            || condition.operation().startsWith("like ")
            || condition.is(Term.IS_NOT_NULL);
    return needsValues && condition.parts().stream().anyMatch(part -> isNull(part, isNull));
  }

  /** Whether a value is NULL if some columns are. */
  private static boolean isNull(Term value, Predicate<Term> isNull) {
    if (value.isColumn()) {
      return isNull.test(value);
    }
    boolean strict =
        RECKONING.contains(value.operation())
            || value.operation().startsWith("cast ")
            || Functions.isNullOnNull(value.operation());
    return strict && value.parts().stream().anyMatch(part -> isNull(part, isNull));
  }
}
