package io.lantrel.resolve;

import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.JoinCondition;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.sql.tree.Span;
import org.jspecify.annotations.Nullable;

/**
 * Which ON conditions could as well stand in WHERE: those of joins that keep no row without a
 * partner, with no outer join before them in the same item of FROM, and whose rows no join around
 * them fills with NULL.
 */
public final class InnerConditions {

  private InnerConditions() {}

  /** Whether the ON at this place is one. */
  public static boolean hasOne(@Nullable FromItem from, Span place) {
    if (!(from instanceof FromItem.Join join) || !join.span().contains(place)) {
      return false;
    }
    JoinKind kind = join.kind();
    if (join.condition() instanceof JoinCondition.On on && on.span().contains(place)) {
      return !kind.isOuter() && !isBehindOuterJoin(join);
    }
    return (!kind.keepsRight() && hasOne(join.left(), place))
        || (!kind.keepsLeft() && hasOne(join.right(), place) && !isBehindOuterJoin(join));
  }

  /** In its item of FROM, which a comma begins. */
  private static boolean isBehindOuterJoin(FromItem.Join join) {
    @Nullable FromItem before = join.kind() == JoinKind.COMMA ? null : join.left();
    while (before instanceof FromItem.Join earlier) {
      if (earlier.kind().isOuter()) {
        return true;
      }
      before = earlier.kind() == JoinKind.COMMA ? null : earlier.left();
    }
    return false;
  }
}
