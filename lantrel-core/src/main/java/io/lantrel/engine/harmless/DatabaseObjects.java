package io.lantrel.engine.harmless;

import java.util.HashMap;
import java.util.HashSet;
import java.util.Map;
import java.util.Set;

/**
 * What a database has besides what its product brings, as far as using it runs code of somebody's.
 * All names are in the form of the catalog.
 *
 * @param functions functions, and what hides those of the product
 * @param fieldFunctions functions that can be called like a column: {@code t.f}
 * @param operators signs
 * @param types types whose values are tested by code
 * @param casts functions that convert values without being named
 * @param views all views; those that the catalog does not have as such were not read
 * @param tables tables behind which something else is than rows, and what; by schema and name
 * @param conditions conditions that the database puts to tables by itself
 */
public record DatabaseObjects(
    Set<String> functions,
    Set<String> fieldFunctions,
    Set<String> operators,
    Set<String> types,
    Set<String> casts,
    Set<String> views,
    Map<String, String> tables,
    Map<String, String> conditions) {

  /** A database that has nothing of its own but tables. */
  public static DatabaseObjects none() {
    return new DatabaseObjects(
        new HashSet<>(),
        new HashSet<>(),
        new HashSet<>(),
        new HashSet<>(),
        new HashSet<>(),
        new HashSet<>(),
        new HashMap<>(),
        new HashMap<>());
  }

  /** How a table is known here. */
  public static String key(String schema, String table) {
    return schema + "." + table;
  }

  /**
   * Adds what a product's own query told.
   *
   * @param kind which of the components
   * @param name the name, or schema and name of a table as {@link #key} has it
   * @param detail what stands behind a table, or the condition
   */
  public void add(String kind, String name, String detail) {
    switch (kind) {
      case "function" -> functions.add(name);
      case "field" -> fieldFunctions.add(name);
      case "operator" -> operators.add(name);
      case "type" -> types.add(name);
      case "cast" -> casts.add(name);
      case "view" -> views.add(name);
      case "table" -> tables.put(name, detail);
      case "condition" -> conditions.merge(name, detail, (some, more) -> some + " AND " + more);
      default -> throw new IllegalArgumentException("no such kind: " + kind);
    }
  }
}
