package io.lantrel.check.kinds.conditions;

import io.lantrel.check.kinds.conditions.NamesakeLeftOut.LeftOut;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.Conjunct.Equated;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * A table joined by all of its key but one reference, to a row that refers to the same: the goal of
 * a month beside what any shop sold in it.
 */
public final class SharedReferenceLeftOut implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    if (subject.rows().isEmpty() || block.isOnlyAskedForARow()) {
      return List.of();
    }
    return block.steps().stream()
        .flatMap(step -> step.right().stream().flatMap(use -> of(use, step, block).stream()))
        .limit(1)
        .map(each -> each.suspicion(subject))
        .toList();
  }

  private static Optional<LeftOut> of(TableUse use, JoinStep step, QueryBlock block) {
    List<UseColumn> untold = new ArrayList<>(use.keyColumns());
    if (use.table().isEmpty() || use.keys().size() != 1 || untold.size() < 2) {
      return Optional.empty();
    }
    List<Told> told =
        step.conjuncts().stream().flatMap(each -> told(each, use, block).stream()).toList();
    told.forEach(each -> untold.remove(each.column()));
    untold.removeIf(each -> block.determines(Set.of(), each));
    List<TableUse> others = told.stream().map(Told::other).distinct().toList();
    return untold.size() == 1
            && others.size() == 1
            && !others.get(0).isOfTable(use)
            && block.linksBetween(use, others.get(0)).isEmpty()
            && !block.columnsSpokenOf().contains(untold.get(0))
        ? shared(untold.get(0), others.get(0), block)
            .map(
                same -> {
                  Conjunct last = told.get(told.size() - 1).conjunct();
                  return new LeftOut(untold.get(0), same, last, last, step);
                })
        : Optional.empty();
  }

  /** The one column of the other row that refers to the same, in the same role by its name. */
  private static Optional<UseColumn> shared(UseColumn untold, TableUse other, QueryBlock block) {
    List<UseColumn> same =
        other.table().isEmpty() || References.targets(untold, block.catalog()).isEmpty()
            ? List.of()
            : other.columns().stream()
                .filter(each -> References.leadToTheSame(new Equated(untold, each), block))
                .toList();
    return same.stream()
        .findFirst()
        .filter(each -> same.size() == 1 && each.name().equalsIgnoreCase(untold.name()));
  }

  private static Optional<Told> told(Conjunct conjunct, TableUse use, QueryBlock block) {
    return conjunct.part()
        ? Optional.empty()
        : EqualSides.of(
            conjunct.condition(),
            (column, value) -> {
              Set<TableUse> others = block.mentioned(value);
              return others.size() == 1 && !others.contains(use)
                  ? block
                      .column(column)
                      .filter(each -> each.use().equals(use))
                      .map(each -> new Told(conjunct, each, others.iterator().next()))
                  : Optional.empty();
            });
  }

  /**
   * A column that is set equal to a value of another row.
   *
   * @param other of whose row
   */
  private record Told(Conjunct conjunct, UseColumn column, TableUse other) {}
}
