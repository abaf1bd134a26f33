package io.lantrel.sql.tree;

import java.util.List;

/**
 * A data type as written.
 *
 * @param span where it stands
 * @param text its words, in the user's spelling, one blank between them
 */
public record TypeName(Span span, String text) implements Node {

  /** A text of any length, whatever the engine calls it; for queries that Lantrel writes itself. */
  public static final TypeName ANY_TEXT = new TypeName(Span.NOWHERE, "VARCHAR");

  /** Whether this is {@link #ANY_TEXT}. */
  public boolean isAnyText() {
    return span.isNowhere() && text.equals(ANY_TEXT.text);
  }

  @Override
  public List<Node> children() {
    return List.of();
  }
}
