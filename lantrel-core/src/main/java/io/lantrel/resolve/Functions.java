package io.lantrel.resolve;

import io.lantrel.sql.Dialect;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Node;
import java.util.Set;

/** What is known of functions by their names; of all others nothing is taken for granted. */
public final class Functions {

  /** Those that give NULL as soon as one argument is NULL, and else a value. */
  private static final Set<String> STRICT =
      Set.of(
          "abs",
          "ceil",
          "ceiling",
          "floor",
          "round",
          "sign",
          "lower",
          "upper",
          "trim",
          "ltrim",
          "rtrim",
          "length",
          "char_length",
          "character_length",
          "octet_length",
          "replace",
          "left",
          "right",
          "reverse",
          "starts_with",
          "substring",
          "substr",
          "position",
          "overlay",
          "extract");

  /** Those that give NULL as soon as one argument is NULL, and perhaps otherwise too. */
  private static final Set<String> NULL_ON_NULL =
      Set.of(
          "sqrt",
          "power",
          "mod",
          "exp",
          "ln",
          "lpad",
          "rpad",
          "year",
          "month",
          "day",
          "hour",
          "minute",
          "second",
          "date_trunc",
          "date_part",
          "quarter",
          "week",
          "dayofweek",
          "dayofyear",
          "strftime",
          "to_char",
          "instr",
          "strpos",
          "log10",
          "sin",
          "cos",
          "tan",
          "ascii",
          "chr",
          "md5");

  /** They give something else each time. */
  private static final Set<String> OF_CHANCE =
      Set.of("random", "rand", "uuid", "gen_random_uuid", "random_uuid", "nextval", "newid");

  /** Others that give one value for each row. */
  private static final Set<String> OF_ONE_ROW =
      Set.of(
          "coalesce",
          "nullif",
          "greatest",
          "least",
          "concat",
          "concat_ws",
          "ifnull",
          "nvl",
          "if",
          "iif",
          "isnull",
          "cast",
          "now",
          "today",
          "random",
          "current_date",
          "current_timestamp",
          "current_time",
          "grouping",
          "grouping_id",
          "date",
          "time",
          "timestamp",
          "format",
          "log",
          "pi",
          "date_add",
          "date_sub",
          "datediff",
          "date_diff",
          "dateadd",
          "timestampdiff",
          "timestampadd",
          "printf",
          "hex",
          "typeof");

  /** Those that give their first value that is not NULL. */
  private static final Set<String> FIRST_PRESENT = Set.of("coalesce", "ifnull", "nvl", "isnull");

  private static final Set<String> REPEATING =
      Set.of(
          "unnest",
          "generate_subscripts",
          "regexp_split_to_table",
          "regexp_matches",
          "string_to_table",
          "json_array_elements",
          "jsonb_array_elements",
          "json_each",
          "jsonb_each",
          "explode",
          "columns");

  private Functions() {}

  /** Whether a NULL argument makes the value NULL. */
  public static boolean isNullOnNull(String name) {
    return STRICT.contains(name) || NULL_ON_NULL.contains(name);
  }

  /** Whether the value is NULL only if an argument is. */
  static boolean isStrict(String name) {
    return STRICT.contains(name);
  }

  /** Whether a call puts another value in the place of NULL. */
  public static boolean fillsNull(FunctionCall call) {
    return FIRST_PRESENT.contains(call.key());
  }

  /** Whether the name is one that gives one value for each row. */
  static boolean isOfOneRow(String name) {
    return isNullOnNull(name) || OF_ONE_ROW.contains(name);
  }

  /**
   * Whether a value in the select list may turn one row into several, as {@code unnest} does in
   * some products. A function that is not known may.
   */
  static boolean mayRepeatRows(Expression value, Dialect dialect) {
    return dialect.has(Dialect.Rule.SELECT_MAY_REPEAT_ROWS)
        && Aggregates.withoutQueries(value)
            .filter(FunctionCall.class::isInstance)
            .map(FunctionCall.class::cast)
            .anyMatch(Functions::isStrange);
  }

  /** Whether a value in the select list certainly turns one row into several or none. */
  static boolean repeatsRows(Expression value) {
    return Aggregates.withoutQueries(value)
        .anyMatch(node -> node instanceof FunctionCall call && REPEATING.contains(call.key()));
  }

  private static boolean isStrange(FunctionCall call) {
    return call.over() == null && !Aggregates.isOne(call) && !isOfOneRow(call.key());
  }

  /** Whether a function gives something else each time, so that two calls do not agree. */
  public static boolean isOfChance(String name) {
    return OF_CHANCE.contains(name);
  }

  /** Whether a node holds a call of a function that nothing is known of. */
  static boolean hasStrange(Node node) {
    return node.preorder().anyMatch(each -> each instanceof FunctionCall call && isStrange(call));
  }
}
