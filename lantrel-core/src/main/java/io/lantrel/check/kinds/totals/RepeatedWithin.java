package io.lantrel.check.kinds.totals;

import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.probe.JoinedRows;
import io.lantrel.resolve.Aggregates;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.ColumnReplacer;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.Span;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

/**
 * A total over a column of a query in FROM or WITH, in which a join has repeated the rows that the
 * values are of. Where the query outside picks or groups by what repeats them, nothing is said: it
 * knows of the repetition.
 */
public final class RepeatedWithin implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    List<Suspicion> suspicions = new ArrayList<>();
    List<QueryBlock> outside =
        canRepeat(subject.block()) ? subject.resolution().blocks() : List.of();
    for (QueryBlock block : outside) {
      block.uses().stream()
          .filter(use -> use.query().filter(each -> leadsTo(each, subject.block())).isPresent())
          .forEach(use -> suspicions.addAll(within(use, subject.of(block), subject)));
    }
    for (TableUse use : subject.block().uses()) {
      use.queryOfView()
          .ifPresent(view -> suspicions.addAll(within(use, subject, subject.of(view))));
    }
    return suspicions;
  }

  /**
   * @param inner the query that the table use is
   */
  private static List<Suspicion> within(TableUse derived, Subject outer, Subject inner) {
    Optional<JoinedRows> rows = canRepeat(inner.block()) ? inner.rows() : Optional.empty();
    if (rows.isEmpty()) {
      return List.of();
    }
    return totals(outer.block()).stream()
        .flatMap(call -> suspicion(call, derived, outer, inner, rows.get()).stream())
        .toList();
  }

  /** Whether its rows are just those that its joins and WHERE give. */
  private static boolean canRepeat(QueryBlock inner) {
    return !inner.steps().isEmpty()
        && !inner.isGrouped()
        && !inner.select().distinct()
        && inner.select().distinctOn().isEmpty()
        && inner.select().qualify() == null
        && inner.query().limit() == null;
  }

  private static List<FunctionCall> totals(QueryBlock block) {
    return Stream.concat(
            block.outputs().stream().map(output -> output.value()),
            Stream.ofNullable(block.select().having()))
        .flatMap(Aggregates::in)
        .filter(call -> !call.distinct() && call.over() == null && !call.span().isNowhere())
        .distinct()
        .toList();
  }

  private static Optional<Suspicion> suspicion(
      FunctionCall call, TableUse derived, Subject outer, Subject inner, JoinedRows rows) {
    QueryBlock within = inner.block();
    Optional<Totalled> shown = Totalled.of(call, outer.block());
    Optional<Expression> inside =
        shown.flatMap(total -> inside(total.value(), derived, outer.block(), within));
    Optional<TableUse> use =
        inside.flatMap(each -> ofOneTable(each, within)).filter(each -> each.table().isPresent());
    List<JoinStep> repeating =
        use.map(each -> RepeatedInTotal.repeating(each, within)).orElse(List.of());
    Optional<Expression> when = shown.map(Totalled::condition);
    if (repeating.isEmpty() || isKnown(derived, use.orElseThrow(), when, within, outer.block())) {
      return Optional.empty();
    }
    Totalled total = new Totalled(call, inside.orElseThrow(), null, use.orElseThrow());
    List<Span> about = new ArrayList<>(List.of(call.span()));
    if (derived.query().isPresent()) {
      repeating.forEach(step -> about.add(step.place()));
    }
    return Optional.of(
        Suspicion.asking(
            Kind.REPEATED_IN_TOTAL,
            call.span(),
            about,
            Optional.of(RowCounts.question(rows, total)),
            found ->
                found
                    .filter(counts -> counts.counted() > counts.rows())
                    .map(counts -> conclude(total, repeating, counts, inner))));
  }

  /** Whether it is a query, or does nothing but hand its rows on. */
  private static boolean leadsTo(QueryBlock query, QueryBlock within) {
    QueryBlock block = query;
    while (!block.equals(within)) {
      boolean handsOn =
          block.uses().size() == 1
              && !block.isGrouped()
              && !block.select().distinct()
              && block.select().distinctOn().isEmpty()
              && block.select().qualify() == null
              && block.query().limit() == null
              && block.query().body().equals(block.select());
      Optional<QueryBlock> next = handsOn ? block.uses().get(0).query() : Optional.empty();
      if (next.isEmpty()) {
        return false;
      }
      block = next.get();
    }
    return true;
  }

  /** A value in the names of the query that it is of; empty if it is of something else as well. */
  private static Optional<Expression> inside(
      Expression value, TableUse derived, QueryBlock outer, QueryBlock within) {
    Expression inside = value;
    TableUse use = derived;
    QueryBlock block = outer;
    while (!block.equals(within)) {
      Set<UseColumn> columns = block.columnsIn(inside);
      TableUse from = use;
      if (columns.isEmpty() || !columns.stream().allMatch(each -> each.use().equals(from))) {
        return Optional.empty();
      }
      QueryBlock next = use.query().or(use::queryOfView).orElseThrow();
      inside = replaced(inside, block, next);
      block = next;
      use = next.uses().get(0);
    }
    return Optional.of(inside);
  }

  private static Expression replaced(Expression value, QueryBlock outer, QueryBlock inner) {
    return new ColumnReplacer(
            name ->
                outer
                    .column(name)
                    .map(column -> inner.outputs().get(column.position()).value())
                    .orElse(name))
        .apply(value);
  }

  /** The table use that a value is of, also if it is worked out, or looked up by a subquery. */
  private static Optional<TableUse> ofOneTable(Expression value, QueryBlock within) {
    Set<TableUse> uses = within.mentioned(value);
    return uses.size() == 1 ? uses.stream().findFirst() : Optional.empty();
  }

  /**
   * Whether the query outside names, beyond the values that it totals, what tells the repeated rows
   * apart.
   *
   * @param when the condition within the total
   */
  private static boolean isKnown(
      TableUse derived,
      TableUse use,
      Optional<Expression> when,
      QueryBlock inner,
      QueryBlock block) {
    Set<TableUse> fixed = Totalled.decidedBy(use, inner);
    Stream<Node> conditions =
        Stream.of(
                when.stream(),
                Stream.ofNullable(block.select().where()),
                block.groupedBy().stream(),
                block.steps().stream()
                    .flatMap(step -> step.conjuncts().stream())
                    .map(each -> each.condition()))
            .flatMap(each -> each);
    return conditions
        .flatMap(Node::preorder)
        .filter(Expression.class::isInstance)
        .map(Expression.class::cast)
        .filter(node -> block.column(node).filter(each -> each.use().equals(derived)).isPresent())
        .flatMap(node -> inside(node, derived, block, inner).stream())
        .anyMatch(value -> !isFixed(value, fixed, inner));
  }

  /** Whether a value is the same in all rows that come of one row of these table uses. */
  private static boolean isFixed(Expression value, Set<TableUse> fixed, QueryBlock inner) {
    return fixed.containsAll(inner.mentioned(value))
        || inner.conjuncts().stream()
            .flatMap(conjunct -> conjunct.equality().stream())
            .anyMatch(
                pair ->
                    inner
                        .column(value)
                        .filter(column -> pair.left().equals(column) || pair.right().equals(column))
                        .map(column -> pair.other(column).use())
                        .filter(fixed::contains)
                        .isPresent());
  }

  private static Conclusion conclude(
      Totalled total, List<JoinStep> repeating, RowCounts counts, Subject inner) {
    String message =
        RepeatedInTotal.repeats(total, repeating, counts.rows(), counts.counted(), inner)
            + "Take the total before joining, or put what repeats it into EXISTS.";
    Map<String, Long> figures = new LinkedHashMap<>();
    figures.put("counted", counts.counted());
    figures.put("counted once each", counts.rows());
    List<String> facts = List.of("the rows are repeated within the query or view that it totals");
    return new Conclusion(
        Severity.WARNING, message, new Evidence(figures, List.of(), facts), List.of());
  }
}
