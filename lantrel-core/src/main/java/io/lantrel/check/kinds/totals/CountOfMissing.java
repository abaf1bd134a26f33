package io.lantrel.check.kinds.totals;

import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.engine.NamedRow;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.RowNames;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.sql.tree.Value;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** COUNT(*) over rows that an outer join fills: what has no partner is counted as one. */
public final class CountOfMissing implements Check {

  private static final int SHOWN = 3;

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    List<FunctionCall> counts =
        subject.nodes(FunctionCall.class).stream().filter(CountOfMissing::countsRows).toList();
    if (counts.isEmpty()) {
      return List.of();
    }
    for (JoinStep step : block.steps()) {
      Optional<TableUse> missing = children(step, block).filter(use -> isCounted(use, subject));
      if (missing.isPresent()) {
        FunctionCall call = counts.get(0);
        return List.of(suspicion(call, counts, step, missing.get(), subject));
      }
    }
    return List.of();
  }

  private static boolean countsRows(FunctionCall call) {
    boolean ofNothing =
        call.star()
            || (call.arguments().size() == 1
                && call.arguments().get(0) instanceof Value.Literal literal
                && literal.kind() != Value.LiteralKind.NULL);
    return call.key().equals("count")
        && ofNothing
        && !call.distinct()
        && call.filter() == null
        && call.over() == null;
  }

  /** The optional side of an outer join, if a row of the other can have several there. */
  static Optional<TableUse> children(JoinStep step, QueryBlock block) {
    if (step.kind() == JoinKind.LEFT
        && step.right().size() == 1
        && !block.partnersOnTheRight(step).isSingle()) {
      return Optional.of(step.right().get(0));
    }
    return step.kind() == JoinKind.RIGHT
            && step.left().size() == 1
            && !block.partnersOnTheLeft(step).isSingle()
        ? Optional.of(step.left().get(0))
        : Optional.empty();
  }

  /** Not where WHERE is about the optional side, or its rows are counted as well. */
  private static boolean isCounted(TableUse use, Subject subject) {
    QueryBlock block = subject.block();
    boolean tested = block.filters().stream().anyMatch(each -> each.uses().contains(use));
    boolean counted =
        subject.nodes(FunctionCall.class).stream()
            .filter(call -> call.key().equals("count") && !call.star())
            .anyMatch(call -> block.mentioned(call).contains(use));
    boolean grouped =
        block.groupedBy().stream().anyMatch(each -> block.mentioned(each).contains(use));
    return !tested && !counted && !grouped;
  }

  private static Suspicion suspicion(
      FunctionCall call,
      List<FunctionCall> counts,
      JoinStep step,
      TableUse missing,
      Subject subject) {
    Optional<Question<Long>> filled =
        subject.rows().map(rows -> Question.count(rows.all(), filled(rows, missing)));
    return Suspicion.asking(
        Kind.COUNT_OF_MISSING,
        call.span(),
        List.of(call.span()),
        filled,
        count ->
            count.isPresent() && count.get() == 0
                ? Optional.empty()
                : Optional.of(conclude(call, counts, step, missing, count, subject)));
  }

  private static Expression filled(JoinedRows rows, TableUse missing) {
    return rows.isKept(Sql.not(rows.isThere(rows.all(), missing)));
  }

  private static Conclusion conclude(
      FunctionCall call,
      List<FunctionCall> counts,
      JoinStep step,
      TableUse missing,
      Optional<Long> count,
      Subject subject) {
    TableUse kept = kept(step, missing);
    String text = subject.text(call);
    Optional<String> column = step.nullIfMissing(missing).map(UseColumn::written);
    String message =
        text
            + " counts "
            + Words.one(kept.rowWord())
            + " without "
            + Words.one(missing.rowWord())
            + " as 1"
            + count.map(rows -> ", which happens " + times(rows)).orElse("")
            + "."
            + column
                .map(
                    name ->
                        " Count "
                            + Words.plural(missing.rowWord())
                            + " with COUNT("
                            + name
                            + "), which gives 0 there.")
                .orElse("");
    List<Edit> all = new ArrayList<>();
    column.ifPresent(
        name ->
            counts.forEach(
                each ->
                    all.add(
                        new Edit(
                            each.span(), subject.edits().keyword("COUNT") + "(" + name + ")"))));
    List<List<Edit>> repairs = all.isEmpty() ? List.of() : List.of(all);
    if (count.isEmpty()) {
      return Conclusion.warning(
          message,
          List.of("the " + step.kind().words() + " keeps what has no " + missing.rowWord()),
          repairs);
    }
    JoinedRows rows = subject.rows().orElseThrow();
    Question<List<NamedRow>> names =
        RowNames.question(rows, rows.all(), kept, filled(rows, missing), SHOWN);
    return Conclusion.asking(
        Severity.WARNING,
        message,
        names,
        named -> new Evidence(Map.of("rows filled and counted", count.get()), named, List.of()),
        repairs);
  }

  private static String times(long count) {
    return count == 1 ? "once" : Words.number(count) + " times";
  }

  /** The table whose rows the step keeps. */
  static TableUse kept(JoinStep step, TableUse missing) {
    return step.conjuncts().stream()
        .map(Conjunct::uses)
        .flatMap(uses -> uses.stream())
        .filter(use -> !use.equals(missing))
        .findFirst()
        .orElseGet(() -> step.left().contains(missing) ? step.right().get(0) : step.left().get(0));
  }
}
