package io.lantrel.catalog;

import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;

/**
 * A column's type.
 *
 * @param text as the schema writes it
 * @param family what its values are like
 */
public record ColumnType(String text, TypeFamily family) {

  /** A type that is not known. */
  public static final ColumnType UNKNOWN = new ColumnType("unknown", TypeFamily.OTHER);

  private static final Pattern SHAPE = Pattern.compile("([^(]*[^( ]) *(?:\\(([0-9, ]*)\\).*)?");

  private static final Pattern PADDED =
      Pattern.compile("(?i)(?:CHAR|CHARACTER|NCHAR|BPCHAR) *(?:\\(.*)?");

  private static final Pattern UNORDERED =
      Pattern.compile(
          "(?i)(?:json|xml|point|line|lseg|box|path|polygon|circle|[cb]lob|geometry|geography)\\b.*"
              + "|.*large object.*|.*\\barray\\b.*|.*\\[[0-9]*\\]|(?:map|struct|union|row|multiset)\\b.*");

  private static final Map<String, TypeFamily> FAMILIES =
      Map.ofEntries(
          Map.entry("SMALLINT", TypeFamily.INTEGER),
          Map.entry("TINYINT", TypeFamily.INTEGER),
          Map.entry("MEDIUMINT", TypeFamily.INTEGER),
          Map.entry("INT2", TypeFamily.INTEGER),
          Map.entry("INT4", TypeFamily.INTEGER),
          Map.entry("INT8", TypeFamily.INTEGER),
          Map.entry("SERIAL", TypeFamily.INTEGER),
          Map.entry("SMALLSERIAL", TypeFamily.INTEGER),
          Map.entry("BIGSERIAL", TypeFamily.INTEGER),
          Map.entry("INTEGER", TypeFamily.INTEGER),
          Map.entry("INT", TypeFamily.INTEGER),
          Map.entry("BIGINT", TypeFamily.INTEGER),
          Map.entry("DECIMAL", TypeFamily.DECIMAL),
          Map.entry("NUMERIC", TypeFamily.DECIMAL),
          Map.entry("DEC", TypeFamily.DECIMAL),
          Map.entry("NUMBER", TypeFamily.DECIMAL),
          Map.entry("REAL", TypeFamily.FLOAT),
          Map.entry("FLOAT4", TypeFamily.FLOAT),
          Map.entry("FLOAT8", TypeFamily.FLOAT),
          Map.entry("FLOAT", TypeFamily.FLOAT),
          Map.entry("DOUBLE", TypeFamily.FLOAT),
          Map.entry("DOUBLE PRECISION", TypeFamily.FLOAT),
          Map.entry("CHAR", TypeFamily.TEXT),
          Map.entry("CHARACTER", TypeFamily.TEXT),
          Map.entry("CHARACTER VARYING", TypeFamily.TEXT),
          Map.entry("VARCHAR", TypeFamily.TEXT),
          Map.entry("TEXT", TypeFamily.TEXT),
          Map.entry("NCHAR", TypeFamily.TEXT),
          Map.entry("NVARCHAR", TypeFamily.TEXT),
          Map.entry("VARCHAR2", TypeFamily.TEXT),
          Map.entry("NVARCHAR2", TypeFamily.TEXT),
          Map.entry("BPCHAR", TypeFamily.TEXT),
          Map.entry("CITEXT", TypeFamily.TEXT),
          Map.entry("STRING", TypeFamily.TEXT),
          Map.entry("TINYTEXT", TypeFamily.TEXT),
          Map.entry("MEDIUMTEXT", TypeFamily.TEXT),
          Map.entry("LONGTEXT", TypeFamily.TEXT),
          Map.entry("BOOLEAN", TypeFamily.TRUTH),
          Map.entry("BOOL", TypeFamily.TRUTH),
          Map.entry("DATE", TypeFamily.DATE),
          Map.entry("TIME", TypeFamily.TIME),
          Map.entry("DATETIME", TypeFamily.TIMESTAMP),
          Map.entry("TIMESTAMP", TypeFamily.TIMESTAMP));

  /** Words behind a type that do not tell what its values are like. */
  private static final Pattern BESIDES =
      Pattern.compile("(?i) +(?:unsigned|signed|zerofill|without time zone)\\b");

  private static final Set<String> SHORT = Set.of("SMALLINT", "TINYINT", "INT2", "SMALLSERIAL");
  private static final Set<String> LONG = Set.of("BIGINT", "INT8", "BIGSERIAL");

  /** The type that a text names; of family {@link TypeFamily#OTHER} if it is not known. */
  public static ColumnType of(String text) {
    Matcher shape = SHAPE.matcher(BESIDES.matcher(text).replaceAll(""));
    String words = shape.matches() ? shape.group(1).toUpperCase(Locale.ROOT) : text;
    boolean zoned = text.toUpperCase(Locale.ROOT).contains("WITH TIME ZONE");
    return new ColumnType(
        text, zoned ? TypeFamily.OTHER : FAMILIES.getOrDefault(words, TypeFamily.OTHER));
  }

  /** The numbers in its parentheses, as length, or precision and scale; empty if it has none. */
  public List<Integer> numbers() {
    Matcher shape = SHAPE.matcher(text);
    if (!shape.matches() || shape.group(2) == null || shape.group(2).isBlank()) {
      return List.of();
    }
    return Pattern.compile(",")
        .splitAsStream(shape.group(2))
        .map(each -> Integer.valueOf(each.strip()))
        .toList();
  }

  /** Whether its texts have one length, and some engines fill them with blanks. */
  public boolean isPadded() {
    return PADDED.matcher(text).matches();
  }

  /**
   * Whether there are engines that can neither compare such values nor put them in order:
   * documents, shapes, large objects, values made of values.
   */
  public boolean isUnordered() {
    return UNORDERED.matcher(text).matches();
  }

  /**
   * The type of the SQL standard for the same values, where a product has one of its own; a text
   * for a type that is not known.
   */
  public ColumnType standard() {
    String numbers =
        numbers().isEmpty()
            ? ""
            : numbers().stream().map(String::valueOf).collect(Collectors.joining(", ", "(", ")"));
    return of(
        switch (family) {
          case INTEGER -> wholeNumber();
          case DECIMAL -> "DECIMAL" + numbers;
          case FLOAT -> word().equals("REAL") || word().equals("FLOAT4") ? "REAL" : "DOUBLE";
          case TEXT -> numbers.isEmpty() ? "TEXT" : "VARCHAR" + numbers;
          case TRUTH -> "BOOLEAN";
          case DATE -> "DATE";
          case TIME -> "TIME";
          case TIMESTAMP -> "TIMESTAMP";
          case OTHER -> otherWord();
        });
  }

  private String otherWord() {
    return switch (word()) {
      case "YEAR" -> "SMALLINT";
      case "TIMESTAMPTZ" -> "TIMESTAMP WITH TIME ZONE";
      default -> "TEXT";
    };
  }

  private String wholeNumber() {
    boolean unsigned = text.toUpperCase(Locale.ROOT).contains("UNSIGNED");
    if (LONG.contains(word())) {
      return unsigned ? "DECIMAL(20, 0)" : "BIGINT";
    }
    if (SHORT.contains(word())) {
      return unsigned ? "INTEGER" : "SMALLINT";
    }
    return unsigned ? "BIGINT" : "INTEGER";
  }

  /** The first word, in capitals. */
  public String word() {
    return text.split("[ (]", 2)[0].toUpperCase(Locale.ROOT);
  }
}
