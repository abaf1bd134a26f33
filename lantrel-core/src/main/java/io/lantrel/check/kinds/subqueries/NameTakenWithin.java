package io.lantrel.check.kinds.subqueries;

import io.lantrel.check.Kind;
import io.lantrel.check.suspicion.Blocks;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.tree.Value.ScalarQuery;
import java.util.List;
import java.util.Optional;

/**
 * A subquery for one value that joins the table of the row outside once more, under its name, and
 * shows nothing of it: the name stands for the table within, so that nothing connects the two, and
 * every row gets the same value (ISO/IEC 9075-2, 7.6).
 */
public final class NameTakenWithin implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    return subject.nodes(ScalarQuery.class).stream()
        .flatMap(
            scalar ->
                Blocks.of(scalar.query(), subject)
                    .filter(inner -> !inner.isCorrelated())
                    .flatMap(inner -> taken(inner, subject.block()))
                    .map(use -> suspicion(scalar, use))
                    .stream())
        .toList();
  }

  /** The table within that has name and rows of one outside, and is only there to be joined to. */
  private static Optional<TableUse> taken(QueryBlock inner, QueryBlock outer) {
    return inner.uses().stream()
        .filter(
            use ->
                outer.uses().stream()
                    .anyMatch(each -> each.isOfTable(use) && each.name().equals(use.name())))
        .filter(
            use ->
                inner.outputs().stream()
                    .noneMatch(each -> inner.mentioned(each.value()).contains(use)))
        .filter(
            use ->
                inner.conjuncts().stream()
                    .filter(each -> each.uses().contains(use))
                    .allMatch(each -> each.likeness().isPresent()))
        .filter(
            use ->
                inner.conjuncts().stream()
                    .flatMap(each -> each.likeness().stream())
                    .anyMatch(each -> each.of(use).isPresent()))
        .findFirst();
  }

  private static Suspicion suspicion(ScalarQuery scalar, TableUse taken) {
    return Suspicion.certain(
        Kind.UNCORRELATED_EXISTS,
        scalar.span(),
        Conclusion.warning(
            "In this subquery "
                + taken.name()
                + " is a "
                + taken.tableName()
                + " of its own, not that of the row outside: nothing connects the two, and every"
                + " row gets the same value. Leave "
                + taken.words()
                + " out of it, and keep the condition.",
            List.of("a name of FROM hides the same name outside"),
            List.of()));
  }
}
