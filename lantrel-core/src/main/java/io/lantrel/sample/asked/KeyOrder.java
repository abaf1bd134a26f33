package io.lantrel.sample.asked;

import io.lantrel.catalog.TypeFamily;
import io.lantrel.engine.ValueText;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** Rows in the order of their keys, whatever they were taken for. */
final class KeyOrder {

  private static final Set<TypeFamily> NUMBERS = Set.of(TypeFamily.INTEGER, TypeFamily.DECIMAL);

  private KeyOrder() {}

  static List<List<@Nullable String>> of(TableRows table, List<List<@Nullable String>> rows) {
    List<List<@Nullable String>> sorted = new ArrayList<>(rows);
    sorted.sort((one, other) -> compared(table, one, other));
    return sorted;
  }

  private static int compared(
      TableRows table, List<@Nullable String> one, List<@Nullable String> other) {
    for (String name : table.identity()) {
      int position = table.position(name);
      boolean number = NUMBERS.contains(table.of(name).type().family());
      int compared = compared(one.get(position), other.get(position), number);
      if (compared != 0) {
        return compared;
      }
    }
    return 0;
  }

  private static int compared(@Nullable String one, @Nullable String other, boolean number) {
    if (one == null || other == null) {
      return one == null ? (other == null ? 0 : 1) : -1;
    }
    // Some engines have a decimal that is no number, NaN.
    boolean both = number && ValueText.isNumber(one) && ValueText.isNumber(other);
    return both ? new BigDecimal(one).compareTo(new BigDecimal(other)) : one.compareTo(other);
  }
}
