package io.lantrel.check.kinds.joins;

import io.lantrel.check.Kind;
import io.lantrel.check.kinds.conditions.References;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Relation;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.Conjunct.Equated;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.tree.Expression;
import io.lantrel.words.Words;
import java.util.Collections;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * Two tables joined by nothing but what both refer to, as the tickets and the loans of one
 * exhibition: each of the one comes with each of the other. Who writes the two beside each other
 * may mean that, so it is no more than a note.
 */
public final class CrossedSiblings implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    if (subject.rows().isEmpty()
        || block.select().distinct()
        || block.isOnlyAskedForARow()
        || block.isCorrelated()
        || !CrossedBranches.isTold(subject)) {
      return List.of();
    }
    return block.steps().stream()
        .flatMap(
            step -> step.conjuncts().stream().flatMap(each -> siblings(each, step, block).stream()))
        .limit(1)
        .map(each -> each.suspicion(subject.rows().orElseThrow()))
        .toList();
  }

  private static Optional<Siblings> siblings(Conjunct conjunct, JoinStep step, QueryBlock block) {
    return conjunct
        .equality()
        .filter(pair -> !pair.left().use().isOfTable(pair.right().use()))
        .filter(pair -> block.isOwn(pair.left()) && block.isOwn(pair.right()))
        .filter(pair -> References.leadToTheSame(pair, block))
        .filter(pair -> isAlone(conjunct, pair, step, block))
        .filter(pair -> areShown(pair, block))
        .filter(pair -> !(isLink(pair.left().use(), block) && isLink(pair.right().use(), block)))
        .filter(
            pair ->
                !block.partnersOnTheRight(step).isSingle()
                    && !block.partnersOnTheLeft(step).isSingle())
        .flatMap(
            pair ->
                telling(pair.left())
                    .flatMap(
                        one ->
                            telling(pair.right())
                                .map(other -> new Siblings(conjunct, step, pair, one, other))));
  }

  /** Nothing else connects the two sides of the join, and neither refers to the other. */
  private static boolean isAlone(Conjunct conjunct, Equated pair, JoinStep step, QueryBlock block) {
    return block.linksBetween(pair.left().use(), pair.right().use()).isEmpty()
        && block.conjuncts().stream()
            .filter(each -> !each.equals(conjunct))
            .noneMatch(
                each ->
                    !Collections.disjoint(each.uses(), step.right())
                        && !Collections.disjoint(each.uses(), step.left()));
  }

  private static boolean areShown(Equated pair, QueryBlock block) {
    Set<TableUse> shown = new HashSet<>();
    block.outputs().forEach(each -> shown.addAll(block.mentioned(each.value())));
    return block.isGrouped() || shown.containsAll(List.of(pair.left().use(), pair.right().use()));
  }

  /** A row that only pairs others: from link to link is a way, also without what is between. */
  private static boolean isLink(TableUse use, QueryBlock block) {
    List<UseColumn> key = use.keyColumns();
    return key.size() > 1
        && key.stream().noneMatch(each -> References.targets(each, block.catalog()).isEmpty());
  }

  private static Optional<UseColumn> telling(UseColumn parent) {
    return CrossedBranches.telling(parent.use(), List.of(parent));
  }

  /**
   * Two lists of one parent.
   *
   * @param pair what both refer to the parent by
   * @param one tells the rows of the one apart
   * @param other those of the other
   */
  private record Siblings(
      Conjunct conjunct, JoinStep step, Equated pair, UseColumn one, UseColumn other) {

    Suspicion suspicion(JoinedRows rows) {
      return Suspicion.counting(
          Kind.CROSSED_BRANCHES,
          conjunct.span(),
          List.of(conjunct.span(), step.place()),
          crossed(rows),
          this::conclude);
    }

    /** How many parents have several of both. */
    private Question<Long> crossed(JoinedRows rows) {
      Relation relation = rows.kept(pair.left().use()).relation();
      Expression parent = rows.column(relation, pair.left());
      return Question.groups(
          relation,
          List.of(parent),
          Sql.all(
              List.of(
                  Sql.greater(Sql.count(parent), Sql.number(0)),
                  Sql.greater(Sql.countDistinct(rows.column(relation, one)), Sql.number(1)),
                  Sql.greater(Sql.countDistinct(rows.column(relation, other)), Sql.number(1)))));
    }

    private Conclusion conclude(long count) {
      String first = one.use().rowWord();
      String second = other.use().rowWord();
      return Conclusion.note(
          "Each "
              + first
              + " comes with each "
              + second
              + " of the same "
              + pair.left().name()
              + ", although the two have nothing to do with each other: "
              + Words.number(count)
              + (count == 1 ? " has" : " have")
              + " several of both. If that is not meant, ask for the two lists in two queries.",
          List.of(
              "both refer to the same by "
                  + pair.left().written()
                  + " and "
                  + pair.right().written()),
          List.of());
    }
  }
}
