package io.lantrel.sql.tree;

import java.util.List;

/**
 * The name that a table use goes by in its block, as in {@code station AS s (id, label)}.
 *
 * @param span from AS, or the name, to the end
 * @param name the alias
 * @param columns new names of the columns, or empty
 * @param types the types of these columns, as only a function in FROM needs them, or empty
 */
public record Alias(Span span, Identifier name, List<Identifier> columns, List<TypeName> types)
    implements Node {

  public Alias {
    columns = List.copyOf(columns);
    types = List.copyOf(types);
  }

  /** An alias without types. */
  public Alias(Span span, Identifier name, List<Identifier> columns) {
    this(span, name, columns, List.of());
  }

  /** An alias that Lantrel writes itself. */
  public static Alias of(String name) {
    return new Alias(Span.NOWHERE, Identifier.of(name), List.of());
  }

  @Override
  public List<Node> children() {
    return Node.nodes(name, columns, types);
  }
}
