package io.lantrel.resolve;

import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody.SetOperation;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;

/**
 * What UNION, EXCEPT and INTERSECT make of the results that they put together (ISO/IEC 9075-2,
 * 7.17): columns are paired by position and named after the first part; without ALL no two rows
 * agree in all columns; EXCEPT gives only rows of its first part, INTERSECT only rows of each.
 */
final class SetResults {

  private SetResults() {}

  /**
   * @param merged whether without ALL equal rows are merged
   */
  static ResolvedQuery of(
      Query query, SetOperation operation, List<ResolvedQuery> parts, boolean merged) {
    ResolvedQuery first = parts.get(0);
    boolean byPosition = operation.matching() == null;
    int width = first.outputs().size();
    boolean known =
        byPosition
            && parts.stream().allMatch(part -> part.isComplete() && part.outputs().size() == width);
    List<QueryBlock> blocks = new ArrayList<>();
    parts.forEach(part -> blocks.addAll(part.parts()));
    return new ResolvedQuery(
        query,
        blocks,
        first.outputs(),
        first.isComplete() && byPosition,
        false,
        position -> !known || isNullable(operation, parts, position),
        () -> known ? keys(operation, parts, width, merged) : List.of());
  }

  private static boolean isNullable(
      SetOperation operation, List<ResolvedQuery> parts, int position) {
    return switch (operation.operator()) {
      case UNION -> parts.stream().anyMatch(part -> isNullable(part, position));
      case EXCEPT -> isNullable(parts.get(0), position);
      case INTERSECT -> parts.stream().allMatch(part -> isNullable(part, position));
    };
  }

  private static boolean isNullable(ResolvedQuery part, int position) {
    return part.isNullable(part.outputs().get(position));
  }

  private static List<Set<Integer>> keys(
      SetOperation operation, List<ResolvedQuery> parts, int width, boolean merged) {
    List<Set<Integer>> keys = new ArrayList<>();
    switch (operation.operator()) {
      case UNION -> {}
      case EXCEPT -> keys.addAll(parts.get(0).keys());
      case INTERSECT -> parts.forEach(part -> keys.addAll(part.keys()));
    }
    if (!operation.all() && merged) {
      Set<Integer> all = new TreeSet<>();
      for (int i = 0; i < width; i++) {
        all.add(i);
      }
      keys.add(all);
    }
    return keys.stream().distinct().toList();
  }
}
