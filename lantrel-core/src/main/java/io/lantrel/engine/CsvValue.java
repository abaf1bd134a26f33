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
import java.util.function.Function;
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
   * What turns texts into values of a type. It throws IllegalArgumentException for a text that is
   * none of that type.
   */
  static Function<String, Object> parser(ColumnType type, List<Integer> decimalDefaults) {
    List<Integer> numbers = type.numbers();
    return switch (type.family()) {
      case INTEGER -> integer(type.standard());
      case DECIMAL -> decimal(numbers.isEmpty() ? decimalDefaults : numbers);
      case FLOAT -> type.word().equals("REAL") ? Float::valueOf : Double::valueOf;
      case TEXT -> numbers.isEmpty() ? text -> text : text -> text(text, numbers.get(0));
      case TRUTH -> CsvValue::truth;
      case DATE -> text -> time(text, LocalDate::parse);
      case TIME -> text -> time(text, LocalTime::parse);
      case TIMESTAMP -> text -> time(text.replace(' ', 'T'), LocalDateTime::parse);
      case OTHER -> text -> text;
    };
  }

  private static Object time(String text, Function<String, Object> parse) {
    try {
      return parse.apply(text);
    } catch (DateTimeException unfit) {
      throw new IllegalArgumentException("no date or time", unfit);
    }
  }

  private static Function<String, Object> integer(ColumnType standard) {
    if (standard.family() == TypeFamily.DECIMAL) {
      return decimal(standard.numbers());
    }
    return switch (standard.word()) {
      case "SMALLINT" -> Short::valueOf;
      case "BIGINT" -> Long::valueOf;
      default -> Integer::valueOf;
    };
  }

  private static Function<String, Object> decimal(List<Integer> numbers) {
    if (numbers.isEmpty()) {
      return BigDecimal::new;
    }
    int precision = numbers.get(0);
    int scale = numbers.size() > 1 ? numbers.get(1) : 0;
    return text -> {
      BigDecimal value = new BigDecimal(text);
      BigDecimal fitted = value.stripTrailingZeros();
      if (fitted.scale() > scale || fitted.precision() - fitted.scale() > precision - scale) {
        throw new IllegalArgumentException("too long a number");
      }
      return value.setScale(scale);
    };
  }

  private static String text(String text, int length) {
    if (text.codePointCount(0, text.length()) > length) {
      throw new IllegalArgumentException("too long a text");
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
