package io.lantrel.check.kinds.subqueries;

import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.kinds.conditions.References;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.Conjunct.Equated;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.words.Words;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;

/**
 * A query in FROM that LIMIT cuts after its first row, joined as if it had one for each row: {@code
 * LEFT JOIN (SELECT … ORDER BY day DESC LIMIT 1) x ON x.station_id = s.id} finds the last reading
 * of all, for one station, and nothing for the others. LIMIT goes before the join (ISO/IEC 9075-2,
 * 7.17: a query in FROM is worked out by itself).
 */
public final class FirstOfAllJoined implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    if (subject.rows().isEmpty() || block.isOnlyAskedForARow()) {
      return List.of();
    }
    return block.steps().stream()
        .filter(step -> step.optional().size() == 1)
        .flatMap(step -> cut(step, subject).stream())
        .flatMap(cut -> cut.suspicion(subject).stream())
        .toList();
  }

  /** Where a condition asks for it, one row of all may be what is sought. */
  private static Optional<Cut> cut(JoinStep step, Subject subject) {
    QueryBlock block = subject.block();
    TableUse use = step.optional().iterator().next();
    if (block.filters().stream().anyMatch(each -> each.uses().contains(use))) {
      return Optional.empty();
    }
    return use.query()
        .filter(FirstOfAllJoined::isFirstOfAll)
        .flatMap(
            inner ->
                step.conjuncts().stream()
                    .flatMap(each -> each.equality().stream())
                    .filter(each -> each.of(use).isPresent())
                    .filter(each -> !each.left().use().equals(each.right().use()))
                    .flatMap(each -> cut(step, each, use, inner).stream())
                    .findFirst());
  }

  private static Optional<Cut> cut(JoinStep step, Equated pair, TableUse use, QueryBlock inner) {
    UseColumn joined = pair.of(use).orElseThrow();
    return inner
        .shownAt(joined.position())
        .filter(inner::isOwn)
        .filter(each -> !References.isKey(each))
        .map(each -> new Cut(step, use, joined, pair.other(joined), each, inner));
  }

  private static boolean isFirstOfAll(QueryBlock inner) {
    return inner.query().isCutAfterFirst()
        && !inner.isCorrelated()
        && !inner.isGrouped()
        && inner.select().distinctOn().isEmpty();
  }

  /**
   * One row of all, and by what it is joined.
   *
   * @param joined its column in the join
   * @param to what that is equal to
   * @param link the same column within it
   */
  private record Cut(
      JoinStep step,
      TableUse use,
      UseColumn joined,
      UseColumn to,
      UseColumn link,
      QueryBlock inner) {

    Optional<Suspicion> suspicion(Subject subject) {
      JoinedRows rows = subject.rows().orElseThrow();
      return subject.of(inner).rows().map(within -> suspicion(rows, within, subject));
    }

    private Suspicion suspicion(JoinedRows rows, JoinedRows within, Subject subject) {
      JoinedRows.Kept kept = within.kept(link.use());
      Question<Long> there =
          Question.figures(
              kept.relation(),
              List.of(Sql.countDistinct(within.column(kept.relation(), link))),
              answer -> answer.figure(0));
      JoinedRows.Kept met = rows.kept(to.use());
      Question<Long> alone =
          Question.figures(
              met.relation(),
              List.of(Sql.countIf(Sql.isNull(rows.column(met.relation(), joined)))),
              answer -> answer.figure(0));
      return new Suspicion(
          Kind.UNCORRELATED_EXISTS,
          step.place(),
          List.of(step.place()),
          List.of(there, alone),
          answers ->
              answers
                  .ifAny(alone)
                  .filter(rowsAlone -> rowsAlone > 0)
                  .flatMap(
                      rowsAlone ->
                          answers
                              .ifAny(there)
                              .filter(values -> values > 1)
                              .map(values -> conclude(values, rowsAlone, subject))));
    }

    private Conclusion conclude(long values, long alone, Subject subject) {
      String order =
          inner.query().orderBy().stream()
              .map(each -> subject.text(each))
              .collect(Collectors.joining(", "));
      String message =
          use.name()
              + " is one row of all, since LIMIT goes before the join, and not one for each "
              + to.written()
              + ": "
              + Words.rows(alone)
              + (alone == 1 ? " gets" : " get")
              + " none, though there are rows of "
              + Words.number(values)
              + " values of "
              + link.written()
              + ". Number them with ROW_NUMBER() OVER (PARTITION BY "
              + link.written()
              + (order.isEmpty() ? "" : " ORDER BY " + order)
              + ") in place of LIMIT, and join number 1.";
      return new Conclusion(
          Severity.WARNING,
          message,
          new Evidence(
              Map.of("rows without", alone, "values there", values),
              List.of(),
              List.of("LIMIT leaves one row before the join")),
          List.of());
    }
  }
}
