package io.lantrel.check.kinds.outer;

import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.kinds.conditions.EqualSides;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.engine.SampleData;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.JoinedRows.Kept;
import io.lantrel.probe.Question;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.Functions;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Value.Literal;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * A condition of WHERE that lets pass what an outer join fills, by IS NULL, and so seems to keep
 * every row; it drops the rows whose partners all fail it. Only where something of the partners is
 * shown: else it looks for what has none.
 */
public final class CancelledForSome implements Check {

  private static final String ROWS = SampleData.RESERVED + "per_row";

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    List<Suspicion> suspicions = new ArrayList<>();
    for (Conjunct filter : block.filters()) {
      step(filter, block).ifPresent(step -> suspicions.add(suspicion(filter, step, subject)));
    }
    return suspicions;
  }

  /** The outer join; empty if the condition is not of this form. */
  static Optional<JoinStep> step(Conjunct filter, QueryBlock block) {
    return optional(filter, block).flatMap(use -> OptionalPartners.severalFrom(use, block));
  }

  /**
   * The table use whose missing rows a condition lets pass, although it is about rows that are
   * there; empty if it is not of this form.
   */
  private static Optional<TableUse> optional(Conjunct filter, QueryBlock block) {
    if (filter.uses().size() != 1) {
      return Optional.empty();
    }
    TableUse use = filter.uses().iterator().next();
    List<Expression> terms =
        filter.condition() instanceof Condition.Or or ? or.terms() : List.of(filter.condition());
    boolean missing =
        terms.stream()
            .anyMatch(
                term ->
                    OptionalPartners.emptyColumn(term, block).isPresent() || isFilled(term, block));
    boolean there =
        terms.stream()
            .anyMatch(
                term ->
                    OptionalPartners.emptyColumn(term, block)
                        .map(UseColumn::nullable)
                        .orElse(true));
    return missing && there && OptionalPartners.isShown(use, block)
        ? Optional.of(use)
        : Optional.empty();
  }

  /** Whether it takes NULL for the very value that it looks for: COALESCE(x, 1) = 1. */
  private static boolean isFilled(Expression term, QueryBlock block) {
    return EqualSides.of(
            term,
            (filled, sought) ->
                filled instanceof FunctionCall call
                        && Functions.fillsNull(call)
                        && call.arguments().size() == 2
                        && block.column(call.arguments().get(0)).filter(block::isOwn).isPresent()
                        && call.arguments().get(1) instanceof Literal instead
                        && sought instanceof Literal literal
                        && instead.text().equals(literal.text())
                    ? Optional.of(call)
                    : Optional.empty())
        .isPresent();
  }

  private static Suspicion suspicion(Conjunct filter, JoinStep step, Subject subject) {
    TableUse optional = filter.uses().iterator().next();
    Optional<Question<Long>> lost =
        subject.rows().map(rows -> lost(filter, OptionalPartners.kept(step), rows));
    return Suspicion.asking(
        Kind.OUTER_JOIN_CANCELLED,
        filter.span(),
        List.of(step.place(), filter.span()),
        lost,
        count -> Optional.of(conclude(filter, step, optional, count, subject)));
  }

  /** The rows of the kept table that meet all else of WHERE, and this in none of their lines. */
  private static Question<Long> lost(Conjunct filter, TableUse kept, JoinedRows rows) {
    Kept lines = rows.keptBut(filter, kept);
    Expression passes =
        Sql.choose(rows.holds(lines.relation(), filter.condition()), Sql.number(1), Sql.number(0));
    List<SelectItem> items = List.of(Sql.as(FunctionCall.of("MAX", passes), "passes"));
    FromItem perRow =
        Sql.derived(
            lines
                .relation()
                .select(
                    false, items, Sql.isNotNull(lines.identity().get(0)), lines.identity(), null),
            ROWS);
    Query query =
        Query.of(
            Sql.select(
                List.of(Sql.as(Sql.count(), "c0")),
                perRow,
                Sql.equal(Sql.column(ROWS, "passes"), Sql.number(0))));
    return Question.numbers(lines.relation(), query, 1, row -> row.figure(0));
  }

  private static Conclusion conclude(
      Conjunct filter, JoinStep step, TableUse optional, Optional<Long> counted, Subject subject) {
    long lost = counted.orElse(0L);
    String kept = OptionalPartners.kept(step).rowWord();
    String message =
        "The "
            + step.kind().words()
            + " keeps every "
            + kept
            + ", and this condition drops those of which every "
            + optional.rowWord()
            + " fails it"
            + (lost > 0 ? ": " + Words.count(lost, kept) + " lost." : ".")
            + " Move it into ON to keep them.";
    List<String> facts = new ArrayList<>();
    facts.add("what has no " + optional.rowWord() + " passes");
    if (lost == 0 && counted.isPresent()) {
      facts.add("the sample has no such " + kept);
    }
    return new Conclusion(
        lost > 0 ? Severity.WARNING : Severity.NOTE,
        message,
        new Evidence(
            counted.map(rows -> Map.of("rows lost", rows)).orElse(Map.of()), List.of(), facts),
        repairs(filter, step, subject));
  }

  /** Into ON, without the terms that no partner meets. */
  private static List<List<Edit>> repairs(Conjunct filter, JoinStep step, Subject subject) {
    List<Expression> terms =
        filter.condition() instanceof Condition.Or or ? or.terms() : List.of(filter.condition());
    List<String> texts =
        terms.stream()
            .filter(
                term ->
                    OptionalPartners.emptyColumn(term, subject.block())
                        .map(UseColumn::nullable)
                        .orElse(true))
            .map(subject::text)
            .toList();
    String condition = String.join(" " + subject.edits().keyword("OR") + " ", texts);
    String written = texts.size() > 1 ? "(" + condition + ")" : condition;
    return subject.edits().fromWhereToOn(step, filter.condition(), written).stream().toList();
  }
}
