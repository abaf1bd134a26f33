package io.lantrel.engine;

import java.sql.Array;
import java.sql.Blob;
import java.sql.Clob;
import java.sql.Date;
import java.sql.ResultSet;
import java.sql.ResultSetMetaData;
import java.sql.SQLException;
import java.sql.SQLXML;
import java.sql.Time;
import java.sql.Timestamp;
import java.sql.Types;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.OffsetDateTime;
import java.time.temporal.Temporal;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.HexFormat;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/**
 * Reads the values of a row as plain Java: numbers, truth values, texts, {@code java.time}. Times
 * are asked for as such: by way of {@link Timestamp} an hour would be lost when clocks change.
 */
final class ValueReader {

  /** Types of which a text is but a description. */
  private static final Set<Integer> ODD =
      Set.of(
          Types.BIT,
          Types.BINARY,
          Types.VARBINARY,
          Types.LONGVARBINARY,
          Types.BLOB,
          Types.SQLXML,
          Types.ARRAY,
          Types.STRUCT,
          Types.OTHER,
          Types.JAVA_OBJECT);

  private static final int MOST_BYTES = 1_000_000;

  private final ResultSet result;
  private final List<@Nullable Class<?>> wanted = new ArrayList<>();
  private final List<Boolean> isOdd = new ArrayList<>();
  private final Set<Integer> worded = new HashSet<>();

  ValueReader(ResultSet result, ResultSetMetaData meta) throws SQLException {
    this.result = result;
    for (int column = 1; column <= meta.getColumnCount(); column++) {
      wanted.add(wanted(meta.getColumnType(column), meta.getColumnTypeName(column)));
      isOdd.add(ODD.contains(meta.getColumnType(column)));
    }
  }

  private static @Nullable Class<?> wanted(int type, @Nullable String name) {
    boolean zoned =
        name != null && name.toLowerCase(Locale.ROOT).matches("timestamptz|.*with time zone");
    boolean hourOfZone = name != null && name.equalsIgnoreCase("timetz");
    return switch (type) {
      case Types.TIMESTAMP -> zoned ? OffsetDateTime.class : LocalDateTime.class;
      case Types.TIMESTAMP_WITH_TIMEZONE -> OffsetDateTime.class;
      case Types.DATE -> LocalDate.class;
      case Types.TIME -> hourOfZone ? String.class : LocalTime.class;
      default -> null;
    };
  }

  /** The values of the current row. */
  List<@Nullable Object> row() throws SQLException {
    List<@Nullable Object> row = new ArrayList<>();
    for (int column = 1; column <= wanted.size(); column++) {
      row.add(value(column));
    }
    return row;
  }

  /** The columns, counted from 0, in which a value so far had to be put into words. */
  Set<Integer> worded() {
    return worded;
  }

  private @Nullable Object value(int column) throws SQLException {
    Object value = result.getObject(column);
    Class<?> type = wanted.get(column - 1);
    if (type == String.class || (type == LocalTime.class && !isTimeOfDay(column))) {
      return result.getString(column);
    }
    if (type != null && (value instanceof java.util.Date || type == OffsetDateTime.class)) {
      return value == null ? null : result.getObject(column, type);
    }
    Object plain = plain(value);
    if (value == null) {
      return null;
    }
    if (plain == null
        || (isOdd.get(column - 1) && (value instanceof String || value instanceof Boolean))) {
      worded.add(column - 1);
      return plain == null ? words(value) : plain;
    }
    return plain;
  }

  /** MariaDB's times are spans too, of thirty hours say. */
  private boolean isTimeOfDay(int column) throws SQLException {
    String text = result.getString(column);
    return text == null || !text.matches("-.*|(2[4-9]|[3-9][0-9]|[0-9]{3,}):.*");
  }

  /** Null for what is none. */
  private static @Nullable Object plain(@Nullable Object value) throws SQLException {
    if (value == null
        || value instanceof Number
        || value instanceof Boolean
        || value instanceof String
        || value instanceof Temporal) {
      return value;
    }
    if (value instanceof Timestamp time) {
      return time.toLocalDateTime();
    }
    if (value instanceof Date date) {
      return date.toLocalDate();
    }
    if (value instanceof Time time) {
      return time.toLocalTime();
    }
    if (value instanceof Clob text) {
      return text.getSubString(1, (int) Math.min(text.length(), Integer.MAX_VALUE));
    }
    return value instanceof UUID id ? id.toString() : null;
  }

  private static String words(Object value) throws SQLException {
    if (value instanceof SQLXML xml) {
      return xml.getString();
    }
    if (value instanceof Blob bytes) {
      return HexFormat.of()
          .formatHex(bytes.getBytes(1, (int) Math.min(bytes.length(), MOST_BYTES)));
    }
    if (value instanceof Array array) {
      return array.getArray() instanceof Object[] values
          ? Arrays.deepToString(values)
          : array.toString();
    }
    if (value instanceof byte[] bytes) {
      return HexFormat.of().formatHex(bytes);
    }
    return value.toString();
  }
}
