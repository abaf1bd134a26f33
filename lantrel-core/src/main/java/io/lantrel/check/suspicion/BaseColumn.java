package io.lantrel.check.suspicion;

import io.lantrel.resolve.UseColumn;
import java.util.Optional;

/** The column of a table whose values a column of a query in FROM shows. */
public final class BaseColumn {

  /** Queries in queries up to which it is looked for. */
  private static final int DEEPEST = 64;

  private BaseColumn() {}

  /** The column itself, if it is one of a table; empty if what is shown is worked out. */
  public static Optional<UseColumn> of(UseColumn column) {
    UseColumn here = column;
    for (int depth = 0; depth < DEEPEST && here.use().table().isEmpty(); depth++) {
      int position = here.position();
      Optional<UseColumn> next =
          here.use().result().stream()
              .flatMap(result -> result.parts().stream().limit(1))
              .flatMap(block -> block.shownAt(position).stream())
              .findFirst();
      if (next.isEmpty()) {
        return Optional.empty();
      }
      here = next.get();
    }
    return here.use().table().isPresent() ? Optional.of(here) : Optional.empty();
  }
}
