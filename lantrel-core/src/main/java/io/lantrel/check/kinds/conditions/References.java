package io.lantrel.check.kinds.conditions;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Reference;
import io.lantrel.catalog.Table;
import io.lantrel.resolve.Conjunct.Equated;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.UseColumn;
import java.util.ArrayDeque;
import java.util.Collections;
import java.util.Deque;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jgrapht.GraphPath;
import org.jgrapht.alg.shortestpath.BFSShortestPath;
import org.jgrapht.graph.WeightedMultigraph;

/** What the references of the schema say about two columns. */
public final class References {

  /** References from one table to another up to which a way is worth proposing. */
  private static final int LONGEST_WAY = 4;

  private References() {}

  /** Whether both are references to one column: two children of one parent. */
  public static boolean leadToTheSame(Equated equated, QueryBlock block) {
    return !Collections.disjoint(
        targets(equated.left(), block.catalog()), targets(equated.right(), block.catalog()));
  }

  /**
   * What a column of a table refers to, alone or as a part of a reference; and what that refers to
   * in turn, for the key of a child may begin with that of its parent.
   */
  public static List<String> targets(UseColumn column, Catalog catalog) {
    Set<String> targets = new LinkedHashSet<>();
    Deque<OfTable> open = new ArrayDeque<>();
    column.use().table().ifPresent(table -> open.add(new OfTable(table, column.tableColumn())));
    while (!open.isEmpty()) {
      OfTable here = open.remove();
      for (Reference reference : catalog.references()) {
        int at = reference.fromColumns().indexOf(here.column());
        if (at >= 0 && reference.from().equals(here.table())) {
          OfTable to = new OfTable(reference.to(), reference.toColumns().get(at));
          if (targets.add(to.table().name() + "." + to.column())) {
            open.add(to);
          }
        }
      }
    }
    return List.copyOf(targets);
  }

  private record OfTable(Table table, String column) {}

  /** Whether a column of a table alone is a key of it. */
  public static boolean isKey(UseColumn column) {
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
