package io.lantrel.sample.mask;

import io.lantrel.catalog.Column;
import io.lantrel.catalog.TypeFamily;
import io.lantrel.engine.ValueText;
import io.lantrel.sample.SampleWish.Likeness;
import java.math.BigDecimal;
import java.math.BigInteger;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;

/** Numbers that stand for others: the least free ones, with as many places behind the point. */
final class OtherNumbers {

  private static final int MOST_DIGITS_OF_SMALLINT = 4;
  private static final int MOST_DIGITS_OF_INTEGER = 9;
  private static final int MOST_DIGITS = 18;

  private final Replacements wish;

  OtherNumbers(Replacements wish) {
    this.wish = wish;
  }

  Map<String, String> of(Set<String> values) {
    Map<String, String> others = new HashMap<>();
    Map<String, BigDecimal> below = new TreeMap<>();
    Map<String, BigDecimal> above = new TreeMap<>();
    for (String each : values) {
      // Some engines have a decimal that is no number, NaN; it tells nothing.
      BigDecimal number = ValueText.isNumber(each) ? new BigDecimal(each) : BigDecimal.ZERO;
      if (number.signum() == 0) {
        others.put(each, each);
      } else {
        (number.signum() < 0 ? below : above).put(each, number.abs());
      }
    }
    others.putAll(of(above));
    of(below).forEach((each, other) -> others.put(each, "-" + other));
    return others;
  }

  /** What stands for numbers above 0. */
  private Map<String, String> of(Map<String, BigDecimal> numbers) {
    int scale = numbers.values().stream().mapToInt(BigDecimal::scale).max().orElse(0);
    Map<String, BigInteger> sizes = new TreeMap<>();
    numbers.forEach((each, number) -> sizes.put(each, number.setScale(scale).unscaledValue()));
    Set<BigInteger> taken = new HashSet<>(sizes.values());
    Map<BigInteger, BigInteger> replaced = new HashMap<>();
    BigInteger last = BigInteger.ZERO;
    for (BigInteger each : wish.inTurn(new ArrayList<>(new TreeSet<>(sizes.values())))) {
      BigInteger next = wish.keeps(Likeness.LENGTH) ? firstOfLength(each) : BigInteger.ONE;
      if (wish.keeps(Likeness.ORDER)) {
        next = next.max(last.add(BigInteger.ONE));
      }
      while (taken.contains(next)) {
        next = next.add(BigInteger.ONE);
      }
      boolean longer =
          wish.keeps(Likeness.LENGTH) && next.toString().length() != each.toString().length();
      if (longer || next.toString().length() > mostDigits()) {
        throw wish.tooFew("numbers");
      }
      taken.add(next);
      replaced.put(each, next);
      last = next;
    }
    Map<String, String> others = new HashMap<>();
    sizes.forEach(
        (each, size) ->
            others.put(
                each,
                new BigDecimal(Objects.requireNonNull(replaced.get(size)), scale).toPlainString()));
    return others;
  }

  private static BigInteger firstOfLength(BigInteger number) {
    return BigInteger.TEN.pow(number.toString().length() - 1);
  }

  /** How many digits fit into all of the columns. */
  private int mostDigits() {
    return wish.columns().stream().mapToInt(OtherNumbers::digits).min().orElse(MOST_DIGITS);
  }

  private static int digits(Column column) {
    if (column.type().family() == TypeFamily.DECIMAL) {
      return column.type().numbers().isEmpty() ? MOST_DIGITS : column.type().numbers().get(0);
    }
    return switch (column.type().word()) {
      case "SMALLINT" -> MOST_DIGITS_OF_SMALLINT;
      case "BIGINT" -> MOST_DIGITS;
      default -> MOST_DIGITS_OF_INTEGER;
    };
  }
}
