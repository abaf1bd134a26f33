package io.lantrel.hierarchy.asked;

import java.math.BigDecimal;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** Numbers that are summed up a tree. NULL is left out, as SUM does (ISO/IEC 9075-2, 10.9). */
final class Measure {

  private Measure() {}

  /** A value as it came. */
  static Optional<BigDecimal> of(@Nullable Object value) {
    return value == null ? Optional.empty() : Optional.of(plain(new BigDecimal(value.toString())));
  }

  static Optional<BigDecimal> plus(Optional<BigDecimal> one, Optional<BigDecimal> other) {
    return one.isEmpty() ? other : Optional.of(plain(one.get().add(other.orElse(BigDecimal.ZERO))));
  }

  /** Without zeros at its end, and not as 5E+2. */
  private static BigDecimal plain(BigDecimal value) {
    BigDecimal shorter = value.stripTrailingZeros();
    return shorter.scale() < 0 ? shorter.setScale(0) : shorter;
  }
}
