package io.lantrel.check.kinds.conditions;

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
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.words.Words;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;

/**
 * The latest of several ends, of which one is NULL, as what has no end: MAX leaves it out (ISO/IEC
 * 9075-2, 10.9), and the end that it gives is none.
 */
public final class LatestOfEnds implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    if (subject.rows().isEmpty() || !block.isGrouped() || block.isCorrelated()) {
      return List.of();
    }
    return block.outputs().stream()
        .map(OutputColumn::value)
        .filter(FunctionCall.class::isInstance)
        .map(FunctionCall.class::cast)
        .filter(call -> Aggregates.isExtreme(call) && call.key().equals("max"))
        .flatMap(call -> of(call, subject))
        .toList();
  }

  private static Stream<Suspicion> of(FunctionCall call, Subject subject) {
    return subject
        .ownColumn(call.arguments().get(0))
        .filter(column -> OpenEnd.isEndOfValidity(column, subject.block()))
        .map(column -> suspicion(call, column, subject))
        .stream();
  }

  private static Suspicion suspicion(FunctionCall call, UseColumn end, Subject subject) {
    JoinedRows rows = subject.rows().orElseThrow();
    Relation kept = rows.kept(end.use()).relation();
    List<Expression> by = rows.groups(kept);
    Expression known = Sql.count(rows.column(kept, end));
    Expression there = Sql.countIf(rows.isThere(kept, end.use()));
    Expression some =
        Sql.all(List.of(Sql.greater(there, known), Sql.greater(known, Sql.number(0))));
    return Suspicion.counting(
        Kind.NULL_COMPARISON,
        call.span(),
        List.of(call.span()),
        Question.groups(kept, by, some),
        count -> conclude(call, end, count, subject));
  }

  private static Conclusion conclude(
      FunctionCall call, UseColumn end, long count, Subject subject) {
    boolean whole = subject.block().groupedBy().isEmpty();
    return new Conclusion(
        Severity.WARNING,
        "MAX leaves out where "
            + end.written()
            + " is NULL, and "
            + (whole ? "" : "in " + Words.count(count, "group") + " ")
            + Words.one(end.use().rowWord())
            + " without an end is among the others. If NULL means that it goes on, "
            + subject.text(call)
            + " is not the last end: ask for such a one first, as CASE WHEN COUNT(*) > COUNT("
            + end.written()
            + ").",
        new Evidence(
            Map.of(whole ? "totals" : "groups with an end and without", count),
            List.of(),
            List.of(end.words() + " can be NULL")),
        List.of());
  }
}
