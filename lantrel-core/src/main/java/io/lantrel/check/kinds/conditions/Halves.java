package io.lantrel.check.kinds.conditions;

import io.lantrel.check.suspicion.Subject;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;

/**
 * The two halves of a query that joins a table to itself: the table use of each, and what is looked
 * up for it alone, as the name of each of two authors. Columns that the two share belong to both.
 */
final class Halves {

  private final SelfJoin join;
  private final QueryBlock block;
  private final Set<Integer> shared;
  private final Map<TableUse, LookUp> ofFirst;
  private final Map<TableUse, LookUp> ofSecond;

  /** A row that is looked up for a half: its column that must be equal to one of the half's. */
  private record LookUp(UseColumn found, UseColumn by) {
    static Optional<LookUp> of(Conjunct conjunct, TableUse half) {
      return conjunct.likeness().flatMap(each -> of(each.left(), each.right(), half));
    }

    private static Optional<LookUp> of(UseColumn one, UseColumn other, TableUse half) {
      boolean first = one.use().equals(half);
      boolean second = other.use().equals(half);
      return first == second
          ? Optional.empty()
          : Optional.of(first ? new LookUp(other, one) : new LookUp(one, other));
    }
  }

  Halves(SelfJoin join, Subject subject) {
    this.join = join;
    this.block = subject.block();
    this.shared = join.sharedPositions();
    this.ofFirst = lookedUp(join.first());
    this.ofSecond = lookedUp(join.second());
  }

  private Map<TableUse, LookUp> lookedUp(TableUse half) {
    Map<TableUse, LookUp> found = new HashMap<>();
    for (Conjunct conjunct : beside()) {
      LookUp.of(conjunct, half)
          .filter(each -> !shared.contains(each.by().position()))
          .ifPresent(each -> found.put(each.found().use(), each));
    }
    return found;
  }

  private List<Conjunct> beside() {
    return block.conjuncts().stream().filter(each -> !join.between().contains(each)).toList();
  }

  /** Whether conditions treat both alike: what is said of one is said of the other, or of both. */
  boolean areEven() {
    return twins(ofFirst).equals(twins(ofSecond))
        && beside().stream().allMatch(each -> isLookUp(each) || isOfNeither(each));
  }

  /** By which column what is looked up, by which column of it. */
  private static Set<List<Object>> twins(Map<TableUse, LookUp> lookedUp) {
    return lookedUp.values().stream()
        .map(
            each ->
                List.<Object>of(
                    each.found().use().table(), each.found().position(), each.by().position()))
        .collect(Collectors.toSet());
  }

  private boolean isLookUp(Conjunct conjunct) {
    return LookUp.of(conjunct, join.first()).filter(ofFirst::containsValue).isPresent()
        || LookUp.of(conjunct, join.second()).filter(ofSecond::containsValue).isPresent();
  }

  private boolean isOfNeither(Conjunct conjunct) {
    return block.columnsIn(conjunct.condition()).stream().allMatch(this::isOfNeither);
  }

  private boolean isHalf(TableUse use) {
    return use.equals(join.first())
        || use.equals(join.second())
        || ofFirst.containsKey(use)
        || ofSecond.containsKey(use);
  }

  private boolean isOfNeither(UseColumn column) {
    boolean own = column.use().equals(join.first()) || column.use().equals(join.second());
    return own ? shared.contains(column.position()) : !isHalf(column.use());
  }

  /** What is shown of the first: its columns, and those that are looked up for it. */
  Set<List<Object>> shownOfFirst() {
    return shown(join.first(), ofFirst);
  }

  /** What is shown of the second, to be compared with that. */
  Set<List<Object>> shownOfSecond() {
    return shown(join.second(), ofSecond);
  }

  private Set<List<Object>> shown(TableUse half, Map<TableUse, LookUp> lookedUp) {
    Set<List<Object>> shown = new HashSet<>();
    block.outputs().stream()
        .flatMap(each -> block.columnsIn(each.value()).stream())
        .forEach(
            column -> {
              if (column.use().equals(half) && !shared.contains(column.position())) {
                shown.add(List.of(column.position()));
              }
              Optional.ofNullable(lookedUp.get(column.use()))
                  .ifPresent(by -> shown.add(List.of(by.by().position(), column.position())));
            });
    return shown;
  }
}
