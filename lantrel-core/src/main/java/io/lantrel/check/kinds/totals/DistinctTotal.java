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
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Span;
import io.lantrel.words.Words;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * SUM(DISTINCT …) and AVG(DISTINCT …), by which people try to undo what a join repeats: each value
 * is taken once, not each row, so that equal ones are left out.
 */
public final class DistinctTotal implements Check {

  private static final Set<String> TOTALS = Set.of("sum", "avg");

  @Override
  public List<Suspicion> suspect(Subject subject) {
    return subject.nodes(FunctionCall.class).stream()
        .filter(call -> TOTALS.contains(call.key()) && call.distinct() && call.over() == null)
        .flatMap(call -> Totalled.of(call, subject.block()).stream())
        .filter(total -> !total.use().keys().isEmpty())
        // Each row outside has values of its own, which are not told apart here.
        .filter(total -> !subject.block().isCorrelated() || isRepeated(total, subject.block()))
        .map(total -> suspicion(total, subject))
        .toList();
  }

  /** Then equal values of two groups tell enough: DISTINCT stands there to undo the repetition. */
  private static boolean isRepeated(Totalled total, QueryBlock block) {
    return !RepeatedInTotal.repeating(total.use(), block).isEmpty();
  }

  private static Question<TakenOnce> taken(JoinedRows rows, Totalled total) {
    JoinedRows.Kept kept = rows.kept(total.use());
    Relation relation = kept.relation();
    Expression all = rows.value(relation, total.value());
    Expression condition = total.condition();
    List<Expression> groups =
        isRepeated(total, rows.block()) ? List.of() : rows.block().groupedBy();
    return TakenOnce.question(
        relation,
        groups.stream().map(each -> rows.value(relation, each)).toList(),
        kept.identity(),
        condition == null ? all : Sql.choose(rows.holds(relation, condition), all, Sql.nothing()));
  }

  private static Suspicion suspicion(Totalled total, Subject subject) {
    FunctionCall call = total.call();
    return Suspicion.asking(
        Kind.DISTINCT_HIDES_REPEATS,
        call.span(),
        List.of(call.span()),
        subject.rows().map(rows -> taken(rows, total)),
        found ->
            found.filter(each -> each.values() < each.rows()).isPresent()
                ? found.map(each -> conclude(total, each, subject))
                : mayLeaveOut(total, subject));
  }

  /** No two are equal yet. */
  private static Optional<Conclusion> mayLeaveOut(Totalled total, Subject subject) {
    boolean told =
        subject.block().column(total.value()).filter(each -> !isUnique(each)).isPresent();
    return told
        ? Optional.of(
            Conclusion.note(
                subject.text(total.call())
                    + " takes each value once, not each "
                    + total.use().rowWord()
                    + ": of two that are equal, one is left out. Take each row once, not each"
                    + " value.",
                List.of(
                    "nothing keeps two rows of " + total.use().words() + " from having one value"),
                List.of()))
        : Optional.empty();
  }

  private static boolean isUnique(UseColumn column) {
    return column.use().keys().stream()
        .anyMatch(key -> key.columns().equals(List.of(column.name())));
  }

  private static Conclusion conclude(Totalled total, TakenOnce taken, Subject subject) {
    QueryBlock block = subject.block();
    String row = total.use().rowWord();
    boolean repeated = isRepeated(total, block);
    return new Conclusion(
        Severity.WARNING,
        subject.text(total.call())
            + " takes each value once, not each "
            + row
            + ": "
            + Words.count(taken.rows(), row)
            + " have "
            + Words.count(taken.values(), "different value")
            + (repeated || block.groupedBy().isEmpty() ? "" : " in their groups")
            + ", so equal ones are left out. "
            + (repeated ? "Take the total before joining." : "Leave DISTINCT out."),
        new Evidence(
            Map.of("rows", taken.rows(), "different values", taken.values()),
            List.of(),
            List.of("several rows of " + total.use().words() + " have one value")),
        repeated ? List.of() : withoutWord(total.call(), subject));
  }

  private static List<List<Edit>> withoutWord(FunctionCall call, Subject subject) {
    int open = call.span().start() + subject.text(call).indexOf('(') + 1;
    Span between = new Span(open, call.arguments().get(0).span().start());
    boolean onlyWord =
        subject.source().text().substring(open, between.end()).strip().equalsIgnoreCase("DISTINCT");
    return onlyWord ? List.of(List.of(new Edit(between, ""))) : List.of();
  }
}
