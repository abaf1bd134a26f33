package io.lantrel.resolve;

import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.Value.ColumnName;
import java.util.Set;

/** Values that are the same for all rows of a statement, though not for all statements. */
public final class SameForAllRows {

  /** Names that need no table: a moment, a user, a place (ISO/IEC 9075-2, 6.4 and 6.31). */
  private static final Set<String> NAMES =
      Set.of(
          "current_date",
          "current_time",
          "current_timestamp",
          "localtime",
          "localtimestamp",
          "current_user",
          "current_role",
          "session_user",
          "system_user",
          "user",
          "current_schema",
          "current_catalog",
          "sysdate",
          "today",
          "systimestamp",
          "utc_date",
          "utc_time",
          "utc_timestamp");

  private SameForAllRows() {}

  /** Whether a name is one of those that need no table. */
  static boolean isNamed(String key) {
    return NAMES.contains(key);
  }

  /** Whether nothing of a value is a column, a query, or left to chance. */
  public static boolean holds(Expression value, QueryBlock block) {
    return value
        .preorder()
        .noneMatch(
            node ->
                node instanceof Query
                    || (node instanceof FunctionCall call && Functions.isOfChance(call.key()))
                    || (node instanceof ColumnName name && !isNamed(name, block)));
  }

  /** A column of that name comes first. */
  private static boolean isNamed(ColumnName name, QueryBlock block) {
    return name.qualifier().isEmpty()
        && block.binding(name) instanceof Binding.Opaque
        && isNamed(name.name().key());
  }
}
