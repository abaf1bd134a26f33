package io.lantrel.claim.kinds;

import io.lantrel.catalog.Key;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import java.util.HashSet;
import java.util.Set;

/** Whether no row of a table is in two joined rows of a block, whatever the data. */
final class Uniqueness {

  private Uniqueness() {}

  /**
   * Whether that is known.
   *
   * @param key by which the table's rows are told apart
   */
  static boolean of(QueryBlock block, TableUse use, Key key) {
    if (!block.standsAlone() || !block.showsRowsOnce()) {
      return false;
    }
    Set<UseColumn> columns = new HashSet<>();
    use.columns().stream()
        .filter(each -> key.columns().contains(each.tableColumn()))
        .forEach(columns::add);
    return block.determinedBy(columns).containsAll(block.uses())
        || block.steps().stream().allMatch(step -> isSingle(block, step, use));
  }

  /** Whether a row of the table meets at most one row of the other side. */
  private static boolean isSingle(QueryBlock block, JoinStep step, TableUse use) {
    if (step.left().contains(use)) {
      return block.partnersOnTheRight(step).isSingle();
    }
    return step.right().contains(use) && block.partnersOnTheLeft(step).isSingle();
  }
}
