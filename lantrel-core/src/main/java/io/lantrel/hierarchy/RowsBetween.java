package io.lantrel.hierarchy;

import io.lantrel.catalog.Reference;
import io.lantrel.engine.NamedRow;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;

/**
 * How two rows of a hierarchy hang together: from the one up to their nearest common row, and down
 * to the other.
 *
 * @param reference by which a row names the row above it
 * @param up from the first row up to the common one, both told; if there is no common row, up to
 *     where its tree begins
 * @param common the nearest row that both are below, or are; empty if their trees differ
 * @param down from below the common row down to the second, which is the last; empty if that is the
 *     common row; without a common row from where its tree begins
 */
public record RowsBetween(
    Reference reference, List<NamedRow> up, Optional<NamedRow> common, List<NamedRow> down) {
  public RowsBetween {
    up = List.copyOf(up);
    down = List.copyOf(down);
  }

  /** How many steps lie between them, along the reference; empty if nothing leads there. */
  public OptionalInt distance() {
    return common.isEmpty() ? OptionalInt.empty() : OptionalInt.of(up.size() - 1 + down.size());
  }

  /** The first row. */
  public NamedRow first() {
    return up.get(0);
  }

  /** The second row. */
  public NamedRow second() {
    return down.isEmpty() ? up.get(up.size() - 1) : down.get(down.size() - 1);
  }
}
