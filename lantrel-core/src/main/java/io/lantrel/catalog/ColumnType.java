package io.lantrel.catalog;

import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

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
          Map.entry("INTEGER", TypeFamily.INTEGER),
          Map.entry("INT", TypeFamily.INTEGER),
          Map.entry("BIGINT", TypeFamily.INTEGER),
          Map.entry("DECIMAL", TypeFamily.DECIMAL),
          Map.entry("NUMERIC", TypeFamily.DECIMAL),
          Map.entry("DEC", TypeFamily.DECIMAL),
          Map.entry("REAL", TypeFamily.FLOAT),
          Map.entry("FLOAT", TypeFamily.FLOAT),
          Map.entry("DOUBLE", TypeFamily.FLOAT),
          Map.entry("DOUBLE PRECISION", TypeFamily.FLOAT),
          Map.entry("CHAR", TypeFamily.TEXT),
          Map.entry("CHARACTER", TypeFamily.TEXT),
          Map.entry("CHARACTER VARYING", TypeFamily.TEXT),
          Map.entry("VARCHAR", TypeFamily.TEXT),
          Map.entry("TEXT", TypeFamily.TEXT),
          Map.entry("BOOLEAN", TypeFamily.TRUTH),
          Map.entry("BOOL", TypeFamily.TRUTH),
          Map.entry("DATE", TypeFamily.DATE),
          Map.entry("TIME", TypeFamily.TIME),
          Map.entry("TIMESTAMP", TypeFamily.TIMESTAMP));

  /** The type that a text names; of family {@link TypeFamily#OTHER} if it is not known. */
  public static ColumnType of(String text) {
    Matcher shape = SHAPE.matcher(text);
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

  /** The first word, in capitals. */
  public String word() {
    return text.split("[ (]", 2)[0].toUpperCase(Locale.ROOT);
  }
}
