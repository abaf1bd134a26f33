package io.lantrel.edit;

import io.lantrel.sql.Dialect;
import io.lantrel.sql.Dialect.Rule;

/**
 * The path of a walk along a hierarchy as a text: the keys on the way, with a slash behind each.
 */
public final class PathText {

  private static final int LONGEST_KEY = 50;
  private static final int LONGEST = 1_000;

  private final Dialect dialect;

  public PathText(Dialect dialect) {
    this.dialect = dialect;
  }

  /** The path of a row with which a walk begins. */
  public String first(String key) {
    return asPath(joined("'/'", key, "'/'"));
  }

  /** The path that is longer by a row. */
  public String longer(String path, String key) {
    return asPath(joined(path, key, "'/'"));
  }

  /** That a row is not on a path yet. */
  public String isNotOn(String path, String key) {
    return path + " NOT LIKE " + joined("'%/'", key, "'/%'");
  }

  private String joined(String first, String key, String last) {
    String value = "CAST(" + key + " AS " + dialect.textType() + "(" + LONGEST_KEY + "))";
    return dialect.has(Rule.BARS_ARE_OR)
        ? "CONCAT(" + first + ", " + value + ", " + last + ")"
        : first + " || " + value + " || " + last;
  }

  /** In most engines the first part of a recursive query says how long a path may be. */
  private String asPath(String text) {
    return "CAST(" + text + " AS " + dialect.textType() + "(" + LONGEST + "))";
  }
}
