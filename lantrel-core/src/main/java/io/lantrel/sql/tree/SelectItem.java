package io.lantrel.sql.tree;

import java.util.List;
import org.jspecify.annotations.Nullable;

/** An item of the select list. */
public sealed interface SelectItem extends Node {

  /**
   * One output column.
   *
   * @param span where it stands, with its label
   * @param value what is shown
   * @param label the heading given to it; null if none is
   */
  record Output(Span span, Expression value, @Nullable Identifier label) implements SelectItem {

    /** An output column that Lantrel writes itself. */
    public static Output of(Expression value, String label) {
      return new Output(Span.NOWHERE, value, Identifier.of(label));
    }

    @Override
    public List<Node> children() {
      return Node.nodes(value, label);
    }
  }

  /**
   * {@code *} or {@code t.*}.
   *
   * @param span where it stands
   * @param qualifier the table's name in parts, or empty for all tables
   * @param excluded the columns that are left out, or empty
   * @param replaced other values for some columns, by their labels, or empty
   */
  record AllColumns(
      Span span, List<Identifier> qualifier, List<Identifier> excluded, List<Output> replaced)
      implements SelectItem {

    public AllColumns {
      qualifier = List.copyOf(qualifier);
      excluded = List.copyOf(excluded);
      replaced = List.copyOf(replaced);
    }

    @Override
    public List<Node> children() {
      return Node.nodes(qualifier, excluded, replaced);
    }
  }
}
