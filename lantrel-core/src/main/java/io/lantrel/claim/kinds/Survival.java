package io.lantrel.claim.kinds;

import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.Multiplicity;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.tree.FromItem;
import java.util.List;

/**
 * Whether no row of a table is lost on its way through a query: it is on the kept side of a join or
 * has a partner for certain (ISO/IEC 9075-2, 7.10), and nothing else takes rows away.
 */
final class Survival {

  private Survival() {}

  /**
   * @param way the blocks from the query inwards; empty if it is not known
   * @param condition which rows are meant
   */
  static boolean of(List<Subject.Through> way, TableCondition condition) {
    for (int i = 0; i < way.size(); i++) {
      boolean last = i == way.size() - 1;
      if (!survives(way.get(i), condition, last)) {
        return false;
      }
    }
    return !way.isEmpty();
  }

  private static boolean survives(
      Subject.Through through, TableCondition condition, boolean isTable) {
    QueryBlock block = through.block();
    TableUse use = through.use();
    if (!block.standsAlone()
        || use.isSampled()
        || (use.item() instanceof FromItem.TableName name && name.partition() != null)
        || !keepsAll(block)) {
      return false;
    }
    for (Conjunct filter : block.filters()) {
      if (!isTable || !condition.implies(filter.condition(), block, use)) {
        return false;
      }
    }
    return block.steps().stream().allMatch(step -> survives(block, step, use));
  }

  /** Whether every joined row has a part in the block's result. */
  private static boolean keepsAll(QueryBlock block) {
    return block.select().having() == null
        && block.select().qualify() == null
        && block.select().distinctOn().isEmpty()
        && block.query().limit() == null
        && block.isAccountable();
  }

  private static boolean survives(QueryBlock block, JoinStep step, TableUse use) {
    if (step.left().contains(use)) {
      return step.kind().keepsLeft() || block.partnersOnTheRight(step) == Multiplicity.EXACTLY_ONE;
    }
    return !step.right().contains(use)
        || step.kind().keepsRight()
        || block.partnersOnTheLeft(step) == Multiplicity.EXACTLY_ONE;
  }
}
