package io.lantrel.ledger.account;

import io.lantrel.probe.Obstacle;
import io.lantrel.resolve.QueryBlock;
import java.util.Optional;

/** Why a block has no account step by step. */
public final class Obstacles {

  private Obstacles() {}

  /** The reason as the end of a sentence; empty if it has one. */
  public static Optional<String> of(QueryBlock block) {
    if (block.keepsMoreThanWritten()) {
      return Optional.of("the mark (+) keeps the rows of one of several tables in it");
    }
    return block.usesWholeRows()
        ? Optional.of("it uses a row of a table as one value")
        : Obstacle.of(block);
  }
}
