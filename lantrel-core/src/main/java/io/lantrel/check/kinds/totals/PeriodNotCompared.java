package io.lantrel.check.kinds.totals;

import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Relation;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.Aggregates;
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.tree.Expression;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * Totals by a month that nothing compares with the time of what is totalled: the goals of a shop
 * for each month, and beside each all that was ever sold there.
 */
public final class PeriodNotCompared implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    Optional<JoinedRows> rows = subject.rows();
    if (rows.isEmpty() || block.groupedBy().isEmpty() || block.isCorrelated()) {
      return List.of();
    }
    List<UseColumn> periods =
        block.groupedBy().stream()
            .flatMap(each -> subject.ownColumn(each).stream())
            .filter(each -> isPartOfKey(each) && !isCompared(each, block))
            .toList();
    return block.outputs().stream()
        .map(OutputColumn::value)
        .flatMap(Aggregates::in)
        .flatMap(call -> Totalled.of(call, block).stream())
        .flatMap(total -> periods.stream().flatMap(each -> of(total, each, block).stream()))
        .limit(1)
        .map(each -> each.suspicion(rows.get(), subject))
        .toList();
  }

  private static boolean isPartOfKey(UseColumn column) {
    return column.type().family().isOfTime()
        && column.use().table().isPresent()
        && column.use().keyColumns().size() > 1
        && column.use().keyColumns().contains(column);
  }

  private static boolean isCompared(UseColumn column, QueryBlock block) {
    return block.conjuncts().stream()
        .anyMatch(each -> block.columnsIn(each.condition()).contains(column));
  }

  private static Optional<Apart> of(Totalled total, UseColumn period, QueryBlock block) {
    Set<TableUse> decided = Totalled.decidedBy(total.use(), block);
    if (decided.contains(period.use()) || total.use().table().isEmpty()) {
      return Optional.empty();
    }
    Set<UseColumn> told = block.columnsSpokenOf();
    List<TableUse> nearest = new ArrayList<>(decided);
    nearest.sort(Comparator.comparing(each -> !each.equals(total.use())));
    List<UseColumn> times =
        nearest.stream()
            .flatMap(each -> each.columns().stream())
            .filter(each -> each.type().family().isOfTime())
            .toList();
    return times.isEmpty() || times.stream().anyMatch(told::contains)
        ? Optional.empty()
        : Optional.of(new Apart(total, period, times.get(0)));
  }

  /**
   * A total by a period.
   *
   * @param time when what is totalled was
   */
  private record Apart(Totalled total, UseColumn period, UseColumn time) {

    Suspicion suspicion(JoinedRows rows, Subject subject) {
      JoinedRows.Kept kept = rows.kept(total.use());
      Relation relation = kept.relation();
      Expression there = Sql.greater(Sql.count(kept.identity().get(0)), Sql.number(0));
      Expression several =
          Sql.greater(Sql.countDistinct(rows.column(relation, period)), Sql.number(1));
      return Suspicion.counting(
          Kind.PARTIAL_KEY,
          total.call().span(),
          List.of(total.call().span()),
          Question.groups(relation, kept.identity(), Sql.all(List.of(there, several))),
          count -> conclude(count, subject));
    }

    private Conclusion conclude(long count, Subject subject) {
      String row = total.use().rowWord();
      return new Conclusion(
          Severity.WARNING,
          subject.text(total.call())
              + (total.isList() ? " lists " : " counts ")
              + Words.one(row)
              + " under every "
              + period.name()
              + ", whenever it was: "
              + Words.count(count, row)
              + (count == 1 ? " comes" : " come")
              + " under several. Compare "
              + period.written()
              + " with "
              + time.written()
              + ".",
          new Evidence(
              Map.of("under several", count),
              List.of(),
              List.of(
                  "the key of "
                      + period.use().tableName()
                      + " is "
                      + Words.list(
                          period.use().keyColumns().stream().map(UseColumn::name).toList()))),
          List.of());
    }
  }
}
