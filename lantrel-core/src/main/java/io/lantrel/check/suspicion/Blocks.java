package io.lantrel.check.suspicion;

import io.lantrel.resolve.QueryBlock;
import io.lantrel.sql.tree.Query;
import java.util.Optional;

/** The blocks of subqueries. */
public final class Blocks {

  private Blocks() {}

  /** The block that a subquery is; empty if it is no single SELECT. */
  public static Optional<QueryBlock> of(Query query, Subject subject) {
    return subject.resolution().blocks().stream()
        .filter(block -> block.select().span().equals(query.body().span()))
        .filter(block -> block.select().equals(query.body()))
        .findFirst();
  }
}
