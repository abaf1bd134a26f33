package io.lantrel.check.kinds.totals;

import io.lantrel.catalog.Key;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/**
 * A total of rates that were valid when something happened: the price of the day for each ticket
 * that was sold. The same rate is meant to count for every ticket.
 */
final class RateAtTime {

  private static final Set<String> TOTALS = Set.of("sum", "avg");

  private RateAtTime() {}

  /** Whether the rate belongs to a row that nothing but the search for its rate could repeat. */
  static boolean isTotalled(Totalled total, QueryBlock block) {
    TableUse rate = total.use();
    List<Conjunct> search =
        block.conjuncts().stream().filter(each -> each.uses().contains(rate)).toList();
    return TOTALS.contains(total.call().key())
        && isWithinItsTime(search, rate, block)
        && search.stream()
            .flatMap(each -> each.uses().stream())
            .filter(each -> !each.equals(rate))
            .anyMatch(each -> isSearchedOnce(each, rate, block));
  }

  /** Whether every join that repeats a row adds the rate alone, or what the row tells anyway. */
  private static boolean isSearchedOnce(TableUse event, TableUse rate, QueryBlock block) {
    Set<TableUse> told = block.determinedBy(Set.copyOf(event.columns()));
    return RepeatedInTotal.repeating(event, block).stream()
        .map(step -> step.left().contains(event) ? step.right() : step.left())
        .allMatch(
            met ->
                met.contains(rate)
                    && met.stream().allMatch(each -> each.equals(rate) || told.contains(each)));
  }

  /**
   * Whether one time elsewhere lies between two of the rate, one of them in its key. Two times
   * elsewhere are a span, in which there are many rows of this table.
   */
  private static boolean isWithinItsTime(List<Conjunct> search, TableUse rate, QueryBlock block) {
    Set<UseColumn> own = new HashSet<>();
    Set<UseColumn> others = new HashSet<>();
    search.stream()
        .filter(each -> each.equality().isEmpty())
        .flatMap(each -> block.columnsIn(each.condition()).stream())
        .filter(each -> each.type().family().isOfTime())
        .forEach(each -> (each.use().equals(rate) ? own : others).add(each));
    return own.size() == 2 && others.size() == 1 && own.stream().anyMatch(RateAtTime::isInKey);
  }

  private static boolean isInKey(UseColumn column) {
    return column.use().keys().stream()
        .map(Key::columns)
        .anyMatch(each -> each.size() > 1 && each.contains(column.name()));
  }
}
