package io.lantrel.resolve;

import io.lantrel.sql.tree.FromItem;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * Joins that only pick rows of their left side, so that nothing of the right one is there behind.
 */
public final class FilterJoins {

  private FilterJoins() {}

  /** Whether a join is one. */
  public static boolean isOne(FromItem.Join join) {
    return join.way() == FromItem.Way.SEMI || join.way() == FromItem.Way.ANTI;
  }

  /** The one on whose right side a table stands; empty if there is none. */
  public static Optional<FromItem.Join> around(@Nullable FromItem from, TableUse use) {
    if (!(from instanceof FromItem.Join join) || !join.span().contains(use.item().span())) {
      return Optional.empty();
    }
    boolean right = join.right().span().contains(use.item().span());
    return right && isOne(join)
        ? Optional.of(join)
        : around(right ? join.right() : join.left(), use);
  }
}
