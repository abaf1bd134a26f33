package io.lantrel.check.kinds.joins;

import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.engine.NamedRow;
import io.lantrel.engine.SampleData;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Relation;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.Aggregates;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Query;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * Two lists of children of one row that are independent of each other: each of the one comes with
 * each of the other.
 */
public final class CrossedBranches implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    if (block.select().distinct() || block.isOnlyAskedForARow() || !isTold(subject)) {
      return List.of();
    }
    List<JoinStep> many =
        block.steps().stream()
            .filter(step -> step.right().size() == 1)
            .filter(step -> step.conjuncts().stream().anyMatch(each -> each.equality().isPresent()))
            .filter(step -> !block.partnersOnTheRight(step).isSingle())
            .toList();
    for (int i = 1; i < many.size(); i++) {
      for (int j = 0; j < i; j++) {
        Optional<TableUse> base = base(many.get(j), many.get(i), block);
        if (base.isPresent() && concerns(many.get(j), many.get(i), base.get(), block)) {
          return List.of(suspicion(many.get(j), many.get(i), base.get(), subject));
        }
      }
    }
    return List.of();
  }

  /** Line by line, or counted by COUNT(*): other totals are looked at one by one. */
  static boolean isTold(Subject subject) {
    return !subject.block().isGrouped()
        || subject.nodes(FunctionCall.class).stream()
            .filter(Aggregates::isOne)
            .anyMatch(call -> call.key().equals("count") && call.star());
  }

  private static boolean concerns(JoinStep one, JoinStep other, TableUse base, QueryBlock block) {
    Set<TableUse> shown = new HashSet<>();
    block.outputs().stream()
        .map(OutputColumn::value)
        .forEach(each -> shown.addAll(block.mentioned(each)));
    return block.isGrouped()
        || (branch(one, base, block).stream().anyMatch(shown::contains)
            && branch(other, base, block).stream().anyMatch(shown::contains));
  }

  /** The children, and what they alone lead to: the tag behind a row that only pairs. */
  private static Set<TableUse> branch(JoinStep step, TableUse base, QueryBlock block) {
    TableUse child = step.right().get(0);
    Set<TableUse> branch = new HashSet<>(block.determinedBy(Set.copyOf(child.keyColumns())));
    branch.removeAll(block.determinedBy(Set.copyOf(base.keyColumns())));
    branch.remove(base);
    branch.add(child);
    return branch;
  }

  private static Set<TableUse> parents(JoinStep step) {
    Set<TableUse> parents = new LinkedHashSet<>();
    step.conjuncts().stream().map(Conjunct::uses).forEach(parents::addAll);
    step.right().forEach(parents::remove);
    return parents;
  }

  /** The row that both are children of: the parent of one fixes that of the other. */
  private static Optional<TableUse> base(JoinStep one, JoinStep other, QueryBlock block) {
    Set<TableUse> first = parents(one);
    Set<TableUse> second = parents(other);
    if (first.size() != 1 || second.isEmpty() || second.stream().anyMatch(one.right()::contains)) {
      return Optional.empty();
    }
    TableUse base = first.iterator().next();
    if (base.keys().isEmpty()) {
      return Optional.empty();
    }
    Set<TableUse> fixed = new HashSet<>(block.determinedBy(Set.copyOf(base.keyColumns())));
    fixed.add(base);
    return fixed.containsAll(second) ? Optional.of(base) : Optional.empty();
  }

  private static Suspicion suspicion(JoinStep one, JoinStep other, TableUse base, Subject subject) {
    Optional<Question<Long>> crossed =
        subject.rows().flatMap(rows -> crossed(rows, one, other, base));
    return Suspicion.asking(
        Kind.CROSSED_BRANCHES,
        other.place(),
        List.of(one.place(), other.place()),
        crossed,
        count ->
            count.isPresent() && count.get() == 0
                ? Optional.empty()
                : Optional.of(conclude(one, other, base, count)));
  }

  /** How many rows have several of both. */
  private static Optional<Question<Long>> crossed(
      JoinedRows rows, JoinStep one, JoinStep other, TableUse base) {
    Optional<UseColumn> first = telling(one);
    Optional<UseColumn> second = telling(other);
    if (first.isEmpty() || second.isEmpty()) {
      return Optional.empty();
    }
    JoinedRows.Kept kept = rows.kept(base);
    Relation relation = kept.relation();
    String name = SampleData.RESERVED + "crossed";
    FromItem groups =
        Sql.derived(
            relation.select(
                false,
                List.of(
                    Sql.as(Sql.countDistinct(rows.column(relation, first.get())), "a"),
                    Sql.as(Sql.countDistinct(rows.column(relation, second.get())), "b")),
                null,
                kept.identity(),
                null),
            name);
    Expression both =
        Sql.all(
            List.of(
                Sql.greater(Sql.column(name, "a"), Sql.number(1)),
                Sql.greater(Sql.column(name, "b"), Sql.number(1))));
    Query query = Query.of(Sql.select(List.of(Sql.as(Sql.countIf(both), "c0")), groups, null));
    return Optional.of(Question.numbers(relation, query, 1, row -> row.figure(0)));
  }

  private static Optional<UseColumn> telling(JoinStep step) {
    TableUse child = step.right().get(0);
    List<UseColumn> equated = new ArrayList<>();
    step.conjuncts().stream()
        .flatMap(each -> each.equality().stream())
        .flatMap(each -> each.of(child).stream())
        .forEach(equated::add);
    return telling(child, equated);
  }

  /** A column that tells the children of one row apart, which they refer to by some others. */
  static Optional<UseColumn> telling(TableUse child, List<UseColumn> equated) {
    return child.keys().stream()
        .flatMap(key -> key.columns().stream())
        .flatMap(column -> child.column(column).stream())
        .filter(column -> !equated.contains(column))
        .findFirst();
  }

  private static Conclusion conclude(
      JoinStep one, JoinStep other, TableUse base, Optional<Long> count) {
    TableUse first = one.right().get(0);
    TableUse second = other.right().get(0);
    String message =
        "Each "
            + first.rowWord()
            + " of "
            + Words.one(base.rowWord())
            + " comes with each "
            + second.rowWord()
            + " of it, although the two have nothing to do with each other"
            + count
                .map(
                    rows ->
                        ": so for " + Words.count(rows, base.rowWord()) + " with several of both")
                .orElse("")
            + ". Ask for the two lists in two queries, or put each together first.";
    return new Conclusion(
        Severity.WARNING,
        message,
        new Evidence(
            count.map(rows -> Map.of("rows with several of both", rows)).orElse(Map.of()),
            List.<NamedRow>of(),
            List.of(
                "nothing connects "
                    + first.words()
                    + " and "
                    + second.words()
                    + " but "
                    + base.words())),
        List.of());
  }
}
