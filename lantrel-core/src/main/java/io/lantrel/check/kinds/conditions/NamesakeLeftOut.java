package io.lantrel.check.kinds.conditions;

import io.lantrel.catalog.Key;
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
import io.lantrel.resolve.Conjunct.Equated;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.words.Words;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

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
        .flatMap(step -> equated(step).stream().flatMap(use -> leftOut(use, step, block).stream()))
        .limit(1)
        .map(each -> each.suspicion(subject))
        .toList();
  }

  /** The uses of which a step sets columns equal; what it adds comes first. */
  private static List<TableUse> equated(JoinStep step) {
    return step.conjuncts().stream()
        .flatMap(each -> each.equality().stream())
        .flatMap(each -> Stream.of(each.left().use(), each.right().use()))
        .distinct()
        .sorted(Comparator.comparing(use -> step.left().contains(use)))
        .toList();
  }

  private static Optional<LeftOut> leftOut(TableUse use, JoinStep step, QueryBlock block) {
    List<Conjunct> equated =
        step.conjuncts().stream()
            .filter(each -> each.equality().flatMap(pair -> pair.of(use)).isPresent())
            .toList();
    List<Equated> pairs = equated.stream().flatMap(each -> each.equality().stream()).toList();
    // Along a reference, or by the key of the other, these are its rows, and may be listed.
    boolean ofIts =
        pairs.stream()
            .anyMatch(
                each ->
                    !block.linksAlong(each).isEmpty()
                        || References.isKey(each.other(each.of(use).orElseThrow())));
    if (use.table().isEmpty() || use.keys().size() != 1 || pairs.isEmpty() || ofIts) {
      return Optional.empty();
    }
    Set<UseColumn> told = told(use, step, block);
    Key key = use.keys().get(0);
    List<UseColumn> parts =
        key.columns().stream().flatMap(name -> use.column(name).stream()).toList();
    boolean some = pairs.stream().anyMatch(each -> parts.contains(each.of(use).orElseThrow()));
    List<UseColumn> left = parts.stream().filter(each -> !told.contains(each)).toList();
    if (!some || left.size() != 1) {
      return Optional.empty();
    }
    UseColumn own = left.get(0);
    List<UseColumn> namesakes =
        block.uses().stream()
            .filter(each -> each.table().isPresent() && !each.isOfTable(use))
            .flatMap(each -> each.column(own.name()).stream())
            .filter(each -> each.type().family() == own.type().family())
            .filter(each -> !References.isKey(each))
            .toList();
    if (namesakes.size() != 1) {
      return Optional.empty();
    }
    UseColumn other = namesakes.get(0);
    Conjunct last = equated.get(equated.size() - 1);
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

  /** The columns of a use that the query shows, groups by, or sets a condition on. */
  private static Set<UseColumn> told(TableUse use, JoinStep step, QueryBlock block) {
    Set<UseColumn> told = new HashSet<>(block.columnsIn(block.query()));
    block.outputs().forEach(each -> told.addAll(block.columnsIn(each.value())));
    step.conjuncts().stream()
        .flatMap(each -> each.equality().stream())
        .flatMap(each -> Stream.of(each.left(), each.right()))
        .forEach(told::add);
    told.removeIf(each -> !each.use().equals(use));
    return told;
  }

  /**
   * The rest of a key.
   *
   * @param own the column of it that nothing speaks of
   * @param other the one that is called like it
   * @param conjunct the last equality of the join
   * @param place behind which the rest can be written
   */
  private record LeftOut(
      UseColumn own, UseColumn other, Conjunct conjunct, Conjunct place, JoinStep step) {

    Suspicion suspicion(Subject subject) {
      return Suspicion.asking(
          Kind.PARTIAL_KEY,
          conjunct.span(),
          List.of(conjunct.span(), step.place()),
          subject.rows().map(this::unlike),
          found -> found.filter(each -> each > 0).map(each -> conclude(each, subject)));
    }

    /** The joined rows in which the two are not equal. */
    private Question<Long> unlike(JoinedRows rows) {
      return Question.count(
          rows.all(),
          Sql.all(
              List.of(
                  rows.isJoined(),
                  Sql.not(
                      Sql.equal(rows.column(rows.all(), own), rows.column(rows.all(), other))))));
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
