package io.lantrel.check.kinds.order;

import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import java.util.HashSet;
import java.util.Optional;
import java.util.stream.Collectors;

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

  /** The key of a table; empty if it has none. */
  static Optional<String> key(TableUse use) {
    return Optional.of(
            use.keyColumns().stream().map(UseColumn::written).collect(Collectors.joining(", ")))
        .filter(columns -> !columns.isEmpty());
  }
}
