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
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value.Case;
import io.lantrel.sql.tree.Value.Literal;
import io.lantrel.sql.tree.Value.ScalarQuery;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * Rows counted for which a column of an optional table is NULL: so it is where there is no row of
 * it at all, and a branch without any loan has one that is not returned. Who tests a column that is
 * never NULL in a row asks for just that.
 */
public final class MissingMeetsCondition implements Check {

  private static final int SHOWN = 3;
  private static final Set<String> COUNTING = Set.of("count", "sum");

  @Override
  public List<Suspicion> suspect(Subject subject) {
    List<Suspicion> suspicions = new ArrayList<>();
    for (FunctionCall call : subject.nodes(FunctionCall.class)) {
      if (COUNTING.contains(call.key()) && call.over() == null) {
        counted(call).flatMap(value -> suspicion(call, value, subject)).ifPresent(suspicions::add);
      }
    }
    return suspicions;
  }

  /** By which condition it counts: that of FILTER, or the CASE that it adds up. */
  private static Optional<Expression> counted(FunctionCall call) {
    if (call.filter() != null) {
      return call.star() ? Optional.of(call.filter()) : Optional.empty();
    }
    boolean chosen =
        call.arguments().size() == 1
            && call.arguments().get(0) instanceof Case choice
            && (call.key().equals("sum") || chooses(choice));
    return chosen ? Optional.of(call.arguments().get(0)) : Optional.empty();
  }

  /** Whether some of what it gives is NULL, so that COUNT does not count every row anyway. */
  private static boolean chooses(Case choice) {
    return choice.otherwise() == null
        || Literal.isNull(choice.otherwise())
        || choice.whens().stream().anyMatch(each -> Literal.isNull(each.then()));
  }

  private static Optional<Suspicion> suspicion(
      FunctionCall call, Expression counted, Subject subject) {
    QueryBlock block = subject.block();
    Set<TableUse> uses = block.mentioned(counted);
    boolean plain =
        uses.size() == 1
            && counted.preorder().anyMatch(Condition.IsNull.class::isInstance)
            && counted.preorder().noneMatch(ScalarQuery.class::isInstance)
            && block.columnsIn(counted).stream().allMatch(UseColumn::nullable);
    if (!plain) {
      return Optional.empty();
    }
    TableUse missing = uses.iterator().next();
    Optional<JoinStep> step =
        block.stepsThatFill(missing).stream()
            .filter(each -> each.optional().size() == 1)
            .findFirst();
    if (step.isEmpty() || subject.rows().isEmpty() || missing.table().isEmpty()) {
      return Optional.empty();
    }
    JoinedRows rows = subject.rows().get();
    Expression filled = filled(rows, missing, call, counted);
    return Optional.of(
        Suspicion.counting(
            Kind.COUNT_OF_MISSING,
            call.span(),
            List.of(call.span()),
            Question.count(rows.all(), filled),
            count -> conclude(call, counted, missing, step.get(), count, subject)));
  }

  /** The rows without one of the optional table that are counted all the same. */
  private static Expression filled(
      JoinedRows rows, TableUse missing, FunctionCall call, Expression counted) {
    return rows.isKept(
        Sql.not(rows.isThere(rows.all(), missing)),
        counted instanceof Case choice
            ? isCounted(rows.value(rows.all(), choice), call)
            : rows.holds(rows.all(), counted));
  }

  /** COUNT counts whatever is not NULL, and SUM adds nothing with 0. */
  private static Expression isCounted(Expression value, FunctionCall call) {
    return call.key().equals("count")
        ? Sql.isNotNull(value)
        : new Condition.Comparison(
            Span.NOWHERE, Condition.ComparisonOperator.NOT_EQUAL, value, Sql.number(0));
  }

  private static Conclusion conclude(
      FunctionCall call,
      Expression counted,
      TableUse missing,
      JoinStep step,
      long count,
      Subject subject) {
    TableUse kept = CountOfMissing.kept(step, missing);
    Optional<String> there =
        step.nullIfMissing(missing).map(column -> column.written() + " IS NOT NULL");
    String message =
        subject.text(call)
            + " counts "
            + Words.one(kept.rowWord())
            + " without "
            + Words.one(missing.rowWord())
            + " too, since all of that is NULL there, which happens "
            + (count == 1 ? "once" : Words.number(count) + " times")
            + "."
            + there.map(test -> " Add " + test + " to the condition.").orElse("");
    JoinedRows rows = subject.rows().orElseThrow();
    Question<List<NamedRow>> names =
        RowNames.question(rows, rows.all(), kept, filled(rows, missing, call, counted), SHOWN);
    return Conclusion.asking(
        Severity.WARNING,
        message,
        names,
        named -> new Evidence(Map.of("rows filled and counted", count), named, List.of()),
        there.flatMap(test -> condition(counted).map(when -> added(when, test, subject))).stream()
            .toList());
  }

  private static List<Edit> added(Expression when, String test, Subject subject) {
    return subject.edits().and(when, test);
  }

  /** The one condition by which it counts. */
  private static Optional<Expression> condition(Expression counted) {
    if (counted instanceof Case choice) {
      boolean simple =
          choice.whens().size() == 1
              && choice.operand() == null
              && choice.whens().get(0).when() instanceof Condition.IsNull test
              && !test.negated();
      return simple ? Optional.of(choice.whens().get(0).when()) : Optional.empty();
    }
    return Optional.of(counted);
  }
}
