package io.lantrel.catalog;

import io.lantrel.sql.tree.Identifier;
import java.util.List;
import java.util.function.UnaryOperator;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Columns of one table that name a row of another, or of the same one (ISO/IEC 9075-2, 4.18.3.4,
 * referential constraints).
 *
 * @param from the table that refers
 * @param fromColumns its columns
 * @param to the table referred to
 * @param toColumns the columns of its key, in the same order
 * @param basis how it is known
 */
public record Reference(
    Table from, List<String> fromColumns, Table to, List<String> toColumns, Basis basis) {

  private static final Pattern ENDING =
      Pattern.compile("(.+?)(?:_?(?:id|no|nr|key|code|ref)|Id|No|Key|Code|Ref)");

  public Reference {
    fromColumns = List.copyOf(fromColumns);
    toColumns = List.copyOf(toColumns);
  }

  /** Whether it refers to rows of its own table: then it makes a hierarchy. */
  public boolean isSelfReference() {
    return from.equals(to);
  }

  /** What the row referred to is to the referring one: {@code mentor} for {@code mentor_id}. */
  public String role() {
    String column = fromColumns.get(fromColumns.size() - 1);
    Matcher ending = ENDING.matcher(column);
    return ending.matches() ? ending.group(1) : Identifier.key(to.name());
  }

  /** The same between tables that took the place of its own. */
  Reference between(UnaryOperator<Table> now) {
    return new Reference(now.apply(from), fromColumns, now.apply(to), toColumns, basis);
  }

  /** In words: {@code station.river_id → river.id}. */
  public String words() {
    return side(from.name(), fromColumns) + " → " + side(to.name(), toColumns);
  }

  private static String side(String table, List<String> columns) {
    return columns.size() == 1
        ? table + "." + columns.get(0)
        : table + "(" + String.join(", ", columns) + ")";
  }
}
