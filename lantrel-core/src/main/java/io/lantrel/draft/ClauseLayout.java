package io.lantrel.draft;

import java.util.ArrayList;
import java.util.List;

/** The text of a SELECT, a clause to a line. */
final class ClauseLayout {

  /** Members of WITH RECURSIVE before the whole statement. */
  final List<String> with = new ArrayList<>();

  final List<String> items = new ArrayList<>();
  final List<String> from = new ArrayList<>();
  final List<String> where = new ArrayList<>();
  final List<String> groupBy = new ArrayList<>();
  final List<String> orderBy = new ArrayList<>();

  /** The statement, with its WITH. */
  String statement() {
    return statement(with, text());
  }

  /** A query behind members of WITH RECURSIVE; alone if there are none. */
  static String statement(List<String> with, String query) {
    return with.isEmpty() ? query : "WITH RECURSIVE " + String.join(",\n", with) + "\n" + query;
  }

  /** The SELECT alone. */
  String text() {
    StringBuilder text = new StringBuilder();
    text.append("SELECT ").append(String.join(",\n       ", items));
    text.append("\nFROM ").append(String.join("\n", from));
    if (!where.isEmpty()) {
      text.append("\nWHERE ").append(String.join("\n  AND ", where));
    }
    if (!groupBy.isEmpty()) {
      text.append("\nGROUP BY ").append(String.join(", ", groupBy));
    }
    if (!orderBy.isEmpty()) {
      text.append("\nORDER BY ").append(String.join(", ", orderBy));
    }
    return text.toString();
  }

  /** A text further to the right, but for its first line. */
  static String indented(String text, int by) {
    return text.replace("\n", "\n" + " ".repeat(by));
  }
}
