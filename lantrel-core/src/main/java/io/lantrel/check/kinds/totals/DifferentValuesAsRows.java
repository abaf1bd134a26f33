package io.lantrel.check.kinds.totals;

import io.lantrel.catalog.TypeFamily;
import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.BaseColumn;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Relation;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.words.Words;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * COUNT(DISTINCT …) of an amount under a heading that names the rows, as {@code COUNT(DISTINCT
 * d.depth_cm) AS readings}: two rows with the same value count as one.
 */
public final class DifferentValuesAsRows implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    if (subject.rows().isEmpty() || subject.block().isCorrelated()) {
      return List.of();
    }
    return HeadedCount.in(subject.block(), true)
        .filter(each -> isValue(each.column(), subject))
        .filter(each -> Totalled.isNamed(each.output(), each.column().use().tableName()))
        .map(each -> suspicion(each, subject))
        .toList();
  }

  /** Neither what tells rows apart nor what refers to others; a name is told of as such. */
  private static boolean isValue(UseColumn column, Subject subject) {
    return column.use().table().isPresent()
        && column.type().family() != TypeFamily.TEXT
        && !column.use().keys().isEmpty()
        && column.use().keys().stream().noneMatch(key -> key.columns().contains(column.name()))
        && BaseColumn.referred(column, subject.catalog()).isEmpty();
  }

  private static Suspicion suspicion(HeadedCount count, Subject subject) {
    JoinedRows rows = subject.rows().orElseThrow();
    JoinedRows.Kept kept = rows.kept(count.column().use());
    Relation relation = kept.relation();
    return Suspicion.asking(
        Kind.UNCOUNTED_ROWS,
        count.call().span(),
        List.of(count.call().span()),
        Optional.of(
            TakenOnce.question(
                relation,
                rows.groups(relation),
                kept.identity(),
                rows.column(relation, count.column()))),
        found ->
            found
                .filter(each -> each.values() < each.rows())
                .map(each -> conclude(count, each, subject)));
  }

  private static Conclusion conclude(HeadedCount count, TakenOnce taken, Subject subject) {
    UseColumn column = count.column();
    String row = column.use().rowWord();
    List<UseColumn> key = column.use().keyColumns();
    Optional<UseColumn> better = key.size() == 1 ? Optional.of(key.get(0)) : Optional.empty();
    String message =
        subject.text(count.call())
            + " counts rows with the same "
            + column.name()
            + " as one, and is called "
            + count.output().name()
            + ": "
            + Words.number(taken.values())
            + " for "
            + Words.count(taken.rows(), row)
            + ". "
            + better
                .map(each -> "Count what each " + row + " has of its own: " + each.written())
                .orElse("No single column tells them apart: count them before they are joined")
            + ".";
    return new Conclusion(
        Severity.WARNING,
        message,
        new Evidence(
            Map.of("counted", taken.values(), "rows", taken.rows()),
            List.of(),
            List.of(column.written() + " is no key")),
        better.stream()
            .map(each -> List.of(new Edit(count.call().arguments().get(0).span(), each.written())))
            .toList());
  }
}
