package io.lantrel.write;

import io.lantrel.catalog.Catalog;
import io.lantrel.resolve.NullRejection;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.Resolver;
import io.lantrel.sql.SqlReader;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;

/** Which tables a condition cannot do without: where they are missing, it is never true. */
final class Demanded {

  private Demanded() {}

  /**
   * The optional uses for which some condition is never true if they are filled with NULLs.
   *
   * @param from FROM with its joins, all of them optional
   */
  static Set<Use> by(
      List<Conditions.Written> conditions, List<String> from, List<Use> uses, Catalog catalog) {
    Set<Use> demanded = new LinkedHashSet<>();
    for (Conditions.Written each : conditions) {
      String sql = "SELECT 1 FROM " + String.join("\n", from) + "\nWHERE " + each.text();
      Resolver.resolve(SqlReader.readQuery(sql, catalog.dialect()), catalog)
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
