package io.lantrel.probe;

import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.sql.tree.FromItem;
import java.util.Optional;

/** Why the joined rows of a block cannot be looked at step by step. */
public final class Obstacle {

  private Obstacle() {}

  /** The reason, as the end of a sentence; empty if there is none. */
  public static Optional<String> of(QueryBlock block) {
    if (block.select().from() == null) {
      return Optional.of("it has no FROM");
    }
    if (!block.hasClearCommonTables()) {
      return Optional.of("a name of WITH means two things in it");
    }
    if (block.steps().stream().anyMatch(step -> step.join().way() != FromItem.Way.BY_CONDITION)) {
      return Optional.of("a join in it finds partners otherwise than by a condition");
    }
    if (block.uses().stream().anyMatch(use -> use.isSampled())) {
      return Optional.of("rows are taken by chance in it");
    }
    boolean outside =
        block.isCorrelated()
            && (block.steps().stream().anyMatch(step -> looksOutside(block, step))
                || block.uses().stream().anyMatch(use -> OuterRows.isMentioned(block, use.item())));
    if (outside) {
      return Optional.of("its joins depend on rows outside");
    }
    return block.isCorrelated() ? block.outer().flatMap(Obstacle::of) : Optional.empty();
  }

  private static boolean looksOutside(QueryBlock block, JoinStep step) {
    return step.conjuncts().stream()
        .anyMatch(each -> OuterRows.isMentioned(block, each.condition()));
  }
}
