package io.lantrel.check.kinds.totals;

import io.lantrel.catalog.Reference;
import io.lantrel.catalog.Table;
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
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Expression;
import io.lantrel.words.Words;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;

/**
 * COUNT of a column that is empty in some rows, under a heading that names the rows: those are not
 * counted (ISO/IEC 9075-2, 10.9).
 */
public final class UncountedRows implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    if (subject.rows().isEmpty() || subject.block().isCorrelated()) {
      return List.of();
    }
    return HeadedCount.in(subject.block(), false)
        .filter(each -> canBeEmpty(each.column()))
        .flatMap(
            each -> named(each, subject).map(table -> suspicion(each, table, subject)).stream())
        .toList();
  }

  private static boolean canBeEmpty(UseColumn column) {
    return column.use().table().isPresent()
        && column.nullable()
        && column.use().keys().stream().noneMatch(key -> key.columns().contains(column.name()));
  }

  /** The table whose rows the heading names: that of the column, or one that its rows refer to. */
  private static Optional<Table> named(HeadedCount count, Subject subject) {
    Table own = count.column().use().table().orElseThrow();
    return Stream.concat(
            Stream.of(own),
            subject.catalog().references().stream()
                .filter(each -> each.from().equals(own))
                .filter(each -> !each.fromColumns().contains(count.column().tableColumn()))
                .map(Reference::to))
        .filter(table -> Totalled.isNamed(count.output(), table.name()))
        .findFirst();
  }

  private static Suspicion suspicion(HeadedCount count, Table table, Subject subject) {
    JoinedRows rows = subject.rows().orElseThrow();
    TableUse use = count.column().use();
    JoinedRows.Kept kept = rows.kept(use);
    Relation relation = kept.relation();
    Expression there = Sql.isNotNull(kept.identity().get(0));
    Expression empty = Sql.isNull(rows.column(relation, count.column()));
    return Suspicion.counting(
        Kind.UNCOUNTED_ROWS,
        count.call().span(),
        List.of(count.call().span()),
        Question.count(relation, Sql.all(List.of(there, empty))),
        found -> conclude(count, table, found, subject));
  }

  private static Conclusion conclude(HeadedCount count, Table table, long empty, Subject subject) {
    UseColumn column = count.column();
    Optional<UseColumn> key =
        column.use().keys().stream()
            .flatMap(each -> column.use().column(each.columns().get(0)).stream())
            .findFirst();
    return new Conclusion(
        Severity.WARNING,
        subject.text(count.call())
            + " leaves out "
            + Words.count(empty, column.use().rowWord())
            + " of which "
            + column.written()
            + " is empty, and is called "
            + count.output().name()
            + ". Count what each has"
            + key.map(each -> ": " + each.written()).orElse("")
            + "; or say what is counted.",
        new Evidence(
            Map.of("rows not counted", empty),
            List.of(),
            List.of("COUNT leaves out NULL, and the heading names each " + table.name())),
        key.stream()
            .map(each -> List.of(new Edit(count.call().arguments().get(0).span(), each.written())))
            .toList());
  }
}
