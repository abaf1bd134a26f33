package io.lantrel.check.kinds.order;

import io.lantrel.check.Kind;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.tree.Call;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Window;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;

/**
 * A window whose PARTITION BY tells all rows apart, by the keys or by what they are grouped by:
 * each row is alone in its part, the first of it and all of it.
 */
public final class PartitionsOfOne implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    return subject.nodes(FunctionCall.class).stream()
        .flatMap(
            call ->
                Windows.of(call, block)
                    .filter(window -> tellsAllApart(window, block))
                    .map(window -> suspicion(call, window, subject))
                    .stream())
        .limit(1)
        .toList();
  }

  private static boolean tellsAllApart(Window window, QueryBlock block) {
    Set<UseColumn> columns = new HashSet<>();
    window.partitionBy().forEach(each -> block.column(each).ifPresent(columns::add));
    if (columns.isEmpty() || block.repeatsRows()) {
      return false;
    }
    List<Expression> written = block.select().groupBy();
    if (!block.isGrouped()) {
      Set<TableUse> determined = Set.copyOf(block.determinedBy(columns));
      return !block.uses().isEmpty() && determined.containsAll(block.uses());
    }
    return !written.isEmpty()
        && written.stream().noneMatch(Call.Grouping.class::isInstance)
        && block.groupedBy().stream()
            .allMatch(
                each ->
                    block
                        .column(each)
                        .filter(column -> block.determines(columns, column))
                        .isPresent());
  }

  private static Suspicion suspicion(FunctionCall call, Window window, Subject subject) {
    List<Expression> parts = window.partitionBy();
    Span place = parts.get(0).span().to(parts.get(parts.size() - 1).span());
    boolean grouped = subject.block().isGrouped();
    String message =
        "Each partition has one row, since "
            + subject.source().at(place)
            + (grouped ? " tells all groups apart" : " tells all rows apart")
            + ": "
            + call.key().toUpperCase(Locale.ROOT)
            + " looks at that row alone. Partition by what several rows share, or leave PARTITION BY"
            + " out.";
    return Suspicion.certain(
        Kind.GROUPS_OF_ONE,
        place,
        Conclusion.warning(
            message,
            List.of(
                grouped
                    ? "GROUP BY makes one row for each"
                    : "PARTITION BY holds a key of the rows"),
            List.of()));
  }
}
