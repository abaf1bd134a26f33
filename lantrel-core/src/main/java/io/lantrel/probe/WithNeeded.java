package io.lantrel.probe;

import io.lantrel.sql.tree.CommonTable;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Query;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;

/** Puts those queries of WITH before a query that it names. */
final class WithNeeded {

  private WithNeeded() {}

  static Query define(List<CommonTable> with, boolean recursive, Query query) {
    Map<String, CommonTable> known = new LinkedHashMap<>();
    with.forEach(table -> known.put(table.name().key(), table));
    Set<String> needed = new LinkedHashSet<>();
    need(query, known, needed);
    List<CommonTable> defined =
        known.values().stream().filter(table -> needed.contains(table.name().key())).toList();
    return new Query(
        query.span(),
        recursive && !defined.isEmpty(),
        defined,
        query.body(),
        query.orderBy(),
        query.limit());
  }

  private static void need(Query query, Map<String, CommonTable> known, Set<String> needed) {
    query
        .preorder()
        .filter(FromItem.TableName.class::isInstance)
        .map(node -> known.get(((FromItem.TableName) node).last().key()))
        .filter(Objects::nonNull)
        .filter(table -> needed.add(table.name().key()))
        .forEach(table -> need(table.query(), known, needed));
  }
}
