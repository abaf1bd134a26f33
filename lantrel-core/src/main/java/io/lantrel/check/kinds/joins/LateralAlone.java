package io.lantrel.check.kinds.joins;

import io.lantrel.check.Kind;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.Link;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.ResolvedQuery;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.words.Words;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * LATERAL before a query that looks at no row before it: the word says that it is about each of
 * them, and each gets the same.
 */
public final class LateralAlone implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    return subject.block().steps().stream()
        .filter(step -> step.right().size() == 1)
        .filter(step -> isLateral(step.right().get(0)) && looksNowhere(step, subject.block()))
        .map(step -> suspicion(step, subject))
        .toList();
  }

  private static boolean isLateral(TableUse use) {
    return use.item() instanceof FromItem.DerivedTable derived && derived.lateral();
  }

  /** Neither the query nor a condition of the block connects the two. */
  private static boolean looksNowhere(JoinStep step, QueryBlock block) {
    Set<TableUse> within = block.mentioned(step.right().get(0).item());
    boolean connected =
        block.conjuncts().stream()
            .anyMatch(
                each ->
                    each.uses().containsAll(step.right())
                        && each.uses().stream().anyMatch(step.left()::contains));
    return step.left().stream().noneMatch(within::contains) && !connected;
  }

  private static Suspicion suspicion(JoinStep step, Subject subject) {
    TableUse use = step.right().get(0);
    String left = Words.list(step.left().stream().map(TableUse::words).toList());
    Optional<Link> link = link(step, subject.block());
    String message =
        "LATERAL says that "
            + use.words()
            + " is looked up for each row of "
            + left
            + ", but it says nothing about that row: each gets the same. "
            + link.map(each -> "Connect the two within it: " + each.condition() + ".")
                .orElse("Connect the two within it, or leave LATERAL out if this is meant.");
    Conclusion conclusion =
        Conclusion.warning(
            message,
            link.map(each -> "the schema has " + each.reference().words()).stream().toList(),
            List.of());
    return new Suspicion(
        Kind.CROSS_PRODUCT,
        step.place(),
        List.of(step.place(), use.item().span()),
        List.of(),
        answers -> Optional.of(conclusion));
  }

  private static Optional<Link> link(JoinStep step, QueryBlock block) {
    return step.right().get(0).queryOfText().stream()
        .map(ResolvedQuery::parts)
        .flatMap(parts -> parts.stream().limit(1))
        .flatMap(inner -> inner.uses().stream())
        .flatMap(
            inner ->
                step.left().stream().flatMap(outer -> block.linksBetween(inner, outer).stream()))
        .findFirst();
  }
}
