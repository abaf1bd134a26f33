package io.lantrel.compare.asked;

import io.lantrel.catalog.ColumnType;
import io.lantrel.catalog.TypeFamily;
import io.lantrel.engine.ValueText;
import java.math.BigDecimal;
import java.math.MathContext;
import java.math.RoundingMode;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.OffsetDateTime;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * When two values of a column are the same: the one place that knows how products, and files,
 * differ in what they give.
 *
 * <ul>
 *   <li>Numbers go by value: 1, 1.0 and 1.00 are one.
 *   <li>Products round in ways of their own, and a sum of floating numbers depends on the order of
 *       its rows. Floating numbers, and numbers of types that differ, need to agree to {@value
 *       #DIGITS} digits; or, since some products give means and quotients with four places only, to
 *       as many places as the shorter type has, at least {@value #PLACES}.
 *   <li>Truth is 1 and 0 where a product has no type for it.
 *   <li>Dates and times go by value, also where a product keeps them as text; a date is midnight of
 *       its day.
 *   <li>Blanks at the end of a text do not count if one of the two columns is CHAR: some products
 *       fill those up.
 *   <li>Anything else, and any text, goes by its characters, case and all.
 * </ul>
 */
final class Likeness {

  /** The type of a column of a file: any, until it meets another. */
  static final ColumnType UNTYPED = new ColumnType("untyped", TypeFamily.OTHER);

  static final int DIGITS = 12;
  static final int PLACES = 4;

  private static final Pattern NUMBER =
      Pattern.compile("[-+]?(?:[0-9]+\\.?[0-9]*|\\.[0-9]+)(?:[eE][-+]?[0-9]{1,3})?");
  private static final Pattern DAY = Pattern.compile("\\d{4}-\\d\\d-\\d\\d");
  private static final Pattern MOMENT =
      Pattern.compile("(\\d{4}-\\d\\d-\\d\\d)[ T](\\d\\d:\\d\\d(?::\\d\\d(?:\\.\\d{1,9})?)?)");
  private static final Pattern CLOCK = Pattern.compile("\\d\\d:\\d\\d(?::\\d\\d(?:\\.\\d{1,9})?)?");
  private static final Set<TypeFamily> NUMBERS =
      Set.of(TypeFamily.INTEGER, TypeFamily.DECIMAL, TypeFamily.FLOAT);

  private enum By {
    NUMBER,
    TIME,
    TEXT,
    WHAT_IT_IS
  }

  private final By by;
  private final boolean padded;

  /** How many places behind the point count; null if all do. */
  private final @Nullable Integer places;

  private final boolean rounded;

  /** Whether a text may be a number in writing. */
  private final boolean written;

  private Likeness(
      By by, boolean padded, @Nullable Integer places, boolean rounded, boolean written) {
    this.written = written;
    this.by = by;
    this.padded = padded;
    this.places = places;
    this.rounded = rounded;
  }

  /** The rules for a pair of columns. */
  static Likeness of(ColumnType one, ColumnType other) {
    boolean padded = isPadded(one) || isPadded(other);
    if (isNumber(one, other) || isNumber(other, one)) {
      boolean untyped = isUntyped(one) || isUntyped(other);
      boolean floating = one.family() == TypeFamily.FLOAT || other.family() == TypeFamily.FLOAT;
      boolean exact = untyped || one.equals(other);
      Integer places = exact ? null : places(one, other);
      return new Likeness(By.NUMBER, false, places, places == null && (floating || !exact), true);
    }
    if (one.family().isOfTime() || other.family().isOfTime()) {
      return new Likeness(By.TIME, false, null, false, false);
    }
    boolean text = one.family() == TypeFamily.TEXT || other.family() == TypeFamily.TEXT;
    return new Likeness(
        text ? By.TEXT : By.WHAT_IT_IS,
        padded,
        null,
        !one.equals(other),
        isUntyped(one) || isUntyped(other));
  }

  private static boolean isUntyped(ColumnType type) {
    return type.equals(UNTYPED);
  }

  private static boolean isPadded(ColumnType type) {
    return type.family() == TypeFamily.TEXT && type.word().equals("CHAR");
  }

  /** Truth and a number: one of the products has no truth values. */
  private static boolean isNumber(ColumnType one, ColumnType other) {
    return (NUMBERS.contains(one.family()) && other.family() != TypeFamily.TEXT)
        || one.family() == TypeFamily.TRUTH;
  }

  private static @Nullable Integer places(ColumnType one, ColumnType other) {
    @Nullable Integer some = places(one);
    @Nullable Integer others = places(other);
    if (some == null || others == null) {
      return some == null ? atLeast(others) : atLeast(some);
    }
    return some.equals(others) ? null : atLeast(Math.min(some, others));
  }

  private static @Nullable Integer places(ColumnType type) {
    List<Integer> numbers = type.numbers();
    return type.family() == TypeFamily.DECIMAL && numbers.size() > 1 ? numbers.get(1) : null;
  }

  private static @Nullable Integer atLeast(@Nullable Integer places) {
    return places == null ? null : Math.max(PLACES, places);
  }

  /** What stands for a value: equal for two that are the same. Null for NULL. */
  @Nullable Object of(@Nullable Object value) {
    if (value == null) {
      return null;
    }
    return switch (by) {
      case NUMBER -> number(value);
      case TIME -> time(value);
      case TEXT -> text(value);
      case WHAT_IT_IS -> plain(value);
    };
  }

  boolean isNumber() {
    return by == By.NUMBER;
  }

  /** Whether two values that are the same may be rounded to different ones. */
  boolean isRounded() {
    return (rounded && by == By.NUMBER) || places != null;
  }

  /** How far two numbers that were rounded may lie apart, since each was rounded by itself. */
  BigDecimal slack(BigDecimal value) {
    if (places != null) {
      return BigDecimal.ONE.movePointLeft(places);
    }
    return rounded
        ? value.abs().max(BigDecimal.ONE.movePointLeft(DIGITS)).movePointLeft(DIGITS - 1)
        : BigDecimal.ZERO;
  }

  private Object plain(Object value) {
    if (written || value instanceof Number || value instanceof Boolean) {
      Object number = number(value);
      if (number instanceof BigDecimal) {
        return number;
      }
    }
    Object time = time(value);
    return time instanceof String text ? text(text) : time;
  }

  private String text(Object value) {
    String text = ValueText.of(value);
    return padded ? text.stripTrailing() : text;
  }

  private Object number(Object value) {
    if (value instanceof Boolean truth) {
      return truth ? BigDecimal.ONE : BigDecimal.ZERO;
    }
    String text = ValueText.of(value).strip();
    if (!NUMBER.matcher(text).matches()) {
      return switch (text.toLowerCase(Locale.ROOT)) {
        case "true" -> BigDecimal.ONE;
        case "false" -> BigDecimal.ZERO;
        default -> text;
      };
    }
    return rounded(new BigDecimal(text)).stripTrailingZeros();
  }

  private BigDecimal rounded(BigDecimal number) {
    if (number.scale() <= 0) {
      return number;
    }
    if (places != null) {
      return number.setScale(Math.min(places, number.scale()), RoundingMode.HALF_UP);
    }
    return rounded ? number.round(new MathContext(DIGITS, RoundingMode.HALF_UP)) : number;
  }

  /** A day is the midnight that it begins with; a text that is no time stays one. */
  private static Object time(Object value) {
    if (value instanceof LocalDate day) {
      return day.atStartOfDay();
    }
    if (value instanceof OffsetDateTime moment) {
      return moment.withOffsetSameInstant(ZoneOffset.UTC).toLocalDateTime();
    }
    if (!(value instanceof String text)) {
      return value instanceof LocalDateTime || value instanceof LocalTime
          ? value
          : ValueText.of(value);
    }
    try {
      if (DAY.matcher(text).matches()) {
        return LocalDate.parse(text).atStartOfDay();
      }
      if (CLOCK.matcher(text).matches()) {
        return LocalTime.parse(text);
      }
      return MOMENT.matcher(text).matches() ? LocalDateTime.parse(text.replace(' ', 'T')) : text;
    } catch (java.time.DateTimeException none) {
      return text;
    }
  }
}
