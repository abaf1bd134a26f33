package io.lantrel.rewrite.engines;

import io.lantrel.resolve.Binding;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.OrderItem;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.Value;
import java.util.Optional;

/**
 * Where NULL stands in an order. The standard leaves it to the product (ISO/IEC 9075-2, 10.10), so
 * it is said where the two do not agree and the value can be NULL.
 */
record OrderRules(Rendering rendering) implements Rendering.Rules {

  @Override
  public Optional<String> write(Node node) {
    if (!(node instanceof OrderItem item)) {
      return Optional.empty();
    }
    boolean now = first(rendering.to(), item.descending());
    boolean wanted =
        item.nullsFirst() != null ? item.nullsFirst() : first(rendering.from(), item.descending());
    boolean mariaDb = rendering.to() == Dialect.MARIADB;
    if (item.nullsFirst() != null ? !mariaDb : now == wanted || !canBeNull(item.value())) {
      return Optional.empty();
    }
    String value = rendering.write(item.value());
    String direction = item.descending() ? " DESC" : "";
    if (!mariaDb) {
      return Optional.of(value + direction + " NULLS " + (wanted ? "FIRST" : "LAST"));
    }
    // FALSE comes before TRUE.
    return now == wanted
        ? Optional.of(value + direction)
        : Optional.of(value + (wanted ? " IS NOT NULL, " : " IS NULL, ") + value + direction);
  }

  /** Whether NULL comes first by itself. */
  private static boolean first(Dialect dialect, boolean descending) {
    return switch (dialect) {
      case MARIADB, SQLITE, H2 -> !descending;
      case POSTGRESQL -> descending;
      case HSQLDB -> true;
      case DUCKDB, TRINO, STANDARD -> false;
    };
  }

  private boolean canBeNull(Expression value) {
    QueryBlock block = rendering.block(value);
    boolean combined = !(block.query().body() instanceof QueryBody.Select);
    if (combined || !(value instanceof Value.ColumnName name)) {
      return false;
    }
    return block.binding(name) instanceof Binding.ToOutput label
        ? block.isNullable(label.output())
        : block.column(name).filter(block::isOwn).map(block::isNullable).orElse(false);
  }
}
