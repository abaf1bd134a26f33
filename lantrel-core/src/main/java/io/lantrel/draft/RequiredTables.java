package io.lantrel.draft;

import io.lantrel.catalog.Catalog;
import io.lantrel.edit.OneQuery;
import io.lantrel.resolve.NullRejection;
import io.lantrel.resolve.QueryBlock;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;

/** Which tables a condition cannot do without: where they are missing, it is never true. */
final class RequiredTables {

  private RequiredTables() {}

  /**
   * Of the uses that are joined those that some condition demands, and those on the way to them.
   *
   * @param from what FROM has before the joins
   * @param route the joins, in order
   */
  static Set<Use> by(
      List<Conditions.Written> conditions,
      List<String> from,
      List<JoinAlongReference> route,
      Catalog catalog) {
    List<String> optional = new ArrayList<>(from);
    route.forEach(join -> optional.add(join.joined("LEFT JOIN")));
    Set<Use> demanded =
        of(conditions, optional, route.stream().map(JoinAlongReference::to).toList(), catalog);
    return withTheWay(demanded, route);
  }

  /** Those tables, and those on the way to them. */
  static Set<Use> withTheWay(Set<Use> demanded, List<JoinAlongReference> route) {
    Set<Use> all = new LinkedHashSet<>(demanded);
    for (int i = route.size() - 1; i >= 0; i--) {
      if (all.contains(route.get(i).to())) {
        all.add(route.get(i).from());
      }
    }
    return all;
  }

  private static Set<Use> of(
      List<Conditions.Written> conditions, List<String> from, List<Use> uses, Catalog catalog) {
    Set<Use> demanded = new LinkedHashSet<>();
    for (Conditions.Written each : conditions) {
      String sql = "SELECT 1 FROM " + String.join("\n", from) + "\nWHERE " + each.text();
      OneQuery.read(sql, catalog)
          .resolution()
          .result()
          .block()
          .ifPresent(
              block ->
                  each.uses().stream()
                      .filter(uses::contains)
                      .filter(use -> rejects(block, use))
                      .forEach(demanded::add));
    }
    return demanded;
  }

  private static boolean rejects(QueryBlock block, Use use) {
    return block.uses().stream()
        .filter(each -> each.name().equalsIgnoreCase(use.alias()))
        .anyMatch(
            each ->
                block.filters().stream()
                    .anyMatch(
                        filter -> NullRejection.rejects(filter.condition(), block, Set.of(each))));
  }
}
