package io.lantrel.check.kinds.conditions;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Reference;
import io.lantrel.catalog.Table;
import io.lantrel.resolve.Conjunct.Equated;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.UseColumn;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import org.jgrapht.GraphPath;
import org.jgrapht.alg.shortestpath.BFSShortestPath;
import org.jgrapht.graph.WeightedMultigraph;

/** What the references of the schema say about two columns. */
final class References {

  /** References from one table to another up to which a way is worth proposing. */
  private static final int LONGEST_WAY = 4;

  private References() {}

  /** Whether both are references to one column: two children of one parent. */
  static boolean leadToTheSame(Equated equated, QueryBlock block) {
    return !Collections.disjoint(
        targets(equated.left(), block.catalog()), targets(equated.right(), block.catalog()));
  }

  /** What a column of a table refers to. */
  static List<String> targets(UseColumn column, Catalog catalog) {
    List<String> targets = new ArrayList<>();
    for (Reference reference : catalog.references()) {
      int at = reference.fromColumns().indexOf(column.tableColumn());
      boolean ours = column.use().table().filter(reference.from()::equals).isPresent();
      if (ours && at >= 0) {
        targets.add(reference.to().name() + "." + reference.toColumns().get(at));
      }
    }
    return targets;
  }

  /** Whether a column of a table alone is a key of it. */
  static boolean isKey(UseColumn column) {
    return column.use().table().stream()
        .flatMap(table -> table.keys().stream())
        .anyMatch(key -> key.columns().equals(List.of(column.tableColumn())));
  }

  /** The references between two tables, either way round. */
  static List<Reference> between(Table one, Table other, Catalog catalog) {
    return catalog.references().stream()
        .filter(
            each ->
                (each.from().equals(one) && each.to().equals(other))
                    || (each.from().equals(other) && each.to().equals(one)))
        .toList();
  }

  /** The references that lead from one table to another; empty if none do, or too many. */
  static Optional<List<Reference>> way(Table from, Table to, Catalog catalog) {
    WeightedMultigraph<Table, Reference> graph = new WeightedMultigraph<>(Reference.class);
    catalog.tables().forEach(graph::addVertex);
    for (Reference each : catalog.references()) {
      if (!each.isSelfReference()) {
        graph.addEdge(each.from(), each.to(), each);
      }
    }
    GraphPath<Table, Reference> path = new BFSShortestPath<>(graph).getPath(from, to);
    return path == null || path.getLength() > LONGEST_WAY
        ? Optional.empty()
        : Optional.of(path.getEdgeList());
  }
}
