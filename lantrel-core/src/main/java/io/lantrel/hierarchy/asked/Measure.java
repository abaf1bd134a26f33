package io.lantrel.hierarchy.asked;

import io.lantrel.catalog.Column;
import io.lantrel.catalog.Table;
import io.lantrel.catalog.TypeFamily;
import io.lantrel.hierarchy.HierarchyException;
import io.lantrel.words.Words;
import java.math.BigDecimal;
import java.util.EnumSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** Numbers that are summed up a tree. NULL is left out, as SUM does (ISO/IEC 9075-2, 10.9). */
final class Measure {

  private static final Set<TypeFamily> NUMBERS =
      EnumSet.of(TypeFamily.INTEGER, TypeFamily.DECIMAL, TypeFamily.FLOAT);

  private Measure() {}

  /**
   * The column of a name.
   *
   * @throws HierarchyException if there is none, or it holds no numbers
   */
  static Column column(Table table, String name) {
    Column column = HierarchyMaker.column(table, name);
    if (!NUMBERS.contains(column.type().family())) {
      List<String> numbers =
          table.columns().stream()
              .filter(each -> NUMBERS.contains(each.type().family()))
              .map(Column::name)
              .toList();
      throw new HierarchyException(
          column.name()
              + " is "
              + column.type().text()
              + ", which is not summed up"
              + (numbers.isEmpty()
                  ? "; " + table.name() + " has no numbers"
                  : "; numbers of " + table.name() + " are " + Words.list(numbers)));
    }
    return column;
  }

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
