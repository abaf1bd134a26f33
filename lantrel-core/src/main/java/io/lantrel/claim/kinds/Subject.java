package io.lantrel.claim.kinds;

import io.lantrel.catalog.Key;
import io.lantrel.catalog.Table;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.Resolution;
import io.lantrel.resolve.TableUse;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * A table that a claim is about.
 *
 * @param alias what it goes by
 * @param table the table
 * @param key the key by which its rows are known in the result
 * @param positions where the columns of the key stand in the rows that are asked
 * @param joined whether these are the joined rows, since the result does not show the key
 * @param path its places in FROM, from the query inwards; empty if the query does not use it and
 *     only shows what refers to it
 */
public record Subject(
    String alias,
    Table table,
    Key key,
    List<Integer> positions,
    boolean joined,
    List<Integer> path) {
  public Subject {
    positions = List.copyOf(positions);
    path = List.copyOf(path);
  }

  /** A block, and the table use in it that the rows come through. */
  record Through(QueryBlock block, TableUse use) {}

  /** The blocks from the query inwards; empty if the way is not there. */
  List<Through> through(Resolution resolution) {
    List<Through> found = new ArrayList<>();
    Optional<QueryBlock> block = resolution.result().block();
    for (int place : path) {
      if (block.isEmpty() || block.get().uses().size() <= place) {
        return List.of();
      }
      TableUse use = block.get().uses().get(place);
      found.add(new Through(block.get(), use));
      block = use.query();
    }
    return found;
  }

  /** What one row of it is called. */
  String word() {
    return table.name();
  }
}
