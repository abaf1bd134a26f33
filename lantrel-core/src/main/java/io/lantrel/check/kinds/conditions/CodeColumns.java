package io.lantrel.check.kinds.conditions;

import io.lantrel.catalog.Catalog;
import io.lantrel.resolve.UseColumn;

/**
 * Columns of which each writing is a value of its own: what tells rows apart, or refers to them.
 */
public final class CodeColumns {

  private CodeColumns() {}

  public static boolean isOne(UseColumn column, Catalog catalog) {
    return column.use().keys().stream().anyMatch(key -> key.columns().contains(column.name()))
        || !References.targets(column, catalog).isEmpty();
  }
}
