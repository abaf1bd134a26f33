package io.lantrel.hierarchy.asked;

import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.Collections;
import java.util.Comparator;
import java.util.HashMap;
import java.util.Iterator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.IntStream;
import org.jgrapht.Graph;
import org.jgrapht.Graphs;
import org.jgrapht.alg.connectivity.KosarajuStrongConnectivityInspector;
import org.jgrapht.alg.shortestpath.BFSShortestPath;
import org.jgrapht.graph.AsSubgraph;
import org.jgrapht.graph.DefaultDirectedGraph;
import org.jgrapht.graph.DefaultEdge;
import org.jgrapht.traverse.TopologicalOrderIterator;

/**
 * The ways down from the rows that are below none. Rows are numbers from 0; of rows in a circle
 * none leads to another.
 */
final class Ways {

  /** More ways than that are not told apart. */
  private static final long MOST = Long.MAX_VALUE / 2;

  private final List<List<Integer>> below = new ArrayList<>();
  private final List<List<Integer>> circles = new ArrayList<>();
  private final List<Long> levels = new ArrayList<>();
  private final List<Integer> order = new ArrayList<>();
  private final BitSet reached = new BitSet();
  private final BitSet circled = new BitSet();
  private final List<Integer> roots;
  private final int[] above;
  private final long[] sizes;

  /**
   * @param pairs from each row to those that it is directly below
   * @param deepest the last level that is gone to
   */
  Ways(Graph<Integer, DefaultEdge> pairs, int deepest) {
    int rows = pairs.vertexSet().size();
    this.roots =
        IntStream.range(0, rows).filter(row -> pairs.outDegreeOf(row) == 0).boxed().toList();
    this.sizes = new long[rows];
    Graph<Integer, DefaultEdge> open = new DefaultDirectedGraph<>(DefaultEdge.class);
    Graphs.addGraph(open, pairs);
    takeCirclesApart(open);
    this.above = IntStream.range(0, rows).map(open::outDegreeOf).toArray();
    for (int row = 0; row < rows; row++) {
      below.add(Graphs.predecessorListOf(open, row).stream().sorted().toList());
    }
    Iterator<Integer> upwards = new TopologicalOrderIterator<>(open);
    upwards.forEachRemaining(order::add);
    for (int row : order) {
      sizes[row] = below(row).stream().map(each -> sizes[each]).reduce(1L, Ways::sum);
    }
    goDown(deepest);
  }

  private void takeCirclesApart(Graph<Integer, DefaultEdge> open) {
    List<DefaultEdge> within = new ArrayList<>();
    for (Set<Integer> knot :
        new KosarajuStrongConnectivityInspector<>(open).stronglyConnectedSets()) {
      int first = Collections.min(knot);
      if (knot.size() > 1 || open.containsEdge(first, first)) {
        circles.add(circle(open, first, knot));
        knot.forEach(circled::set);
        within.addAll(new AsSubgraph<>(open, knot).edgeSet());
      }
    }
    circles.sort(Comparator.comparing(circle -> circle.get(0)));
    open.removeAllEdges(within);
  }

  /** One circle through a row, each below the next. */
  private static List<Integer> circle(
      Graph<Integer, DefaultEdge> open, int first, Set<Integer> knot) {
    Graph<Integer, DefaultEdge> here = new AsSubgraph<>(open, knot);
    int next = Collections.min(Graphs.successorListOf(here, first));
    List<Integer> circle = new ArrayList<>(List.of(first));
    circle.addAll(BFSShortestPath.findPathBetween(here, next, first).getVertexList());
    return circle.subList(0, circle.size() - 1);
  }

  private void goDown(int deepest) {
    Map<Integer, Long> level = new HashMap<>();
    roots().forEach(root -> level.put(root, 1L));
    while (!level.isEmpty() && levels.size() < deepest) {
      levels.add(level.values().stream().reduce(0L, Ways::sum));
      level.keySet().forEach(reached::set);
      Map<Integer, Long> next = new HashMap<>();
      level.forEach((row, ways) -> below(row).forEach(each -> next.merge(each, ways, Ways::sum)));
      level.clear();
      level.putAll(next);
    }
  }

  private static long sum(long one, long other) {
    return Math.min(MOST, one + other);
  }

  /** The rows that are below none. */
  List<Integer> roots() {
    return roots;
  }

  /** The rows directly below one. */
  List<Integer> below(int row) {
    return below.get(row);
  }

  /** How many rows one is directly below, others of its circle not counted. */
  int above(int row) {
    return above[row];
  }

  /** How many ways there are on each level. */
  List<Long> levels() {
    return levels;
  }

  /** How many ways lead down from a row, itself counted as one. */
  long size(int row) {
    return sizes[row];
  }

  /** The sum over all ways down from each row, so that what is below several counts for each. */
  List<Optional<BigDecimal>> sums(List<Optional<BigDecimal>> own) {
    List<Optional<BigDecimal>> sums = new ArrayList<>(own);
    for (int row : order) {
      below(row).forEach(each -> sums.set(row, Measure.plus(sums.get(row), sums.get(each))));
    }
    return sums;
  }

  /** Circles, each once; of rows that are in several one is told. */
  List<List<Integer>> circles() {
    return circles;
  }

  /** Rows that are reached and directly below several. */
  List<Integer> shared() {
    return reached.stream().filter(row -> above[row] > 1).boxed().toList();
  }

  /** How many rows no root leads to, those in circles not counted. */
  long unreached() {
    BitSet known = (BitSet) reached.clone();
    known.or(circled);
    return (long) above.length - known.cardinality();
  }
}
