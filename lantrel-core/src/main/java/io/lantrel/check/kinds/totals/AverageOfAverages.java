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
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Query;
import io.lantrel.words.Words;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * AVG of what is an average of groups already, where the groups have unlike numbers of values: a
 * station with one reading counts as much as one with hundreds. An average by days or years is a
 * series of its own, and what something is compared with may be meant so.
 */
public final class AverageOfAverages implements Check {

  /** Queries in queries through which a column is followed. */
  private static final int DEEPEST = 64;

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    if (block.outer().isPresent() && !isShown(block, block.outer().get())) {
      return List.of();
    }
    return block.outputs().stream()
        .map(OutputColumn::value)
        .flatMap(Aggregates::in)
        .filter(call -> isAverage(call) && call.over() == null && call.filter() == null)
        .flatMap(call -> of(call, subject).stream())
        .flatMap(each -> each.suspicion(subject).stream())
        .toList();
  }

  /** Whether a query outside shows what a subquery gives, and does not only compare with it. */
  private static boolean isShown(QueryBlock block, QueryBlock outer) {
    return outer.outputs().stream()
        .map(each -> each.value().span())
        .anyMatch(each -> each.contains(block.query().span()));
  }

  private static boolean isAverage(FunctionCall call) {
    return call.key().equals("avg") && !call.distinct() && call.arguments().size() == 1;
  }

  private static Optional<Twice> of(FunctionCall call, Subject subject) {
    Optional<UseColumn> here = subject.block().column(call.arguments().get(0));
    for (int depth = 0; depth < DEEPEST && here.isPresent(); depth++) {
      UseColumn column = here.get();
      Optional<QueryBlock> query =
          column.use().queryOfText().isPresent() ? column.use().query() : Optional.empty();
      if (query.isEmpty()) {
        return Optional.empty();
      }
      QueryBlock inner = query.get();
      Expression value = inner.outputs().get(column.position()).value();
      List<FunctionCall> calls = Aggregates.in(value).toList();
      if (calls.size() == 1 && isAverage(calls.get(0)) && isOfGroups(inner)) {
        return areSeveral(column, subject.block())
            ? Optional.of(new Twice(call, column, calls.get(0), inner))
            : Optional.empty();
      }
      here = inner.column(value);
    }
    return Optional.empty();
  }

  /** Whether a group outside can have several groups: else nothing is averaged but one average. */
  private static boolean areSeveral(UseColumn column, QueryBlock block) {
    Set<UseColumn> grouped = block.groupColumns();
    return !block.determinedBy(grouped).contains(column.use());
  }

  /** Groups of their own, and no times. */
  private static boolean isOfGroups(QueryBlock inner) {
    return !inner.isCorrelated()
        && !inner.groupedBy().isEmpty()
        && inner.groupedBy().stream()
            .flatMap(each -> inner.columnsIn(each).stream())
            .noneMatch(each -> each.type().family().isOfTime());
  }

  /** How many groups there are, and how many values the least and the greatest of them have. */
  private record Sizes(long groups, long least, long most) {}

  /**
   * An average of averages.
   *
   * @param call the one outside
   * @param column what it is over
   * @param inner the average that the column is
   * @param groups the query that this stands in
   */
  private record Twice(FunctionCall call, UseColumn column, FunctionCall inner, QueryBlock groups) {

    Optional<Suspicion> suspicion(Subject subject) {
      return subject
          .of(groups)
          .rows()
          .map(
              rows ->
                  Suspicion.asking(
                      Kind.AVERAGE_OF_AVERAGES,
                      call.span(),
                      List.of(call.span(), inner.span()),
                      Optional.of(sizes(rows)),
                      found ->
                          found
                              .filter(each -> each.least() < each.most())
                              .map(each -> conclude(each, subject))));
    }

    private Question<Sizes> sizes(JoinedRows rows) {
      Relation kept = rows.kept(groups.uses().get(0)).relation();
      List<Expression> by = rows.groups(kept);
      Expression value = rows.value(kept, inner.arguments().get(0));
      String perGroup = SampleData.RESERVED + "per_group";
      FromItem sizes =
          Sql.derived(
              kept.select(false, List.of(Sql.as(Sql.count(value), "n")), null, by, null), perGroup);
      Expression size = Sql.column(perGroup, "n");
      Query query =
          Query.of(
              Sql.select(
                  List.of(
                      Sql.as(Sql.count(), "c0"),
                      Sql.as(FunctionCall.of("MIN", size), "c1"),
                      Sql.as(FunctionCall.of("MAX", size), "c2")),
                  sizes,
                  Sql.greater(size, Sql.number(0))));
      return Question.numbers(
          kept, query, 3, row -> new Sizes(row.figure(0), row.figure(1), row.figure(2)));
    }

    private Conclusion conclude(Sizes sizes, Subject subject) {
      String text = subject.text(inner.arguments().get(0));
      return new Conclusion(
          Severity.WARNING,
          subject.text(call)
              + " is an average of averages: each of "
              + Words.count(sizes.groups(), "group")
              + " counts alike, whether it has "
              + Words.count(sizes.least(), "value")
              + " or "
              + sizes.most()
              + ". For that of all values show SUM("
              + text
              + ") and COUNT("
              + text
              + ") of each group, and divide their sums.",
          new Evidence(
              Map.of(
                  "groups", sizes.groups(),
                  "least values", sizes.least(),
                  "most values", sizes.most()),
              List.of(),
              List.of(column.words() + " is " + subject.text(inner) + " there")),
          List.of());
    }
  }
}
