package io.lantrel.check.kinds.conditions;

import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.kinds.conditions.NotAReference.Equation;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.Conjunct.Equated;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value.ColumnName;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * Rows that belong to the same third row, or are rows of one table, put together by a number that
 * counts within something else, and not by that too: the reviews of any house's staging 1.
 */
public final class PartOfShared implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    List<Suspicion> suspicions = new ArrayList<>();
    QueryBlock block = subject.block();
    for (JoinStep step : block.steps()) {
      step.conjuncts().stream()
          .flatMap(each -> each.likeness().flatMap(pair -> part(pair, each, step, block)).stream())
          .limit(1)
          .forEach(part -> suspicions.add(part.suspicion(subject)));
    }
    for (Equation each : Equation.beyondJoins(subject)) {
      Conjunct conjunct = each.conjunct();
      if (conjunct != null && each.isOfTables()) {
        part(new Equated(each.left(), each.right()), conjunct, null, block)
            .ifPresent(part -> suspicions.add(part.suspicion(subject)));
      }
    }
    return suspicions;
  }

  private static Optional<Part> part(
      Equated pair, Conjunct conjunct, @Nullable JoinStep step, QueryBlock block) {
    if (!block.linksAlong(pair).isEmpty()) {
      return Optional.empty();
    }
    for (ScopedKey one : ScopedKey.of(pair.left().use(), block.catalog())) {
      for (ScopedKey other : ScopedKey.of(pair.right().use(), block.catalog())) {
        int at = one.own().indexOf(pair.left());
        boolean shared =
            one.of().equals(other.of())
                && at >= 0
                && other.own().indexOf(pair.right()) == at
                && isWhole(one, other, pair, block)
                && !isConnected(one.scope(), other.scope(), block);
        if (shared) {
          return Optional.of(new Part(one, other, conjunct, step));
        }
      }
    }
    return Optional.empty();
  }

  /** Whether the number is equated in all of its columns. */
  private static boolean isWhole(ScopedKey one, ScopedKey other, Equated pair, QueryBlock block) {
    return IntStream.range(0, one.own().size())
        .allMatch(
            each ->
                one.own().get(each).equals(pair.left())
                    || isTogether(
                        Set.of(one.own().get(each)), Set.of(other.own().get(each)), block));
  }

  /** Whether a condition is about what the number counts within, on both sides, or fixes it. */
  private static boolean isConnected(List<UseColumn> one, List<UseColumn> other, QueryBlock block) {
    return isTogether(Set.copyOf(one), Set.copyOf(other), block)
        || (isFixed(one, block) && isFixed(other, block));
  }

  private static boolean isFixed(List<UseColumn> scope, QueryBlock block) {
    return scope.stream().allMatch(each -> block.determines(Set.of(), each));
  }

  private static boolean isTogether(Set<UseColumn> one, Set<UseColumn> other, QueryBlock block) {
    boolean equal =
        one.stream().anyMatch(each -> !Collections.disjoint(block.equalTo(each), other));
    return equal
        || block.conjuncts().stream()
            .map(each -> columns(each.condition(), block))
            .anyMatch(
                each -> !Collections.disjoint(each, one) && !Collections.disjoint(each, other));
  }

  /** The columns that a condition mentions, those of blocks outside too. */
  private static Set<UseColumn> columns(Expression condition, QueryBlock block) {
    return condition
        .preorder()
        .flatMap(
            node -> node instanceof ColumnName name ? block.column(name).stream() : Stream.of())
        .collect(Collectors.toSet());
  }

  /**
   * What is put together by a part.
   *
   * @param one the number on one side
   * @param other the same on the other
   * @param conjunct the condition
   * @param step the join whose condition it is; null for a condition with a row outside
   */
  private record Part(ScopedKey one, ScopedKey other, Conjunct conjunct, @Nullable JoinStep step) {

    Suspicion suspicion(Subject subject) {
      List<Span> about = new ArrayList<>(List.of(conjunct.span()));
      Optional<Question<Long>> question = Optional.empty();
      JoinStep joined = step;
      if (joined != null) {
        about.add(joined.place());
        question = subject.rows().map(this::strangers);
      }
      return Suspicion.asking(
          Kind.PARTIAL_KEY,
          conjunct.span(),
          about,
          question,
          found ->
              found.filter(each -> each == 0).isPresent()
                  ? Optional.empty()
                  : Optional.of(conclude(found, subject)));
    }

    /** The joined rows whose two sides belong to different ones. */
    private Question<Long> strangers(JoinedRows rows) {
      List<Expression> apart = new ArrayList<>();
      for (int i = 0; i < one.scope().size(); i++) {
        apart.add(
            Sql.not(
                Sql.equal(
                    rows.column(rows.all(), one.scope().get(i)),
                    rows.column(rows.all(), other.scope().get(i)))));
      }
      return Question.count(rows.all(), Sql.all(List.of(rows.isJoined(), Sql.any(apart))));
    }

    private Conclusion conclude(Optional<Long> found, Subject subject) {
      List<String> missing = new ArrayList<>();
      for (int i = 0; i < one.scope().size(); i++) {
        missing.add(one.scope().get(i).written() + " = " + other.scope().get(i).written());
      }
      String condition = String.join(" " + subject.edits().keyword("AND") + " ", missing);
      String row = one.of().name();
      TableUse left = one.own().get(0).use();
      TableUse right = other.own().get(0).use();
      String message =
          subject.text(conjunct.condition())
              + " is only a part of what tells "
              + Words.one(row)
              + " apart: "
              + Words.one(left.rowWord())
              + " also meets rows of "
              + right.words()
              + " of another "
              + row
              + found.map(rows -> ", in " + Words.rows(rows)).orElse("")
              + ". Add "
              + condition
              + ".";
      return new Conclusion(
          Severity.WARNING,
          message,
          new Evidence(
              found.map(rows -> Map.of("rows of unlike ones", rows)).orElse(Map.of()),
              List.of(),
              List.of(
                  Words.one(row)
                      + " is told apart by "
                      + Words.list(
                          Stream.concat(one.scope().stream(), one.own().stream())
                              .map(UseColumn::name)
                              .toList()))),
          conjunct.origin() == Conjunct.Origin.ON || conjunct.origin() == Conjunct.Origin.WHERE
              ? List.of(subject.edits().and(conjunct.condition(), condition))
              : List.of());
    }
  }
}
