package io.lantrel.check.kinds.conditions;

import io.lantrel.check.suspicion.Subject;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.Conjunct.Equated;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Condition.ComparisonOperator;
import io.lantrel.sql.tree.Expression;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;

/**
 * Two uses of one table that a join puts together.
 *
 * @param step the join
 * @param first the one that comes first in FROM
 * @param second the other
 * @param between the conditions of the block that mention both, and no third table
 */
record SelfJoin(JoinStep step, TableUse first, TableUse second, List<Conjunct> between) {
  SelfJoin {
    between = List.copyOf(between);
  }

  static List<SelfJoin> in(Subject subject) {
    QueryBlock block = subject.block();
    List<SelfJoin> found = new ArrayList<>();
    for (JoinStep step : block.steps()) {
      for (TableUse right : step.right()) {
        for (TableUse left : step.left()) {
          if (left.isOfTable(right)) {
            List<Conjunct> between =
                block.conjuncts().stream()
                    .filter(each -> each.uses().contains(left) && each.uses().contains(right))
                    .toList();
            boolean alone = between.stream().allMatch(each -> each.uses().size() == 2);
            if (!between.isEmpty() && alone && !step.kind().isOuter()) {
              found.add(new SelfJoin(step, left, right, between));
            }
          }
        }
      }
    }
    return found;
  }

  /** The column that both must share, if a condition says just that. */
  Optional<UseColumn> shared(Conjunct conjunct) {
    return conjunct
        .likeness()
        .filter(each -> each.left().position() == each.right().position())
        .map(Equated::left);
  }

  /** Where the columns stand that the two have in common. */
  Set<Integer> sharedPositions() {
    return between.stream()
        .flatMap(each -> shared(each).stream())
        .map(UseColumn::position)
        .collect(Collectors.toSet());
  }

  /**
   * The condition that compares the keys of the two, as {@code a.id < b.id}: of a key of several
   * columns, the one that they need not share. Empty if more than one is left.
   *
   * @param left the one whose column stands first
   * @param operator what stands between
   */
  Optional<String> byKey(TableUse left, ComparisonOperator operator) {
    Set<Integer> shared = sharedPositions();
    List<Integer> apart =
        first.keyColumns().stream()
            .map(UseColumn::position)
            .filter(each -> !shared.contains(each))
            .toList();
    TableUse right = left.equals(first) ? second : first;
    return apart.size() == 1
        ? Optional.of(
            left.columns().get(apart.get(0)).written()
                + " "
                + operator.sign()
                + " "
                + right.columns().get(apart.get(0)).written())
        : Optional.empty();
  }

  /** Whether every condition demands that the two share a column. */
  boolean onlyShares() {
    return between.stream().allMatch(each -> shared(each).isPresent());
  }

  /** Whether all but what they share says that two ranges of time, say, overlap: in both ways. */
  boolean overlaps(QueryBlock block) {
    return overlaps(between, block);
  }

  /** The same for some of the conditions. */
  boolean overlaps(List<Conjunct> conditions, QueryBlock block) {
    List<Conjunct> others = conditions.stream().filter(each -> shared(each).isEmpty()).toList();
    List<Optional<Below>> compared =
        others.stream().map(each -> below(each.condition(), block)).toList();
    return !others.isEmpty()
        && compared.stream()
            .allMatch(
                each -> each.isPresent() && compared.contains(Optional.of(each.get().mirrored())));
  }

  /**
   * A column of one below another column of the other.
   *
   * @param ofFirst whether the lower is one of the first
   * @param low the position of the lower
   * @param high that of the upper
   */
  private record Below(boolean ofFirst, int low, int high) {
    Below mirrored() {
      return new Below(!ofFirst, low, high);
    }
  }

  private Optional<Below> below(Expression condition, QueryBlock block) {
    if (!(condition instanceof Condition.Comparison comparison)) {
      return Optional.empty();
    }
    boolean upward = comparison.operator().isBelow();
    Optional<UseColumn> low = block.column(upward ? comparison.left() : comparison.right());
    Optional<UseColumn> high = block.column(upward ? comparison.right() : comparison.left());
    boolean apart =
        comparison.operator().isOrder()
            && low.isPresent()
            && high.isPresent()
            && low.get().use() != high.get().use()
            && low.get().position() != high.get().position();
    return apart
        ? Optional.of(
            new Below(low.get().use().equals(first), low.get().position(), high.get().position()))
        : Optional.empty();
  }

  /** The condition that both differ in a column. */
  Optional<Conjunct> differing(Subject subject) {
    return comparing(Set.of(ComparisonOperator.NOT_EQUAL), subject);
  }

  /** The condition that one lies before the other in a column, as only one of each pair does. */
  Optional<Conjunct> ordered(Subject subject) {
    return comparing(Set.of(ComparisonOperator.LESS, ComparisonOperator.GREATER), subject);
  }

  private Optional<Conjunct> comparing(Set<ComparisonOperator> operators, Subject subject) {
    return between.stream()
        .filter(
            each ->
                each.condition() instanceof Condition.Comparison comparison
                    && operators.contains(comparison.operator())
                    && isOneColumn(comparison, subject))
        .findFirst();
  }

  /**
   * Whether nothing but one condition tells the two apart: the other conditions and what is shown
   * are the same for both.
   */
  boolean isEven(Conjunct apart, Subject subject) {
    QueryBlock block = subject.block();
    Halves halves = new Halves(this, subject);
    List<Conjunct> others =
        between.stream().filter(each -> !each.equals(apart) && shared(each).isEmpty()).toList();
    return (others.isEmpty() || overlaps(others, block))
        && !block.isGrouped()
        && !block.isOnlyAskedForARow()
        && halves.areEven()
        && !halves.shownOfFirst().isEmpty()
        && halves.shownOfFirst().equals(halves.shownOfSecond());
  }

  private static boolean isOneColumn(Condition.Comparison comparison, Subject subject) {
    Optional<UseColumn> left = subject.ownColumn(comparison.left());
    Optional<UseColumn> right = subject.ownColumn(comparison.right());
    return left.isPresent()
        && right.isPresent()
        && left.get().use() != right.get().use()
        && left.get().position() == right.get().position();
  }

  /** Whether a column of this use is shown. */
  static boolean isShown(TableUse use, QueryBlock block) {
    return block.outputs().stream().anyMatch(each -> block.mentioned(each.value()).contains(use));
  }
}
