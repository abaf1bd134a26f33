package io.lantrel.check.kinds.conditions;

import io.lantrel.catalog.Catalog;
import io.lantrel.check.suspicion.BaseColumn;
import io.lantrel.resolve.UseColumn;
import java.util.stream.Stream;

/**
 * Columns of which each writing is a value of its own: what tells rows apart, or refers to them.
 */
public final class CodeColumns {

  private CodeColumns() {}

  public static boolean isOne(UseColumn column, Catalog catalog) {
    return Stream.concat(Stream.of(column), BaseColumn.of(column).stream())
        .anyMatch(
            each ->
                each.use().keys().stream().anyMatch(key -> key.columns().contains(each.name()))
                    || !References.targets(each, catalog).isEmpty());
  }
}
