package io.lantrel.resolve;

import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Expression.FunctionCall;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.Query;
import java.util.List;
import java.util.Set;
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
          "stddev",
          "stddev_pop",
          "stddev_samp",
          "variance",
          "var_pop",
          "var_samp",
          "covar_pop",
          "covar_samp",
          "corr",
          "listagg",
          "string_agg",
          "group_concat",
          "array_agg",
          "list",
          "median",
          "mode",
          "first",
          "last",
          "arg_min",
          "arg_max",
          "bit_and",
          "bit_or",
          "product",
          "quantile",
          "quantile_cont",
          "quantile_disc",
          "approx_count_distinct",
          "count_if",
          "json_arrayagg",
          "json_objectagg",
          "json_agg",
          "total");

  private Aggregates() {}

  /** Whether a call is one of an aggregate. */
  public static boolean isOne(FunctionCall call) {
    return NAMES.contains(call.key());
  }

  /** Whether an expression contains one, not counting its subqueries. */
  public static boolean containsOne(Expression expression) {
    return in(expression).findAny().isPresent();
  }

  /** The aggregates in an expression, not counting those of its subqueries. */
  public static Stream<FunctionCall> in(Node node) {
    if (node instanceof FunctionCall call && isOne(call)) {
      return Stream.of(call);
    }
    List<? extends Node> below = node instanceof Query ? List.of() : node.children();
    return below.stream().flatMap(Aggregates::in);
  }
}
