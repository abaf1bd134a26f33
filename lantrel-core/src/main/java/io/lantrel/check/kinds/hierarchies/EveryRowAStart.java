package io.lantrel.check.kinds.hierarchies;

import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.BaseColumn;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.edit.QueryEdits;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Relation;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.Aggregates;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.words.Words;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.IntStream;

/**
 * A recursion that starts from every row of a hierarchy, and carries nothing along that tells the
 * starts apart: each row comes once for itself, and again from each row above it.
 */
public final class EveryRowAStart implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    if (subject.rows().isEmpty() || !tellsRowsApart(block)) {
      return List.of();
    }
    return block.uses().stream()
        .flatMap(use -> walk(use, subject).stream())
        .limit(1)
        .map(each -> each.suspicion(subject.rows().orElseThrow()))
        .toList();
  }

  /** The greatest level that a row comes with is how deep it lies: that needs every start. */
  private static boolean tellsRowsApart(QueryBlock block) {
    return !block.select().distinct()
        && !block.isOnlyAskedForARow()
        && !block.isRecursive()
        && block.outputs().stream()
            .flatMap(each -> Aggregates.in(each.value()))
            .noneMatch(Aggregates::isExtreme);
  }

  private static Optional<Walked> walk(TableUse use, Subject subject) {
    List<QueryBlock> parts = use.result().map(each -> each.parts()).orElse(List.of());
    if (parts.size() != 2 || !parts.get(1).isRecursive() || isNarrowed(use, subject.block())) {
      return Optional.empty();
    }
    QueryBlock start = parts.get(0);
    boolean all =
        start.filters().isEmpty()
            && start.uses().size() == 1
            && !start.isGrouped()
            && start.query().limit() == null;
    return Walk.of(subject.of(parts.get(1)))
        .filter(walk -> all && start.uses().get(0).isOfTable(walk.table()))
        .filter(walk -> IntStream.range(0, shown(parts)).noneMatch(i -> carries(i, parts)))
        .flatMap(
            walk ->
                use.columns().stream()
                    .filter(each -> isKey(each, walk))
                    .findFirst()
                    .map(key -> new Walked(walk, use, key, start, subject)));
  }

  /** How many columns both parts show: SEARCH and CYCLE add others. */
  private static int shown(List<QueryBlock> parts) {
    return parts.stream().mapToInt(part -> part.outputs().size()).min().orElse(0);
  }

  /** A condition on what it found, as on the level, may pick one row of each. */
  private static boolean isNarrowed(TableUse use, QueryBlock block) {
    return block.filters().stream().anyMatch(each -> each.uses().contains(use));
  }

  /** Whether a column holds something of the start: what the step shows there begins with it. */
  private static boolean carries(int position, List<QueryBlock> parts) {
    QueryBlock start = parts.get(0);
    QueryBlock step = parts.get(1);
    return !start.columnsIn(start.outputs().get(position).value()).isEmpty()
        && step.columnsIn(step.outputs().get(position).value()).stream()
            .anyMatch(each -> each.use().isOwnRecursion() && each.position() == position);
  }

  private static boolean isKey(UseColumn column, Walk walk) {
    return BaseColumn.of(column)
        .filter(base -> base.use().isOfTable(walk.table()))
        .filter(base -> base.tableColumn().equals(walk.reference().toColumns().get(0)))
        .isPresent();
  }

  /** How often rows come. */
  private record Found(long rows, long different) {}

  /**
   * A recursion that a query shows.
   *
   * @param key the column of it that tells the rows of the hierarchy apart
   * @param start the part that it starts with
   */
  private record Walked(Walk walk, TableUse use, UseColumn key, QueryBlock start, Subject subject) {

    Suspicion suspicion(JoinedRows rows) {
      Relation side = rows.side(use.item());
      Question<Found> found =
          Question.figures(
              side,
              List.of(Sql.count(), Sql.countDistinct(rows.column(side, key))),
              row -> new Found(row.figure(0), row.figure(1)));
      return Suspicion.asking(
          Kind.ROWS_REPEATED,
          start.select().span(),
          List.of(start.select().span()),
          Optional.of(found),
          answer -> answer.filter(each -> each.different() < each.rows()).map(this::conclude));
    }

    private Conclusion conclude(Found found) {
      UseColumn refers =
          start.uses().get(0).columnOfTable(walk.reference().fromColumns().get(0)).orElseThrow();
      String top = refers.written() + " " + subject.edits().keyword("IS NULL");
      String row = walk.table().rowWord();
      List<List<Edit>> repairs =
          walk.down() ? List.of(new QueryEdits(subject.source(), start).addFilter(top)) : List.of();
      return new Conclusion(
          Severity.WARNING,
          "The recursion starts from every "
              + row
              + ", and comes to it again from each that lies "
              + (walk.down() ? "above" : "below")
              + ": "
              + Words.count(found.different(), row)
              + " come "
              + Words.number(found.rows())
              + " times. Start from those that are meant, as "
              + (walk.down() ? "WHERE " + top : "by a condition")
              + ", or show which start a line is of.",
          new Evidence(
              Map.of("rows", found.rows(), "different ones", found.different()),
              List.of(),
              List.of("its first part has no condition")),
          repairs);
    }
  }
}
