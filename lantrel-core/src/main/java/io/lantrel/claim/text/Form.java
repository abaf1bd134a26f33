package io.lantrel.claim.text;

import java.util.List;
import java.util.stream.Stream;

/** The ways to write a claim. What stands in braces is filled in. */
public enum Form {
  ONE_ROW_PER("one row per {names}", "one row per A, B"),
  EVERY_APPEARS("every {name} appears [where]", "every TABLE appears where CONDITION"),
  NO_NULL("no null in {names}", "no null in A, B"),
  TOTAL("total of {name} is total of {name} [where]", "total of A is total of TABLE.B"),
  NUMBER("total of {name} is number of {name} [where]", "total of A is number of TABLE"),
  SAME_ROWS("same rows as {rest}", "same rows as FILE.sql"),
  ROWS_OF("rows of {rest}", "rows of FILE.csv"),
  NO_ROWS("no rows", "no rows"),
  AT_LEAST("at least {number} row|rows", "at least N rows"),
  AT_MOST("at most {number} row|rows", "at most N rows"),
  LEVELS("levels at most {number}", "levels at most N"),
  ORDER("order by {order}", "order by A, B desc"),
  EXACTLY("{number} row|rows", "N rows"),
  REFERS("{names} refers|refer to {name}", "A refers to TABLE"),
  ONE_OF("{name} is one of {rest}", "A is one of 'x', 'y'"),
  BETWEEN("{name} between {rest}", "A between 1 and 9");

  private final String pattern;
  private final String example;

  Form(String pattern, String example) {
    this.pattern = pattern;
    this.example = example;
  }

  /** Its words, alternatives with a bar between them, and its slots in braces. */
  List<String> pieces() {
    return List.of(pattern.split(" "));
  }

  /** How it is written, for people. */
  public String example() {
    return example;
  }

  /** Whether a piece is filled in by the author. */
  static boolean isSlot(String piece) {
    return piece.startsWith("{") || piece.startsWith("[");
  }

  /** The words of a piece that is none. */
  static Stream<String> words(String piece) {
    return Stream.of(piece.split("\\|"));
  }
}
