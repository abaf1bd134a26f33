package io.lantrel.sql.tree;

import java.util.List;
import java.util.Locale;

/**
 * A name as it stands in a statement.
 *
 * @param span where it stands, with its quotes
 * @param text the name itself, without quotes
 * @param quoted whether it was written in quotes
 */
public record Identifier(Span span, String text, boolean quoted) implements Node {

  /**
   * @throws IllegalArgumentException if the name is empty
   */
  public Identifier {
    if (text.isEmpty()) {
      throw new IllegalArgumentException("a name needs at least one character");
    }
  }

  /** A name that Lantrel writes itself. */
  public static Identifier of(String text) {
    return new Identifier(Span.NOWHERE, text, false);
  }

  /**
   * What two names are compared by. DuckDB compares names without regard to case, quoted or not;
   * other engines' rules will come from their dialects.
   */
  public String key() {
    return key(text);
  }

  /** The same for a name that is a plain text. */
  public static String key(String name) {
    return name.toLowerCase(Locale.ROOT);
  }

  /** Whether both names mean the same. */
  public boolean means(String other) {
    return key().equals(key(other));
  }

  @Override
  public List<Node> children() {
    return List.of();
  }
}
