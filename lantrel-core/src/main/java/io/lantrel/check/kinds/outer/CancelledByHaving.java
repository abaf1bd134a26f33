package io.lantrel.check.kinds.outer;

import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.engine.SampleData;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.JoinedRows.Kept;
import io.lantrel.probe.Question;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Condition.Comparison;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value.Literal;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * HAVING with a SUM, which is NULL for what an outer join keeps without a partner (ISO/IEC 9075-2,
 * 10.9): such a group is dropped although its total, as nothing, would pass.
 */
public final class CancelledByHaving implements Check {

  private static final String GROUPS = SampleData.RESERVED + "groups";

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    Expression having = block.select().having();
    if (having == null || block.groupedBy().isEmpty() || subject.rows().isEmpty()) {
      return List.of();
    }
    JoinedRows rows = subject.rows().get();
    return Condition.terms(having).stream()
        .flatMap(
            term ->
                sum(term, block).stream()
                    .flatMap(
                        sum ->
                            filling(sum, block).stream()
                                .map(step -> suspicion(term, sum, step, rows, subject))))
        .toList();
  }

  /** The SUM that is compared with a constant, or with a value of what the group is of. */
  private static Optional<FunctionCall> sum(Expression term, QueryBlock block) {
    return term instanceof Comparison comparison
        ? sum(comparison.left(), comparison.right(), block)
            .or(() -> sum(comparison.right(), comparison.left(), block))
        : Optional.empty();
  }

  private static Optional<FunctionCall> sum(Expression total, Expression with, QueryBlock block) {
    boolean known =
        with instanceof Literal
            || (block.column(with).filter(block::isOwn).isPresent()
                && block.mentioned(with).stream()
                    .allMatch(use -> block.stepsThatFill(use).isEmpty()));
    return known
            && total instanceof FunctionCall call
            && call.key().equals("sum")
            && call.filter() == null
            && call.over() == null
            && call.arguments().size() == 1
        ? Optional.of(call)
        : Optional.empty();
  }

  /** The outer join that may give a row nothing to add. */
  private static Optional<JoinStep> filling(FunctionCall sum, QueryBlock block) {
    Set<TableUse> uses = block.mentioned(sum.arguments().get(0));
    return uses.size() == 1
        ? block.stepsThatFill(uses.iterator().next()).stream().findFirst()
        : Optional.empty();
  }

  private static Suspicion suspicion(
      Expression term, FunctionCall sum, JoinStep step, JoinedRows rows, Subject subject) {
    Question<Long> lost = lost((Comparison) term, sum, rows);
    return Suspicion.counting(
        Kind.OUTER_JOIN_CANCELLED,
        term.span(),
        List.of(step.place(), term.span()),
        lost,
        count -> conclude(sum, count, subject));
  }

  /** The groups without anything to add, if 0 meets the condition. */
  private static Question<Long> lost(Comparison term, FunctionCall sum, JoinedRows rows) {
    Expression value = sum.arguments().get(0);
    Kept kept = rows.kept(rows.block().mentioned(value).iterator().next());
    List<Expression> groups = rows.groups(kept.relation());
    Expression with = term.left() == sum ? term.right() : term.left();
    boolean constant = with instanceof Literal;
    List<SelectItem> items = new ArrayList<>();
    items.add(Sql.as(Sql.count(rows.value(kept.relation(), value)), "n"));
    if (!constant) {
      // It is one in each group, which is of the row that has it.
      items.add(Sql.as(FunctionCall.of("MIN", rows.value(kept.relation(), with)), "w"));
    }
    Expression other = constant ? with : Sql.column(GROUPS, "w");
    FromItem grouped =
        Sql.derived(kept.relation().select(false, items, null, groups, null), GROUPS);
    Expression passes =
        term.left() == sum
            ? new Comparison(Span.NOWHERE, term.operator(), Sql.number(0), other)
            : new Comparison(Span.NOWHERE, term.operator(), other, Sql.number(0));
    Expression empty = Sql.equal(Sql.column(GROUPS, "n"), Sql.number(0));
    Query query =
        Query.of(
            Sql.select(
                List.of(Sql.as(Sql.count(), "c0")), grouped, Sql.all(List.of(empty, passes))));
    return Question.numbers(kept.relation(), query, 1, row -> row.figure(0));
  }

  private static Conclusion conclude(FunctionCall sum, long lost, Subject subject) {
    TableUse use = subject.block().mentioned(sum.arguments().get(0)).iterator().next();
    String text = subject.text(sum);
    String message =
        "HAVING drops what has no "
            + use.rowWord()
            + ", since "
            + text
            + " is NULL there, not 0: "
            + Words.count(lost, "group")
            + " lost. Write COALESCE("
            + text
            + ", 0) to keep "
            + (lost == 1 ? "it." : "them.");
    List<Edit> edits = new ArrayList<>();
    edits.add(Edit.insert(sum.span().start(), subject.edits().keyword("COALESCE") + "("));
    edits.add(Edit.insert(sum.span().end(), ", 0)"));
    return new Conclusion(
        Severity.WARNING,
        message,
        new Evidence(Map.of("groups lost", lost), List.of(), List.of()),
        List.of(edits));
  }
}
