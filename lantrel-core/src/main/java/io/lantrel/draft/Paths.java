package io.lantrel.draft;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Reference;
import io.lantrel.catalog.Table;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.Iterator;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import org.jgrapht.GraphPath;
import org.jgrapht.alg.shortestpath.BFSShortestPath;
import org.jgrapht.alg.shortestpath.YenShortestPathIterator;
import org.jgrapht.graph.DirectedMultigraph;

/** The ways from table to table, over the references, in either direction. */
final class Paths {

  /** A way that is longer by so much than the shortest one is still told. */
  private static final int DETOUR = 1;

  private static final int MOST = 4;

  /** Of hundreds of tables about one hub there are more ways than anybody could look at. */
  private static final int LOOKED_AT = 64;

  /**
   * One step of a way.
   *
   * @param up whether it leads to the table referred to
   */
  record Hop(Reference reference, boolean up) {}

  private final DirectedMultigraph<Table, Hop> graph = new DirectedMultigraph<>(Hop.class);

  private final UnaryOperator<List<Reference>> kept;

  /** Those on any of the ways so far: they are looked at together. */
  private final Set<Reference> onWays = new LinkedHashSet<>();

  /**
   * @param kept of some references those that the rows keep, as far as anybody can look
   */
  Paths(Catalog catalog, UnaryOperator<List<Reference>> kept) {
    this.kept = kept;
    catalog.tables().forEach(graph::addVertex);
    for (Reference reference : catalog.references()) {
      if (!reference.isSelfReference()) {
        graph.addEdge(reference.from(), reference.to(), new Hop(reference, true));
        graph.addEdge(reference.to(), reference.from(), new Hop(reference, false));
      }
    }
  }

  /** The ways between two tables, the best first; empty if there is none. */
  List<List<Hop>> between(Table from, Table to) {
    GraphPath<Table, Hop> shortest = BFSShortestPath.findPathBetween(graph, from, to);
    if (shortest == null) {
      return List.of();
    }
    List<List<Hop>> found = new ArrayList<>();
    Iterator<GraphPath<Table, Hop>> next = new YenShortestPathIterator<>(graph, from, to);
    while (found.size() < LOOKED_AT && next.hasNext()) {
      GraphPath<Table, Hop> path = next.next();
      if (path.getLength() > shortest.getLength() + DETOUR) {
        break;
      }
      found.add(path.getEdgeList());
    }
    List<List<Hop>> best =
        found.stream()
            .sorted(
                Comparator.<List<Hop>>comparingInt(List::size)
                    .thenComparingLong(path -> path.stream().filter(hop -> !hop.up()).count())
                    .thenComparing(path -> path.toString()))
            .limit(MOST)
            .toList();
    best.stream()
        .flatMap(List::stream)
        .filter(Hop::up)
        .map(Hop::reference)
        .filter(JoinAlongReference::isPromised)
        .forEach(onWays::add);
    return best;
  }

  /** The steps of a route by which every row finds one: so it is promised, and so it is. */
  Set<JoinAlongReference> sure(List<JoinAlongReference> route) {
    List<JoinAlongReference> promised =
        route.stream().filter(JoinAlongReference::isPromised).toList();
    promised.stream().map(JoinAlongReference::reference).forEach(onWays::add);
    List<Reference> references = promised.isEmpty() ? List.of() : kept.apply(List.copyOf(onWays));
    return promised.stream()
        .filter(each -> references.contains(each.reference()))
        .collect(Collectors.toSet());
  }

  /** The length of the shortest way; very long if there is none. */
  int distance(Table from, Table to) {
    GraphPath<Table, Hop> shortest = BFSShortestPath.findPathBetween(graph, from, to);
    return shortest == null ? Integer.MAX_VALUE : shortest.getLength();
  }
}
