package io.lantrel.write;

import java.util.Arrays;
import java.util.Optional;

/** Forms that a query can be brought into without changing what it gives. */
public enum Form {
  /** Commas in FROM become joins, with their conditions of WHERE in ON. */
  JOINS("joins", "every table joined by JOIN with its condition"),
  /** USING and NATURAL become ON. */
  ON("on", "ON in place of USING and NATURAL"),
  /** RIGHT JOIN becomes LEFT JOIN, with the sides exchanged. */
  LEFT("left", "LEFT JOIN in place of RIGHT JOIN"),
  /** Every column says whose it is. */
  QUALIFIED("qualified", "every column with its table"),
  /** {@code *} is written out. */
  COLUMNS("columns", "the columns in place of *"),
  /** NOT IN with a query becomes NOT EXISTS. */
  NOT_EXISTS("not-exists", "NOT EXISTS in place of NOT IN");

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
