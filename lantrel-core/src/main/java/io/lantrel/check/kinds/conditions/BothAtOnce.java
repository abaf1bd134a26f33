package io.lantrel.check.kinds.conditions;

import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.BaseColumn;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Relation;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

/**
 * One row of a table joined for two references at once, as {@code p.id = l.from_id AND p.id =
 * l.to_id}: it cannot be both, where these name two. Where some name the same twice, or an outer
 * join keeps the others, that may be what is sought.
 */
public final class BothAtOnce implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    return subject.rows().stream()
        .flatMap(
            rows ->
                subject.block().steps().stream()
                    .filter(step -> !step.kind().isOuter())
                    .flatMap(step -> of(step, subject.block()).stream())
                    .map(each -> each.suspicion(rows)))
        .toList();
  }

  private static Optional<Both> of(JoinStep step, QueryBlock block) {
    return Stream.concat(step.right().stream(), step.left().stream())
        .flatMap(use -> of(use, step, block).stream())
        .findFirst();
  }

  private static Optional<Both> of(TableUse use, JoinStep step, QueryBlock block) {
    Set<UseColumn> ends = new LinkedHashSet<>();
    List<Conjunct> conjuncts = new ArrayList<>();
    for (Conjunct each : step.conjuncts()) {
      each.equality()
          .filter(pair -> pair.of(use).filter(References::isKey).isPresent())
          .map(pair -> pair.other(pair.of(use).orElseThrow()))
          .filter(end -> refers(end, use, block))
          .filter(ends::add)
          .ifPresent(end -> conjuncts.add(each));
    }
    List<UseColumn> two = List.copyOf(ends);
    return two.size() == 2 && two.get(0).use().equals(two.get(1).use())
        ? Optional.of(new Both(step, use, two.get(0), two.get(1), conjuncts.get(1)))
        : Optional.empty();
  }

  private static boolean refers(UseColumn end, TableUse use, QueryBlock block) {
    return use.table()
        .filter(table -> BaseColumn.referred(end, block.catalog()).contains(table))
        .isPresent();
  }

  /**
   * One row for two.
   *
   * @param second the condition that comes second
   */
  private record Both(
      JoinStep step, TableUse use, UseColumn one, UseColumn other, Conjunct second) {

    Suspicion suspicion(JoinedRows rows) {
      FromItem.Join join = step.join();
      Relation side = rows.side(step.left().contains(one.use()) ? join.left() : join.right());
      Expression alike = Sql.equal(rows.column(side, one), rows.column(side, other));
      Question<List<Long>> question =
          Question.figures(
              side,
              List.of(Sql.countIf(alike), Sql.countIf(Sql.not(alike))),
              answer -> List.of(answer.figure(0), answer.figure(1)));
      return Suspicion.asking(
          Kind.NEVER_TRUE,
          second.span(),
          List.of(second.span(), step.place()),
          Optional.of(question),
          found ->
              found
                  .filter(each -> each.get(0) == 0 && each.get(1) > 0)
                  .map(each -> conclude(each.get(1))));
    }

    private Conclusion conclude(long unlike) {
      String row = use.rowWord();
      String message =
          use.name()
              + " is one "
              + row
              + ", and cannot be that of "
              + one.written()
              + " and that of "
              + other.written()
              + " at once, which are never the same here: "
              + Words.rows(unlike)
              + (unlike == 1 ? " has" : " have")
              + " two. Join "
              + use.tableName()
              + " once for each.";
      return new Conclusion(
          Severity.WARNING,
          message,
          new Evidence(
              Map.of("rows with two", unlike),
              List.of(),
              List.of(
                  one.written() + " and " + other.written() + " both refer to " + use.tableName())),
          List.of());
    }
  }
}
