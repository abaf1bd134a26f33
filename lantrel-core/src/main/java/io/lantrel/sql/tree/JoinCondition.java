package io.lantrel.sql.tree;

import java.util.List;
import org.jspecify.annotations.Nullable;

/** What a row and its partner must meet. */
public sealed interface JoinCondition extends Node {

  /**
   * ON and any condition.
   *
   * @param span from ON to the end
   * @param condition the condition
   */
  record On(Span span, Expression condition) implements JoinCondition {
    @Override
    public List<Node> children() {
      return List.of(condition);
    }
  }

  /**
   * USING and names that both sides have.
   *
   * @param span from USING to the end
   * @param columns the columns that both sides have and that must be equal
   * @param alias the name that the merged columns go by together; null if they have none
   */
  record Using(Span span, List<Identifier> columns, @Nullable Identifier alias)
      implements JoinCondition {
    public Using {
      columns = List.copyOf(columns);
    }

    @Override
    public List<Node> children() {
      return Node.nodes(columns, alias);
    }
  }
}
