package io.lantrel.engine;

import io.lantrel.catalog.ColumnType;
import io.lantrel.catalog.TypeFamily;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.OffsetDateTime;
import java.time.format.DateTimeFormatter;
import java.time.format.DateTimeFormatterBuilder;
import java.time.temporal.ChronoField;
import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * Values as text, alike for all engines: they differ in zeros, in T, and in the words for truth.
 */
public final class ValueText {

  private static final DateTimeFormatter TIME =
      new DateTimeFormatterBuilder()
          .appendPattern("HH:mm:ss")
          .appendFraction(ChronoField.NANO_OF_SECOND, 0, 9, true)
          .toFormatter(Locale.ROOT);

  private static final DateTimeFormatter TIMESTAMP =
      new DateTimeFormatterBuilder()
          .append(DateTimeFormatter.ISO_LOCAL_DATE)
          .appendLiteral(' ')
          .append(TIME)
          .toFormatter(Locale.ROOT);

  private static final DateTimeFormatter ZONED =
      new DateTimeFormatterBuilder()
          .append(TIMESTAMP)
          .appendOffset("+HH:MM", "+00:00")
          .toFormatter(Locale.ROOT);

  private ValueText() {}

  /** A value of a result. */
  public static String of(Object value) {
    if (value instanceof BigDecimal number) {
      return number.toPlainString();
    }
    if (value instanceof LocalDateTime time) {
      return time.format(TIMESTAMP);
    }
    if (value instanceof OffsetDateTime time) {
      return time.format(ZONED);
    }
    return value instanceof LocalTime time ? time.format(TIME) : value.toString();
  }

  /** The values of a row, with commas between them. */
  public static String row(List<@Nullable Object> values) {
    return values.stream()
        .map(value -> value == null ? "NULL" : of(value))
        .collect(Collectors.joining(", "));
  }

  /** A value of a column, or a text that the engine made of one; null for NULL. */
  public static @Nullable String of(@Nullable Object value, ColumnType type) {
    if (value == null) {
      return null;
    }
    if (type.family() == TypeFamily.TEXT) {
      return of(value);
    }
    String text = of(value).strip();
    return switch (type.family()) {
      case DECIMAL -> isNumber(text) ? decimal(new BigDecimal(text), type.numbers()) : text;
      case FLOAT -> isNumber(text) ? String.valueOf(Double.parseDouble(text)) : text;
      case TRUTH -> truth(text);
      case TIMESTAMP -> text.replaceFirst("(?<=[0-9])T(?=[0-9])", " ").replaceFirst("\\.0+$", "");
      case TIME -> text.replaceFirst("\\.0+$", "");
      case INTEGER, DATE, TEXT, OTHER -> text;
    };
  }

  /** Whether a text is a number, as {@code -1.5} or {@code 1e9}. */
  public static boolean isNumber(String text) {
    return text.matches("[-+]?[0-9]*\\.?[0-9]+(?:[eE][-+]?[0-9]+)?");
  }

  private static String decimal(BigDecimal value, List<Integer> numbers) {
    if (numbers.isEmpty()) {
      return value.toPlainString();
    }
    int scale = numbers.size() > 1 ? numbers.get(1) : 0;
    boolean fits = value.stripTrailingZeros().scale() <= scale;
    return fits
        ? value.setScale(scale, RoundingMode.UNNECESSARY).toPlainString()
        : value.toPlainString();
  }

  private static String truth(String text) {
    return switch (text.toLowerCase(Locale.ROOT)) {
      case "1", "true", "t" -> "true";
      case "0", "false", "f" -> "false";
      default -> text;
    };
  }
}
