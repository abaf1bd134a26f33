package io.lantrel.rewrite;

import java.util.Arrays;
import java.util.Optional;

/** Forms that a query can be brought into without changing what it gives. */
public enum Form {
  /** Commas in FROM become joins, with their conditions of WHERE in ON; so does the mark (+). */
  JOINS("joins", "every table joined by JOIN with its condition"),
  /** USING and NATURAL become ON. */
  ON("on", "ON in place of USING and NATURAL"),
  /** RIGHT JOIN becomes LEFT JOIN, with the sides exchanged. */
  LEFT("left", "LEFT JOIN in place of RIGHT JOIN"),
  /** Joins within joins become one chain. */
  FLAT("flat", "one chain of joins, none within another"),
  /** FULL JOIN becomes two queries, for engines that have none. */
  UNION("union", "LEFT JOIN and UNION ALL in place of FULL JOIN"),
  /** Every column says whose it is. */
  QUALIFIED("qualified", "every column with its table"),
  /** {@code *} is written out. */
  COLUMNS("columns", "the columns in place of *"),
  /** Tables get initials as aliases. */
  SHORT("short", "short aliases"),
  /** Tables that are referred to in a role get it as alias. */
  ROLES("roles", "aliases that say what a row is to the one that refers to it"),
  /** NOT IN, and LEFT JOIN with IS NULL, become NOT EXISTS. */
  NOT_EXISTS("not-exists", "NOT EXISTS in place of NOT IN and of LEFT JOIN with IS NULL"),
  /** NOT EXISTS, and LEFT JOIN with IS NULL, become NOT IN. */
  NOT_IN("not-in", "NOT IN in place of NOT EXISTS and of LEFT JOIN with IS NULL"),
  /** NOT EXISTS and NOT IN become LEFT JOIN with IS NULL. */
  IS_NULL("is-null", "LEFT JOIN with IS NULL in place of NOT EXISTS and NOT IN");

  private final String id;
  private final String words;

  Form(String id, String words) {
    this.id = id;
    this.words = words;
  }

  /** The name in options. */
  public String id() {
    return id;
  }

  /** What a query of this form has. */
  public String words() {
    return words;
  }

  /** The form of that name; empty if there is none. */
  public static Optional<Form> of(String id) {
    return Arrays.stream(values()).filter(each -> each.id.equalsIgnoreCase(id)).findFirst();
  }
}
