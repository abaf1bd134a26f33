package io.lantrel.check.kinds.totals;

import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.kinds.conditions.References;
import io.lantrel.check.suspicion.BaseColumn;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Relation;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.words.Words;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;

/**
 * COUNT(DISTINCT …) of groups, added up under a heading that names what is counted: what is in
 * several groups is counted in each, and the sum is no count of different values.
 */
public final class DifferentOfParts implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    if (subject.rows().isEmpty()
        || block.uses().size() != 1
        || !block.groupedBy().isEmpty()
        || !block.conjuncts().isEmpty()) {
      return List.of();
    }
    TableUse parts = block.uses().get(0);
    return parts
        .query()
        .filter(DifferentOfParts::isOfWholeGroups)
        .map(
            inner ->
                block.outputs().stream()
                    .flatMap(output -> of(output, inner, subject).stream())
                    .flatMap(each -> each.suspicion(subject).stream())
                    .toList())
        .orElse(List.of());
  }

  private static boolean isOfWholeGroups(QueryBlock inner) {
    return !inner.groupedBy().isEmpty()
        && inner.select().having() == null
        && inner.select().qualify() == null
        && inner.query().limit() == null;
  }

  private static Optional<Added> of(OutputColumn output, QueryBlock inner, Subject subject) {
    if (!(output.value() instanceof FunctionCall sum)
        || !sum.key().equals("sum")
        || sum.over() != null
        || sum.filter() != null
        || sum.arguments().size() != 1) {
      return Optional.empty();
    }
    return subject
        .ownColumn(sum.arguments().get(0))
        .map(UseColumn::position)
        .flatMap(
            position ->
                HeadedCount.in(inner, true)
                    .filter(count -> inner.outputs().indexOf(count.output()) == position)
                    .findFirst())
        .map(HeadedCount::column)
        .filter(column -> isNamed(output, column, subject))
        .map(column -> new Added(sum, column, inner));
  }

  /** Whether a heading names the rows that the values of a column stand for. */
  private static boolean isNamed(OutputColumn output, UseColumn column, Subject subject) {
    Stream<String> own =
        References.isKey(column)
            ? column.use().table().stream().map(each -> each.name())
            : Stream.of();
    Stream<String> referred =
        BaseColumn.referred(column, subject.catalog()).stream().map(each -> each.name());
    return Stream.concat(own, referred).anyMatch(table -> Totalled.speaksOf(output, table));
  }

  /** A sum of counts of different values of a column. */
  private record Added(FunctionCall sum, UseColumn column, QueryBlock inner) {

    Optional<Suspicion> suspicion(Subject subject) {
      return subject
          .of(inner)
          .rows()
          .map(
              rows ->
                  Suspicion.counting(
                      Kind.REPEATED_IN_TOTAL,
                      sum.span(),
                      List.of(sum.span()),
                      inSeveral(rows),
                      count -> conclude(count, subject)));
    }

    /** How many values are in several groups. */
    private Question<Long> inSeveral(JoinedRows rows) {
      Relation relation = rows.kept(column.use()).relation();
      Expression value = rows.column(relation, column);
      List<Expression> several =
          rows.groups(relation).stream()
              .map(each -> Sql.greater(Sql.countDistinct(each), Sql.number(1)))
              .toList();
      return Question.groups(
          relation,
          List.of(value),
          Sql.all(List.of(Sql.isNotNull(FunctionCall.of("MIN", value)), Sql.any(several))));
    }

    private Conclusion conclude(long count, Subject subject) {
      String values = Words.number(count) + (count == 1 ? " value of " : " values of ");
      String message =
          subject.text(sum)
              + " adds counts of what is different within each group: "
              + values
              + column.written()
              + (count == 1 ? " is" : " are")
              + " in several groups, and counted in each. Count over all rows at once: COUNT(DISTINCT "
              + column.written()
              + ").";
      return new Conclusion(
          Severity.WARNING,
          message,
          new Evidence(
              Map.of("values in several groups", count),
              List.of(),
              List.of("a value that two groups share is counted twice in the sum of both")),
          List.of());
    }
  }
}
