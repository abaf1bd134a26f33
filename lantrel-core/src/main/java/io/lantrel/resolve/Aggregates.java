package io.lantrel.resolve;

import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.Value;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Stream;

/** Which calls put many rows together (ISO/IEC 9075-2, 10.9, aggregate function). */
public final class Aggregates {

  private static final Set<String> NAMES =
      Set.of(
          "count",
          "sum",
          "avg",
          "min",
          "max",
          "any_value",
          "every",
          "some",
          "bool_and",
          "bool_or",
          "std",
          "stddev",
          "stddev_pop",
          "stddev_samp",
          "variance",
          "var_pop",
          "var_samp",
          "covar_pop",
          "covar_samp",
          "corr",
          "regr_avgx",
          "regr_avgy",
          "regr_count",
          "regr_intercept",
          "regr_r2",
          "regr_slope",
          "regr_sxx",
          "regr_sxy",
          "regr_syy",
          "listagg",
          "string_agg",
          "group_concat",
          "array_agg",
          "array_concat_agg",
          "list",
          "median",
          "mode",
          "mad",
          "first",
          "last",
          "arbitrary",
          "arg_min",
          "arg_max",
          "argmin",
          "argmax",
          "min_by",
          "max_by",
          "arg_min_null",
          "arg_max_null",
          "bit_and",
          "bit_or",
          "bit_xor",
          "bitstring_agg",
          "bit_and_agg",
          "bit_or_agg",
          "bit_xor_agg",
          "product",
          "quantile",
          "quantile_cont",
          "quantile_disc",
          "percentile_cont",
          "percentile_disc",
          "approx_quantile",
          "reservoir_quantile",
          "approx_count_distinct",
          "approx_top_k",
          "count_if",
          "countif",
          "count_star",
          "favg",
          "fsum",
          "kahan_sum",
          "sumkahan",
          "entropy",
          "kurtosis",
          "kurtosis_pop",
          "skewness",
          "sem",
          "histogram",
          "histogram_exact",
          "geomean",
          "geometric_mean",
          "weighted_avg",
          "map_agg",
          "json_arrayagg",
          "json_objectagg",
          "json_array_agg",
          "json_object_agg",
          "json_agg",
          "jsonb_agg",
          "jsonb_object_agg",
          "json_group_array",
          "json_group_object",
          "jsonb_group_array",
          "jsonb_group_object",
          "json_group_structure",
          "xmlagg",
          "range_agg",
          "range_intersect_agg",
          "total",
          "group_array",
          "sum_no_overflow",
          "multiset_agg");

  private static final Set<String> EXTREMES = Set.of("min", "max");

  private Aggregates() {}

  /** Whether a call is one of an aggregate; one over a window gives a value for each row. */
  public static boolean isOne(FunctionCall call) {
    if (call.over() != null) {
      return false;
    }
    if (!call.withinGroup().isEmpty() || call.filter() != null) {
      return true;
    }
    // SQLite's min and max of several values are no aggregates.
    boolean ofOneRow = EXTREMES.contains(call.key()) && call.arguments().size() > 1;
    boolean numbered = ofOneRow && isSmallNumber(call.arguments().get(1));
    return NAMES.contains(call.key()) && (!ofOneRow || numbered);
  }

  /** DuckDB's {@code max(x, 3)} gives the three largest. */
  private static boolean isSmallNumber(Expression value) {
    return value instanceof Value.Literal literal && literal.kind() == Value.LiteralKind.NUMBER;
  }

  /** Whether a call is MIN or MAX of the values of a whole group. */
  public static boolean isExtreme(FunctionCall call) {
    return EXTREMES.contains(call.key())
        && call.arguments().size() == 1
        && call.filter() == null
        && call.over() == null;
  }

  /** Whether an expression contains one, not counting its subqueries. */
  public static boolean containsOne(Expression expression) {
    return in(expression).findAny().isPresent();
  }

  /** The aggregates in an expression, not counting those of its subqueries. */
  public static Stream<FunctionCall> in(Node node) {
    List<FunctionCall> found = new ArrayList<>();
    walk(
        node,
        each -> {
          boolean aggregate = each instanceof FunctionCall call && isOne(call);
          if (aggregate) {
            found.add((FunctionCall) each);
          }
          return !aggregate;
        });
    return found.stream();
  }

  /** A node and all below it, not counting its subqueries. */
  public static Stream<Node> withoutQueries(Node node) {
    List<Node> found = new ArrayList<>();
    walk(node, found::add);
    return found.stream();
  }

  /** Visits a node and all below it but subqueries, and goes below those that it is told to. */
  private static void walk(Node start, Predicate<Node> visit) {
    Deque<Node> open = new ArrayDeque<>();
    open.push(start);
    while (!open.isEmpty()) {
      Node node = open.pop();
      if (visit.test(node) && !(node instanceof Query)) {
        List<? extends Node> below = node.children();
        for (int i = below.size() - 1; i >= 0; i--) {
          open.push(below.get(i));
        }
      }
    }
  }

  /** Whether a condition may give another answer for the same columns. */
  static boolean hasQueryOrUnknownCall(Expression condition) {
    return condition.preorder().anyMatch(Query.class::isInstance)
        || Functions.hasStrange(condition)
        || condition
            .preorder()
            .anyMatch(
                each -> each instanceof FunctionCall call && Functions.isOfChance(call.key()));
  }
}
