package io.lantrel.draft;

import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Something shown, as it was written.
 *
 * @param aggregate what is worked out; {@link Aggregate#NONE} for a plain column
 * @param different whether each value counts once
 * @param use the table or role
 * @param column the column; empty if rows of the table are counted
 * @param text the words themselves
 */
record Item(Aggregate aggregate, boolean different, String use, String column, String text) {

  private static final String NAME = "(\"[^\"]+\"|[^\\s.\"()]+)";

  /** A table, a column of it, or a schema before both. */
  private static final Pattern FORM =
      Pattern.compile(
          "(?i)(?:(count|sum|average|least|greatest)\\s+(?:of\\s+)?(different\\s+)?)?"
              + NAME
              + "(?:\\."
              + NAME
              + ")?(?:\\."
              + NAME
              + ")?");

  /** What can be worked out over several rows. */
  enum Aggregate {
    NONE("", ""),
    COUNT("COUNT", "count"),
    SUM("SUM", "total"),
    AVERAGE("AVG", "average"),
    LEAST("MIN", "least"),
    GREATEST("MAX", "greatest");

    private final String function;
    private final String word;

    Aggregate(String function, String word) {
      this.function = function;
      this.word = word;
    }

    String function() {
      return function;
    }

    String word() {
      return word;
    }
  }

  static Item of(String text) {
    Matcher form = FORM.matcher(text.strip());
    if (!form.matches()) {
      throw new WishException(
          "\""
              + text
              + "\" is neither a column, as station.name, nor a figure, as count of reading or"
              + " average reading.temperature; names with blanks stand in double quotes");
    }
    Aggregate aggregate = aggregate(form.group(1));
    String use = form.group(3).replace("\"", "");
    String column = form.group(4) == null ? "" : form.group(4).replace("\"", "");
    if (form.group(5) != null) {
      use += "." + column;
      column = form.group(5).replace("\"", "");
    }
    if (column.isEmpty() && aggregate != Aggregate.COUNT) {
      throw new WishException(
          "\"" + text + "\" names no column; write " + use + ", a dot, and the column");
    }
    return new Item(aggregate, form.group(2) != null, use, column, text.strip());
  }

  private static Aggregate aggregate(@org.jspecify.annotations.Nullable String word) {
    if (word == null) {
      return Aggregate.NONE;
    }
    return switch (word.toLowerCase(Locale.ROOT)) {
      case "count" -> Aggregate.COUNT;
      case "sum" -> Aggregate.SUM;
      case "average" -> Aggregate.AVERAGE;
      case "least" -> Aggregate.LEAST;
      default -> Aggregate.GREATEST;
    };
  }

  boolean isAggregate() {
    return aggregate != Aggregate.NONE;
  }
}
