package io.lantrel.check.kinds.order;

import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import java.util.Optional;
import java.util.stream.Collectors;

/** What a query can be ordered by, as it is written. */
final class Written {

  private Written() {}

  /** The key of a table; empty if it has none. */
  static Optional<String> key(TableUse use) {
    return Optional.of(
            use.keyColumns().stream().map(UseColumn::written).collect(Collectors.joining(", ")))
        .filter(columns -> !columns.isEmpty());
  }
}
