package io.lantrel.check.kinds.subqueries;

import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Blocks;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.edit.QueryEdits;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Value.RowValue;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * {@code (a, b) NOT IN (SELECT x, y …)} where a part of a row of the subquery is NULL: unknown for
 * the rows that are equal in the other parts, and these go (ISO/IEC 9075-2, 8.2 and 8.4).
 */
public final class RowNotInNull implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    return subject.block().filters().stream()
        .flatMap(filter -> of(filter, subject).stream())
        .toList();
  }

  private static Optional<Suspicion> of(Conjunct filter, Subject subject) {
    Optional<Condition.InQuery> in = negated(filter.condition());
    if (in.isEmpty() || !(in.get().value() instanceof RowValue row)) {
      return Optional.empty();
    }
    return Blocks.of(in.get().query(), subject)
        .flatMap(
            inner -> {
              List<UseColumn> missing = canBeMissing(inner);
              return missing.isEmpty()
                  ? Optional.empty()
                  : subject
                      .rows()
                      .map(rows -> suspicion(filter, row, inner, missing, rows, subject));
            });
  }

  private static Optional<Condition.InQuery> negated(Expression condition) {
    if (condition instanceof Condition.InQuery in) {
      return Optional.of(in).filter(Condition.InQuery::negated);
    }
    return condition instanceof Condition.Not not && not.value() instanceof Condition.InQuery in
        ? Optional.of(in).filter(each -> !each.negated())
        : Optional.empty();
  }

  private static List<UseColumn> canBeMissing(QueryBlock inner) {
    return inner.outputs().stream()
        .flatMap(each -> inner.column(each.value()).stream())
        .filter(each -> inner.isOwn(each) && !inner.isNeverNull(each))
        .distinct()
        .toList();
  }

  private static Suspicion suspicion(
      Conjunct filter,
      RowValue row,
      QueryBlock inner,
      List<UseColumn> missing,
      JoinedRows rows,
      Subject subject) {
    List<Expression> unknown = new ArrayList<>();
    row.values().forEach(each -> unknown.add(Sql.isNotNull(rows.value(rows.all(), each))));
    unknown.add(Sql.not(rows.holds(rows.all(), filter.condition())));
    unknown.add(Sql.not(rows.holds(rows.all(), Sql.not(filter.condition()))));
    return Suspicion.counting(
        Kind.NOT_IN_NULL,
        filter.span(),
        List.of(filter.span()),
        Question.count(rows.all(), rows.isKeptBut(filter, unknown.toArray(Expression[]::new))),
        count -> conclude(inner, missing, count, subject));
  }

  private static Conclusion conclude(
      QueryBlock inner, List<UseColumn> missing, long count, Subject subject) {
    String tests =
        String.join(
            " " + subject.edits().keyword("AND") + " ",
            missing.stream()
                .map(each -> each.written() + " " + subject.edits().keyword("IS NOT NULL"))
                .toList());
    List<Edit> repair = new QueryEdits(subject.source(), inner).addFilter(tests);
    return new Conclusion(
        Severity.WARNING,
        "This also leaves out "
            + Words.rows(count)
            + " for which it is unknown: "
            + String.join(" or ", missing.stream().map(UseColumn::words).toList())
            + " is NULL in a row of the subquery that is equal in the rest. Leave such rows out with "
            + tests
            + ", or ask with NOT EXISTS.",
        new Evidence(Map.of("rows for which it is unknown", count), List.of(), List.of()),
        List.of(repair));
  }
}
