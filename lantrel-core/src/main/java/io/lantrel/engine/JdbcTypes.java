package io.lantrel.engine;

import io.lantrel.catalog.ColumnType;
import java.sql.Types;
import java.util.Locale;
import java.util.Map;

/** Column types as JDBC tells them, in the words of the SQL standard where there is one. */
final class JdbcTypes {

  /** Lengths from here on mean that none was declared. */
  private static final int ENDLESS = 1_000_000_000;

  private static final Map<Integer, String> WORDS =
      Map.ofEntries(
          Map.entry(Types.SMALLINT, "SMALLINT"),
          Map.entry(Types.INTEGER, "INTEGER"),
          Map.entry(Types.BIGINT, "BIGINT"),
          Map.entry(Types.DECIMAL, "DECIMAL"),
          Map.entry(Types.NUMERIC, "DECIMAL"),
          Map.entry(Types.REAL, "REAL"),
          Map.entry(Types.FLOAT, "DOUBLE"),
          Map.entry(Types.DOUBLE, "DOUBLE"),
          Map.entry(Types.CHAR, "CHAR"),
          Map.entry(Types.NCHAR, "CHAR"),
          Map.entry(Types.VARCHAR, "VARCHAR"),
          Map.entry(Types.NVARCHAR, "VARCHAR"),
          Map.entry(Types.LONGVARCHAR, "TEXT"),
          Map.entry(Types.CLOB, "TEXT"),
          Map.entry(Types.BOOLEAN, "BOOLEAN"),
          Map.entry(Types.DATE, "DATE"),
          Map.entry(Types.TIME, "TIME"),
          Map.entry(Types.TIMESTAMP, "TIMESTAMP"));

  private JdbcTypes() {}

  /**
   * The type.
   *
   * @param name as the product calls it
   * @param code one of {@link Types}
   * @param size its length or precision
   * @param digits its scale
   */
  static ColumnType type(String name, int code, int size, int digits) {
    String key = name.toLowerCase(Locale.ROOT);
    if (key.equals("bool")) {
      return ColumnType.of("BOOLEAN");
    }
    String word = WORDS.get(code);
    boolean own =
        key.endsWith("tz")
            || key.contains("with time zone")
            || key.contains("json")
            || key.equals("money");
    // H2 calls its own otherwise, and compares them like any text.
    own |= code == Types.CLOB && key.equals("clob");
    if (word == null || own || isUnknownText(code, key)) {
      return ColumnType.of(ownName(name));
    }
    if (key.equals("text")) {
      return ColumnType.of("TEXT");
    }
    return switch (code) {
      case Types.CHAR, Types.NCHAR, Types.VARCHAR, Types.NVARCHAR ->
          ColumnType.of(size > 0 && size < ENDLESS ? word + "(" + size + ")" : word);
      case Types.DECIMAL, Types.NUMERIC ->
          ColumnType.of(size > 0 && size <= 1_000 ? word + "(" + size + ", " + digits + ")" : word);
      default -> ColumnType.of(word);
    };
  }

  /** PostgreSQL writes an array with a low line in front, and names of users in quotes. */
  private static String ownName(String name) {
    if (name.contains("\"")) {
      return name;
    }
    String word = name.toUpperCase(Locale.ROOT);
    return word.matches("_[A-Z0-9]+") ? word.substring(1) + "[]" : word;
  }

  /** Drivers call what they do not know, as an enumeration, a VARCHAR. */
  private static boolean isUnknownText(int code, String name) {
    boolean text = code == Types.VARCHAR || code == Types.CHAR;
    return text && !name.matches(".*(?:char|text|clob|string).*");
  }
}
