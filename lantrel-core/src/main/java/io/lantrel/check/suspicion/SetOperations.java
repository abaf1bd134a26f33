package io.lantrel.check.suspicion;

import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.ResolvedQuery;
import io.lantrel.sql.tree.QueryBody.SetOperation;
import java.util.List;
import java.util.stream.Stream;

/** Where rows of several parts are put together by the places of their columns. */
public final class SetOperations {

  private SetOperations() {}

  /** Those of FROM and, with the outermost block, the whole query; not what pairs by names. */
  public static List<ResolvedQuery> of(Subject subject) {
    QueryBlock block = subject.block();
    Stream<ResolvedQuery> ofFrom = block.uses().stream().flatMap(use -> use.queryOfText().stream());
    Stream<ResolvedQuery> whole =
        subject.resolution().root().equals(block)
            ? Stream.of(subject.resolution().result())
            : Stream.of();
    return Stream.concat(whole, ofFrom)
        .filter(query -> query.query().body() instanceof SetOperation all && all.matching() == null)
        .toList();
  }
}
