package io.lantrel.ledger.account;

import io.lantrel.probe.Obstacle;
import io.lantrel.resolve.QueryBlock;
import java.util.Optional;

/** Why a block has no account step by step. */
final class Obstacles {

  private Obstacles() {}

  /** The reason as the end of a sentence; empty if it has one. */
  static Optional<String> of(QueryBlock block) {
    if (block.select().from() == null) {
      return Optional.of("");
    }
    if (block.keepsMoreThanWritten()) {
      return Optional.of("the mark (+) keeps the rows of one of several tables in it");
    }
    return block.usesWholeRows()
        ? Optional.of("it uses a row of a table as one value")
        : Obstacle.of(block);
  }
}
