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
import io.lantrel.probe.Sql;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.LexedText;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Span;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

/**
 * An OR of which one branch connects two tables and another does not: through the other every row
 * of the one table meets every row of the other.
 */
public final class LooseOr implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    List<Suspicion> suspicions = new ArrayList<>();
    for (Conjunct conjunct : subject.block().conjuncts()) {
      if (conjunct.condition() instanceof Condition.Or or) {
        loose(or, conjunct, subject)
            .map(branches -> suspicion(or, branches, conjunct, subject))
            .or(() -> outward(or, conjunct, subject))
            .ifPresent(suspicions::add);
      }
    }
    return suspicions;
  }

  /**
   * @param linked the branches that connect the two
   * @param loose one that does not
   * @param uses the two tables
   */
  private record Branches(List<Expression> linked, Expression loose, Set<TableUse> uses) {}

  private static Optional<Branches> loose(Condition.Or or, Conjunct conjunct, Subject subject) {
    for (Expression term : or.terms()) {
      for (Set<TableUse> uses : links(term, subject)) {
        List<Expression> linked = new ArrayList<>();
        List<Expression> loose = new ArrayList<>();
        for (Expression other : or.terms()) {
          boolean tight = connects(other, uses, subject) || isOneRow(other, uses, subject);
          (tight ? linked : loose).add(other);
        }
        if (!loose.isEmpty() && !connectedOtherwise(uses, conjunct, subject)) {
          return Optional.of(new Branches(linked, loose.get(0), uses));
        }
      }
    }
    return Optional.empty();
  }

  /** Pairs of tables that a branch sets a column of equal. */
  private static List<Set<TableUse>> links(Expression term, Subject subject) {
    List<Set<TableUse>> links = new ArrayList<>();
    if (term instanceof Condition.And and) {
      and.terms().forEach(each -> links.addAll(links(each, subject)));
    }
    QueryBlock block = subject.block();
    block
        .alike(term)
        .filter(each -> block.isOwn(each.left()) && block.isOwn(each.right()))
        .filter(each -> each.left().use() != each.right().use())
        .ifPresent(each -> links.add(Set.of(each.left().use(), each.right().use())));
    return links;
  }

  /** Whether a branch names one row of one of the two by its key: a partner for everybody. */
  private static boolean isOneRow(Expression term, Set<TableUse> uses, Subject subject) {
    Set<UseColumn> fixed = new HashSet<>();
    List<Expression> terms = Condition.terms(term);
    for (Expression each : terms) {
      if (each instanceof Condition.Comparison comparison
          && comparison.operator() == Condition.ComparisonOperator.EQUAL
          && subject.block().mentioned(comparison.right()).isEmpty()) {
        subject.ownColumn(comparison.left()).ifPresent(fixed::add);
      }
    }
    return uses.stream()
        .anyMatch(
            use ->
                use.keys().stream()
                    .anyMatch(
                        key ->
                            !key.columns().isEmpty()
                                && key.columns().stream()
                                    .allMatch(
                                        name ->
                                            use.column(name).filter(fixed::contains).isPresent())));
  }

  /** Whether a branch says anything about both tables together. */
  private static boolean connects(Expression term, Set<TableUse> uses, Subject subject) {
    List<Expression> terms = Condition.terms(term);
    return terms.stream().anyMatch(each -> subject.block().mentioned(each).containsAll(uses));
  }

  private static boolean connectedOtherwise(
      Set<TableUse> uses, Conjunct conjunct, Subject subject) {
    Set<TableUse> reached = new HashSet<>(Set.of(uses.iterator().next()));
    boolean grown = true;
    while (grown) {
      grown = false;
      for (Conjunct other : subject.block().conjuncts()) {
        boolean meets = other.uses().stream().anyMatch(reached::contains);
        if (!other.equals(conjunct) && meets) {
          grown |= reached.addAll(other.uses());
        }
      }
    }
    return reached.containsAll(uses);
  }

  /**
   * An OR that connects a subquery with the row outside in one branch and not in another, which
   * says nothing of the column of the connection either: what is for everybody is often so marked.
   */
  private static Optional<Suspicion> outward(Condition.Or or, Conjunct conjunct, Subject subject) {
    QueryBlock block = subject.block();
    boolean otherwise =
        block.conjuncts().stream()
            .filter(each -> !each.equals(conjunct))
            .anyMatch(each -> looksOut(each.condition(), block));
    Optional<Conjunct.Equated> link =
        or.terms().stream().flatMap(each -> linkOutward(each, block).stream()).findFirst();
    if (!block.isCorrelated() || otherwise || link.isEmpty()) {
      return Optional.empty();
    }
    Conjunct.Equated pair = link.get();
    UseColumn own = block.isOwn(pair.left()) ? pair.left() : pair.right();
    return or.terms().stream()
        .filter(each -> !looksOut(each, block) && !block.columnsIn(each).isEmpty())
        .filter(each -> !block.columnsIn(each).contains(own))
        .filter(each -> !subject.hasParameter(each))
        .findFirst()
        .map(
            loose ->
                Suspicion.certain(
                    Kind.LOOSE_OR,
                    or.span(),
                    Conclusion.warning(
                        "Where "
                            + subject.text(loose)
                            + ", this OR says nothing about "
                            + pair.other(own).use().words()
                            + ": such a row is found for every one of them. Put the alternatives"
                            + " in parentheses beside the condition that connects the two.",
                        List.of("that branch names no column of the query outside"),
                        repairs(or, subject))));
  }

  private static Optional<Conjunct.Equated> linkOutward(Expression term, QueryBlock block) {
    return Condition.terms(term).stream()
        .flatMap(each -> block.alike(each).stream())
        .filter(each -> block.isOwn(each.left()) != block.isOwn(each.right()))
        .findFirst();
  }

  private static boolean looksOut(Expression value, QueryBlock block) {
    return block.outward().anyMatch(each -> !each.mentioned(value).isEmpty());
  }

  private static Suspicion suspicion(
      Condition.Or or, Branches branches, Conjunct conjunct, Subject subject) {
    Optional<Question<Long>> loose = subject.rows().map(rows -> comeThrough(rows, branches));
    return Suspicion.asking(
        Kind.LOOSE_OR,
        or.span(),
        about(or, conjunct, subject),
        loose,
        found -> Optional.of(conclude(or, branches, found, subject)));
  }

  /** What follows from an OR: what is wrong with itself, and with the join that it is of. */
  static List<Span> about(Condition.Or or, Conjunct conjunct, Subject subject) {
    Stream<Span> joins =
        subject.block().steps().stream()
            .filter(step -> step.conjuncts().contains(conjunct))
            .map(JoinStep::place);
    return Stream.concat(Stream.of(or.span()), joins).toList();
  }

  private static Question<Long> comeThrough(JoinedRows rows, Branches branches) {
    List<Expression> conditions = new ArrayList<>();
    branches.linked().forEach(each -> conditions.add(Sql.not(rows.holds(rows.all(), each))));
    branches.uses().forEach(use -> conditions.add(rows.isThere(rows.all(), use)));
    return Question.count(rows.all(), rows.isKept(conditions.toArray(Expression[]::new)));
  }

  private static Conclusion conclude(
      Condition.Or or, Branches branches, Optional<Long> found, Subject subject) {
    List<String> tables =
        branches.uses().stream()
            .sorted((one, other) -> Integer.compare(one.index(), other.index()))
            .map(TableUse::words)
            .toList();
    String message =
        "Where "
            + subject.text(branches.loose())
            + ", this OR lets every row of "
            + tables.get(0)
            + " meet every row of "
            + tables.get(1)
            + found
                .filter(rows -> rows > 0)
                .map(rows -> ": " + Words.rows(rows) + " more")
                .orElse("")
            + ". Put the alternatives in parentheses beside the condition that connects the two.";
    Evidence evidence =
        found
            .map(
                rows ->
                    new Evidence(
                        Map.of("rows without the connection", rows),
                        List.of(),
                        List.of(
                            Words.count(rows, "joined row")
                                + (rows == 1 ? " comes" : " come")
                                + " through the other branch alone")))
            .orElseGet(
                () -> Evidence.facts(List.of("that branch says nothing about the two together")));
    return new Conclusion(Severity.WARNING, message, evidence, repairs(or, subject));
  }

  /** {@code link AND a OR b} with parentheses; {@code link OR a} with AND. */
  private static List<List<Edit>> repairs(Condition.Or or, Subject subject) {
    List<List<Edit>> repairs = new ArrayList<>();
    OtherReading.of(or).ifPresent(reading -> repairs.add(reading.edits()));
    if (or.terms().size() == 2 && repairs.isEmpty()) {
      Span between = Span.between(or.terms().get(0).span(), or.terms().get(1).span());
      new LexedText(subject.source(), between, subject.block().dialect())
          .first("OR")
          .ifPresent(word -> repairs.add(List.of(new Edit(word, subject.edits().keyword("AND")))));
    }
    return repairs;
  }
}
