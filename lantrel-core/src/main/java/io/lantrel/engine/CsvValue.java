package io.lantrel.engine;

import io.lantrel.catalog.Column;
import io.lantrel.catalog.ColumnType;
import io.lantrel.catalog.TypeFamily;
import java.math.BigDecimal;
import java.sql.SQLException;
import java.time.DateTimeException;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.util.List;
import java.util.Locale;
import org.duckdb.DuckDBAppender;
import org.jspecify.annotations.Nullable;

/**
 * Turns the text of a CSV field into a value of its column's type, and refuses what does not fit as
 * it is: an engine would round 1.5 to a whole number, or cut a text, without a word.
 */
final class CsvValue {

  private CsvValue() {}

  /** Whether Lantrel does not know the type, and leaves its texts to the engine. */
  static boolean isLeftToTheEngine(Column column) {
    return column.type().family() == TypeFamily.OTHER;
  }

  /**
   * The value that a text stands for.
   *
   * @throws IllegalArgumentException if it is none of that type
   */
  static Object parse(String text, ColumnType type) {
    try {
      return switch (type.family()) {
        case INTEGER -> integer(text, type);
        case DECIMAL -> decimal(text, type);
        case FLOAT ->
            type.word().equals("REAL") ? (Object) Float.valueOf(text) : Double.valueOf(text);
        case TEXT -> text(text, type);
        case TRUTH -> truth(text);
        case DATE -> LocalDate.parse(text);
        case TIME -> LocalTime.parse(text);
        case TIMESTAMP -> LocalDateTime.parse(text.replaceFirst(" ", "T"));
        case OTHER -> text;
      };
    } catch (DateTimeException unfit) {
      throw new IllegalArgumentException("not a " + type.text(), unfit);
    }
  }

  private static Object integer(String text, ColumnType type) {
    return switch (type.word()) {
      case "SMALLINT" -> (Object) Short.valueOf(text);
      case "BIGINT" -> Long.valueOf(text);
      default -> Integer.valueOf(text);
    };
  }

  private static BigDecimal decimal(String text, ColumnType type) {
    List<Integer> numbers = type.numbers();
    BigDecimal value = new BigDecimal(text);
    // DuckDB's DECIMAL without numbers is DECIMAL(18, 3).
    int precision = numbers.isEmpty() ? 18 : numbers.get(0);
    int scale = numbers.size() > 1 ? numbers.get(1) : numbers.isEmpty() ? 3 : 0;
    BigDecimal fitted = value.stripTrailingZeros();
    if (fitted.scale() > scale || fitted.precision() - fitted.scale() > precision - scale) {
      throw new IllegalArgumentException("not a " + type.text());
    }
    return value.setScale(scale);
  }

  private static String text(String text, ColumnType type) {
    List<Integer> numbers = type.numbers();
    if (!numbers.isEmpty() && text.codePointCount(0, text.length()) > numbers.get(0)) {
      throw new IllegalArgumentException("longer than " + type.text());
    }
    return text;
  }

  private static Boolean truth(String text) {
    return switch (text.toLowerCase(Locale.ROOT)) {
      case "true" -> true;
      case "false" -> false;
      default -> throw new IllegalArgumentException("not a truth value");
    };
  }

  /** Hands a parsed value to the appender in the type that it has. */
  static void append(DuckDBAppender appender, @Nullable Object value) throws SQLException {
    if (value == null) {
      appender.appendNull();
    } else if (value instanceof Short number) {
      appender.append(number.shortValue());
    } else if (value instanceof Integer number) {
      appender.append(number.intValue());
    } else if (value instanceof Long number) {
      appender.append(number.longValue());
    } else if (value instanceof Float number) {
      appender.append(number.floatValue());
    } else if (value instanceof Double number) {
      appender.append(number.doubleValue());
    } else if (value instanceof Boolean truth) {
      appender.append(truth.booleanValue());
    } else if (value instanceof BigDecimal number) {
      appender.append(number);
    } else if (value instanceof LocalDate date) {
      appender.append(date);
    } else if (value instanceof LocalTime time) {
      appender.append(time);
    } else if (value instanceof LocalDateTime timestamp) {
      appender.append(timestamp);
    } else {
      appender.append(value.toString());
    }
  }
}
