package io.lantrel.check.kinds.totals;

import io.lantrel.check.Kind;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.probe.Counting;
import io.lantrel.resolve.Aggregates;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.ResolvedQuery;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.tree.Call.FunctionCall;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * A total over a query in FROM that has subtotals among its rows, by ROLLUP, CUBE or GROUPING SETS
 * (ISO/IEC 9075-2, 7.13): what is in a group is in its subtotal again.
 */
public final class SubtotalsAdded implements Check {

  private static final Set<String> ADDING = Set.of("sum", "count", "avg");

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    return block.outputs().stream()
        .flatMap(output -> Aggregates.in(output.value()))
        .filter(call -> ADDING.contains(call.key()) && !call.distinct() && call.filter() == null)
        // What a subtotal is not of is NULL in it, and COUNT of that leaves it out.
        .filter(call -> !call.key().equals("count") || call.star())
        .flatMap(call -> added(call, block).stream().map(use -> suspicion(call, use, subject)))
        .toList();
  }

  /** The query whose subtotals are added; none if a condition or a group is about its rows. */
  private static Optional<TableUse> added(FunctionCall call, QueryBlock block) {
    return block.uses().stream()
        .filter(
            use -> block.mentioned(call).contains(use) || (call.star() && block.uses().size() == 1))
        .filter(SubtotalsAdded::hasSubtotals)
        .filter(
            use ->
                block.filters().stream().noneMatch(each -> each.uses().contains(use))
                    && block.steps().isEmpty()
                    && block.groupedBy().isEmpty())
        .findFirst();
  }

  /** HAVING may leave them out. */
  private static boolean hasSubtotals(TableUse use) {
    return use.result().flatMap(ResolvedQuery::block).stream()
        .anyMatch(block -> Counting.hasSets(block) && block.select().having() == null);
  }

  private static Suspicion suspicion(FunctionCall call, TableUse use, Subject subject) {
    return Suspicion.certain(
        Kind.REPEATED_IN_TOTAL,
        call.span(),
        Conclusion.warning(
            subject.text(call)
                + " adds the subtotals of "
                + use.words()
                + " to what they are made of. Leave them out by a condition, as GROUPING of what it is"
                + " grouped by, or group "
                + use.words()
                + " plainly.",
            List.of(use.words() + " has a row for each group and for each subtotal"),
            List.of()));
  }
}
