package io.lantrel.sql.tree;

import java.util.List;

/**
 * The name that a table use goes by in its block, as in {@code station AS s (id, label)}.
 *
 * @param span from AS, or the name, to the end
 * @param name the alias
 * @param columns new names of the columns, or empty
 */
public record Alias(Span span, Identifier name, List<Identifier> columns) implements Node {

  public Alias {
    columns = List.copyOf(columns);
  }

  /** An alias that Lantrel writes itself. */
  public static Alias of(String name) {
    return new Alias(Span.NOWHERE, Identifier.of(name), List.of());
  }

  @Override
  public List<Node> children() {
    return Node.nodes(name, columns);
  }
}
