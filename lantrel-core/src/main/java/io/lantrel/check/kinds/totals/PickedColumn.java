package io.lantrel.check.kinds.totals;

import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.engine.SampleData;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Relation;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.Aggregates;
import io.lantrel.resolve.NameProblem.UngroupedColumns;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Query;
import io.lantrel.words.Words;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * What {@link UngroupedColumn} is where a product refuses it: some products take the value from any
 * row of the group. With one MIN or MAX beside it, it is the row of that.
 */
public final class PickedColumn implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    return subject.block().pickedColumns().stream()
        .filter(each -> !isOfTheExtreme(subject))
        .map(each -> suspicion(each, subject))
        .toList();
  }

  /** SQLite takes the bare columns from the row that has the least or greatest value. */
  private static boolean isOfTheExtreme(Subject subject) {
    List<FunctionCall> totals =
        subject.nodes(FunctionCall.class).stream().filter(Aggregates::isOne).toList();
    return totals.size() == 1 && Aggregates.isExtreme(totals.get(0));
  }

  private static Suspicion suspicion(UngroupedColumns picked, Subject subject) {
    UseColumn column = picked.columns().get(0);
    Optional<Question<Long>> differing = subject.rows().map(rows -> differing(rows, column));
    return Suspicion.asking(
        Kind.UNGROUPED_COLUMN,
        picked.place(),
        List.of(picked.place()),
        differing,
        count ->
            count.isPresent() && count.get() == 0
                ? Optional.empty()
                : Optional.of(conclude(picked, count, subject)));
  }

  /** The groups whose rows differ in the column. */
  private static Question<Long> differing(JoinedRows rows, UseColumn column) {
    Relation kept = rows.kept(column.use()).relation();
    String name = SampleData.RESERVED + "groups";
    List<Expression> groups = rows.groups(kept);
    Query query =
        Query.of(
            Sql.select(
                List.of(
                    Sql.as(Sql.countIf(Sql.greater(Sql.column(name, "n"), Sql.number(1))), "c0")),
                Sql.derived(
                    kept.select(
                        false,
                        List.of(Sql.as(Sql.countDistinct(rows.column(kept, column)), "n")),
                        null,
                        groups,
                        null),
                    name),
                null));
    return Question.numbers(kept, query, 1, row -> row.figure(0));
  }

  private static Conclusion conclude(
      UngroupedColumns picked, Optional<Long> count, Subject subject) {
    QueryBlock block = subject.block();
    String columns = Words.list(picked.columns().stream().map(UseColumn::words).toList());
    String message =
        "The rows of a group can differ in "
            + columns
            + ", and this engine takes any of them"
            + count
                .map(groups -> ": " + Words.count(groups, "group") + " with several values")
                .orElse("")
            + ". Group by "
            + (picked.columns().size() == 1 ? "it" : "them")
            + " as well, or say which value is meant, as with MIN or MAX.";
    String more =
        String.join(", ", picked.columns().stream().map(UseColumn::written).distinct().toList());
    List<List<Edit>> repairs =
        block.select().groupBy().isEmpty()
            ? List.of()
            : List.of(List.of(subject.edits().addGrouping(more)));
    return new Conclusion(
        Severity.WARNING,
        message,
        new Evidence(
            count.map(groups -> Map.of("groups that differ", groups)).orElse(Map.of()),
            List.of(),
            List.of("other engines refuse this query")),
        repairs);
  }
}
