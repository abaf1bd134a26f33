package io.lantrel.check.kinds.conditions;

import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.UseColumn;
import io.lantrel.words.Words;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * A table that is looked up by a part of its key, along no reference, where a table that is joined
 * as well has the rest under the same name and nothing in the query speaks of it: a fare of the
 * route on that day, whichever class it is for, beside a booking that has a class.
 */
public final class NamesakeLeftOut implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    if (subject.rows().isEmpty() || block.isOnlyAskedForARow()) {
      return List.of();
    }
    return block.steps().stream()
        .flatMap(step -> EquatedPart.in(step, block))
        .flatMap(part -> leftOut(part, block).stream())
        .limit(1)
        .map(each -> each.suspicion(subject))
        .toList();
  }

  private static Optional<LeftOut> leftOut(EquatedPart part, QueryBlock block) {
    // Along a reference, or by the key of the other, these are its rows, and may be listed.
    boolean ofIts =
        part.pairs().stream()
            .anyMatch(
                each -> !block.linksAlong(each).isEmpty() || References.isKey(part.across(each)));
    UseColumn own = part.untold();
    List<UseColumn> namesakes =
        block.uses().stream()
            .filter(each -> each.table().isPresent() && !each.isOfTable(part.use()))
            .flatMap(each -> each.column(own.name()).stream())
            .filter(each -> each.type().family() == own.type().family())
            .filter(each -> !References.isKey(each))
            .toList();
    if (ofIts || namesakes.size() != 1) {
      return Optional.empty();
    }
    UseColumn other = namesakes.get(0);
    Conjunct last = part.last();
    JoinStep step = part.step();
    return Optional.of(new LeftOut(own, other, last, placeFor(other, step, last, block), step));
  }

  /** Behind which condition both are there: one of the join where the later one comes. */
  private static Conjunct placeFor(
      UseColumn other, JoinStep step, Conjunct last, QueryBlock block) {
    return step.left().contains(other.use()) || step.right().contains(other.use())
        ? last
        : block.steps().stream()
            .filter(each -> each.right().contains(other.use()))
            .flatMap(each -> each.conjuncts().stream())
            .reduce((first, next) -> next)
            .orElse(last);
  }

  /**
   * The rest of a key.
   *
   * @param own the column of it that nothing speaks of
   * @param other the one that is called like it
   * @param conjunct the last equality of the join
   * @param place behind which the rest can be written
   */
  record LeftOut(UseColumn own, UseColumn other, Conjunct conjunct, Conjunct place, JoinStep step) {

    Suspicion suspicion(Subject subject) {
      return Suspicion.asking(
          Kind.PARTIAL_KEY,
          conjunct.span(),
          List.of(conjunct.span(), step.place()),
          subject.rows().map(rows -> EquatedPart.unlike(own, other, rows)),
          found -> found.filter(each -> each > 0).map(each -> conclude(each, subject)));
    }

    private Conclusion conclude(long found, Subject subject) {
      String condition = own.written() + " = " + other.written();
      String message =
          subject.text(conjunct.condition())
              + " is only a part of the key of "
              + own.use().words()
              + ": "
              + Words.one(other.use().rowWord())
              + " also meets rows of another "
              + own.name()
              + ", in "
              + Words.rows(found)
              + ". Add "
              + condition
              + ".";
      boolean edited =
          place.origin() == Conjunct.Origin.ON || place.origin() == Conjunct.Origin.WHERE;
      return new Conclusion(
          Severity.WARNING,
          message,
          new Evidence(
              Map.of("rows of unlike ones", found),
              List.of(),
              List.of(
                  Words.one(own.use().rowWord())
                      + " is told apart by "
                      + Words.list(own.use().keys().get(0).columns()))),
          edited ? List.of(subject.edits().and(place.condition(), condition)) : List.of());
    }
  }
}
