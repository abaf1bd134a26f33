package io.lantrel.check.kinds.outer;

import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.edit.QueryEdits;
import io.lantrel.engine.NamedRow;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Relation;
import io.lantrel.probe.RowNames;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.NullRejection;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * A condition of WHERE that no row filled by an outer join can meet: the rows that the join keeps
 * are dropped again.
 */
public final class OuterJoinCancelled implements Check {

  private static final int SHOWN = 3;

  @Override
  public List<Suspicion> suspect(Subject subject) {
    if (!subject.resolution().problems().isEmpty()) {
      return List.of();
    }
    List<Suspicion> suspicions = new ArrayList<>();
    for (Conjunct filter : subject.block().filters()) {
      cancelled(subject.block(), filter)
          .ifPresent(each -> suspicions.add(suspicion(filter, each, subject)));
    }
    return suspicions;
  }

  /** An outer join, and the side of it whose filled rows the condition drops. */
  private record Cancelled(JoinStep step, List<TableUse> optional, List<TableUse> kept) {}

  private static Optional<Cancelled> cancelled(QueryBlock block, Conjunct filter) {
    for (JoinStep step : block.steps()) {
      if (step.kind().keepsLeft() && rejects(block, filter, step.right())) {
        return Optional.of(new Cancelled(step, step.right(), step.left()));
      }
      if (step.kind().keepsRight() && rejects(block, filter, step.left())) {
        return Optional.of(new Cancelled(step, step.left(), step.right()));
      }
    }
    return Optional.empty();
  }

  private static boolean rejects(QueryBlock block, Conjunct filter, List<TableUse> optional) {
    return optional.stream().anyMatch(filter.uses()::contains)
        && NullRejection.rejects(filter.condition(), block, Set.copyOf(optional));
  }

  private static Suspicion suspicion(Conjunct filter, Cancelled cancelled, Subject subject) {
    Optional<Question<Long>> lost =
        subject.rows().map(rows -> Question.count(rows.all(), lost(filter, cancelled, rows)));
    return new Suspicion(
        Kind.OUTER_JOIN_CANCELLED,
        filter.span(),
        List.of(cancelled.step().place(), filter.span()),
        List.copyOf(lost.stream().toList()),
        answers -> Optional.of(conclude(filter, cancelled, lost.flatMap(answers::ifAny), subject)));
  }

  private static Evidence evidence(
      long lost, List<NamedRow> rows, Cancelled cancelled, Subject subject) {
    String kept = subjectOf(cancelled).rowWord();
    boolean alone = subject.block().filters().size() == 1 && subject.block().steps().size() == 1;
    List<String> facts =
        lost > 0
            ? List.of()
            : List.of(
                alone
                    ? "the sample has no such row: every " + kept + " here has a partner"
                    : "the sample has no such row that the other conditions and joins keep");
    return new Evidence(Map.of("rows lost", lost), rows, facts);
  }

  /** The kept table use that the join's condition mentions: its rows are the ones that vanish. */
  private static TableUse subjectOf(Cancelled cancelled) {
    return mentioned(cancelled.step(), cancelled.kept());
  }

  /** The first table use of a side that the condition of a join mentions. */
  static TableUse mentioned(JoinStep step, List<TableUse> side) {
    return step.conjuncts().stream()
        .flatMap(conjunct -> conjunct.uses().stream())
        .filter(side::contains)
        .findFirst()
        .orElseGet(() -> side.get(0));
  }

  /** Rows filled by this join that meet every other condition of WHERE. */
  private static Expression lost(Conjunct filter, Cancelled cancelled, JoinedRows rows) {
    Relation all = rows.all();
    List<Expression> conditions = new ArrayList<>(List.of(rows.isJoined()));
    for (TableUse use : cancelled.optional()) {
      conditions.add(Sql.not(rows.isThere(all, use)));
    }
    for (Conjunct other : rows.block().filters()) {
      if (!other.equals(filter) && Collections.disjoint(other.uses(), cancelled.optional())) {
        conditions.add(rows.holds(all, other.condition()));
      }
    }
    return Sql.all(conditions);
  }

  private static Conclusion conclude(
      Conjunct filter, Cancelled cancelled, Optional<Long> counted, Subject subject) {
    long lost = counted.orElse(0L);
    JoinStep step = cancelled.step();
    String optional = Words.list(cancelled.optional().stream().map(TableUse::words).toList());
    String kept = subjectOf(cancelled).rowWord();
    String condition = subject.source().at(filter.span());
    String message =
        "The "
            + step.kind().words()
            + " keeps every "
            + kept
            + ", and this condition drops those "
            + "without "
            + optional
            + " again, since it is not true when "
            + optional
            + " is NULL"
            + (lost > 0 ? ": " + Words.rows(lost) + " lost." : ".")
            + (step.kind() == JoinKind.LEFT && !isNotNull(filter)
                ? " Move it into ON to keep them, or write JOIN if they should go."
                : " Write " + JoinKind.INNER.words() + " if they should go.");
    List<List<Edit>> repairs = repairs(filter, step, condition, subject);
    if (lost == 0) {
      Evidence none =
          counted.map(each -> evidence(each, List.of(), cancelled, subject)).orElse(Evidence.NONE);
      return new Conclusion(Severity.WARNING, message, none, repairs);
    }
    JoinedRows rows = subject.rows().orElseThrow();
    Question<List<NamedRow>> names =
        RowNames.question(
            rows, rows.all(), subjectOf(cancelled), lost(filter, cancelled, rows), SHOWN);
    return Conclusion.asking(
        Severity.WARNING,
        message,
        names,
        named -> evidence(lost, named, cancelled, subject),
        repairs);
  }

  private static boolean isNotNull(Conjunct filter) {
    return filter.condition() instanceof Condition.IsNull test && test.negated();
  }

  private static List<List<Edit>> repairs(
      Conjunct filter, JoinStep step, String condition, Subject subject) {
    QueryEdits edits = subject.edits();
    List<List<Edit>> repairs = new ArrayList<>();
    boolean within =
        filter.uses().stream()
            .allMatch(use -> step.left().contains(use) || step.right().contains(use));
    if (step.kind() == JoinKind.LEFT && within && !isNotNull(filter)) {
      edits.fromWhereToOn(step, filter.condition(), condition).ifPresent(repairs::add);
    }
    if (step.kind() == JoinKind.LEFT || step.kind() == JoinKind.RIGHT) {
      repairs.add(List.of(edits.kind(step, JoinKind.INNER)));
    }
    return repairs;
  }
}
