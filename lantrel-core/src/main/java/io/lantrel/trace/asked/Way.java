package io.lantrel.trace.asked;

import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.Resolution;
import io.lantrel.resolve.ResolvedQuery;
import io.lantrel.resolve.TableUse;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * The way from a whole query to a table use through the queries that it stands in.
 *
 * @param steps from the whole query inwards
 */
record Way(List<Step> steps) {

  /** Deeper queries in FROM are not gone into. */
  private static final int DEEPEST = 64;

  /** Queries of WITH that name each other twice make twice as many ways each time. */
  private static final int MOST = 200;

  /**
   * One step of it.
   *
   * @param part which of the blocks that a set operation puts together; 0 if it is one block
   * @param block that block
   * @param use the table use in it that leads on
   */
  record Step(int part, QueryBlock block, TableUse use) {}

  Way {
    steps = List.copyOf(steps);
  }

  /** The table use that it leads to. */
  TableUse use() {
    return innermost().use();
  }

  Step innermost() {
    return steps.get(steps.size() - 1);
  }

  /** All ways of a query, in the order of FROM. */
  static List<Way> all(Resolution resolution) {
    List<Way> all = new ArrayList<>();
    into(resolution.result(), List.of(), all);
    return all;
  }

  private static void into(ResolvedQuery query, List<Step> before, List<Way> all) {
    for (int part = 0; part < query.parts().size(); part++) {
      QueryBlock block = query.parts().get(part);
      for (TableUse use : block.uses()) {
        if (all.size() >= MOST) {
          return;
        }
        List<Step> steps = new ArrayList<>(before);
        steps.add(new Step(part, block, use));
        if (use.table().isPresent()) {
          all.add(new Way(steps));
        } else if (steps.size() < DEEPEST) {
          use.queryOfText().ifPresent(inner -> into(inner, steps, all));
        }
      }
    }
  }

  /** The same way in another reading of the text, which has the same blocks and table uses. */
  Optional<Way> in(Resolution other) {
    List<Step> found = new ArrayList<>();
    Optional<ResolvedQuery> query = Optional.of(other.result());
    for (Step step : steps) {
      if (query.isEmpty() || query.get().parts().size() <= step.part()) {
        return Optional.empty();
      }
      QueryBlock block = query.get().parts().get(step.part());
      if (block.uses().size() <= step.use().index()) {
        return Optional.empty();
      }
      TableUse use = block.uses().get(step.use().index());
      found.add(new Step(step.part(), block, use));
      query = use.queryOfText();
    }
    return Optional.of(new Way(found));
  }
}
