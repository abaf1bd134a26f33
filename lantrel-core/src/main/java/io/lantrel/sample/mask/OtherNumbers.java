package io.lantrel.sample.mask;

import io.lantrel.catalog.Column;
import io.lantrel.catalog.TypeFamily;
import io.lantrel.sample.SampleWish.Likeness;
import java.math.BigDecimal;
import java.math.BigInteger;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
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
    List<BigDecimal> below = new ArrayList<>();
    List<BigDecimal> above = new ArrayList<>();
    for (String each : values) {
      BigDecimal number = new BigDecimal(each);
      if (number.signum() == 0) {
        others.put(each, each);
      } else {
        (number.signum() < 0 ? below : above).add(number);
      }
    }
    put(above, false, others);
    put(below, true, others);
    return others;
  }

  private void put(List<BigDecimal> numbers, boolean negative, Map<String, String> others) {
    int scale = numbers.stream().mapToInt(BigDecimal::scale).max().orElse(0);
    Set<BigInteger> sizes = new TreeSet<>();
    numbers.forEach(each -> sizes.add(each.abs().setScale(scale).unscaledValue()));
    Set<BigInteger> taken = new HashSet<>(sizes);
    Map<BigInteger, BigInteger> replaced = new HashMap<>();
    BigInteger last = BigInteger.ZERO;
    for (BigInteger each : wish.inTurn(new ArrayList<>(sizes))) {
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
    for (BigDecimal number : numbers) {
      BigInteger size = number.abs().setScale(scale).unscaledValue();
      BigDecimal other = new BigDecimal(Objects.requireNonNull(replaced.get(size)), scale);
      others.put(number.toPlainString(), (negative ? other.negate() : other).toPlainString());
    }
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
