package io.lantrel.check.suspicion;

import io.lantrel.resolve.QueryBlock;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.Optional;

/** The blocks of subqueries. */
public final class Blocks {

  private Blocks() {}

  /** The block that a subquery is; empty if it is no single SELECT. */
  public static Optional<QueryBlock> of(Query query, Subject subject) {
    return block(query.body(), subject);
  }

  /**
   * The blocks whose rows a subquery has: one, or those of a UNION or the like; empty if any part
   * is something else.
   */
  public static List<QueryBlock> parts(Query query, Subject subject) {
    List<QueryBlock> found = new ArrayList<>();
    Deque<QueryBody> open = new ArrayDeque<>(List.of(query.body()));
    while (!open.isEmpty()) {
      QueryBody body = open.remove();
      if (body instanceof QueryBody.SetOperation operation) {
        open.addAll(operation.parts());
        continue;
      }
      Optional<QueryBlock> block = block(body, subject);
      if (block.isEmpty()) {
        return List.of();
      }
      found.add(block.get());
    }
    return found;
  }

  private static Optional<QueryBlock> block(QueryBody body, Subject subject) {
    return subject.resolution().blocks().stream()
        .filter(block -> block.select().span().equals(body.span()))
        .filter(block -> block.select().equals(body))
        .findFirst();
  }
}
