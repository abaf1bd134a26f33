package io.lantrel.check.kinds.order;

import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.tree.Expression;
import java.util.HashSet;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** What a query can be ordered by, as it is written. */
final class Written {

  private Written() {}

  /**
   * The key of the table whose row fixes those of the others, or of the first if there is none;
   * empty if it has no key.
   */
  static Optional<String> key(QueryBlock block) {
    return key(
        block.uses().stream()
            .filter(
                use -> block.determinedBy(new HashSet<>(use.columns())).containsAll(block.uses()))
            .findFirst()
            .orElseGet(() -> block.uses().get(0)));
  }

  /** Whether no two rows of a block agree in all of some values. */
  static boolean fixes(Stream<Expression> values, QueryBlock block) {
    Set<UseColumn> columns =
        values
            .flatMap(value -> block.column(value).stream())
            .filter(block::isOwn)
            .collect(Collectors.toSet());
    return block.determinedBy(columns).containsAll(block.uses());
  }

  /** The key of a table; empty if it has none. */
  static Optional<String> key(TableUse use) {
    return Optional.of(
            use.keyColumns().stream().map(UseColumn::written).collect(Collectors.joining(", ")))
        .filter(columns -> !columns.isEmpty());
  }
}
