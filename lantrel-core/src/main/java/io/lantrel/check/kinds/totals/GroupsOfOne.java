package io.lantrel.check.kinds.totals;

import io.lantrel.catalog.TypeFamily;
import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Relation;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.Aggregates;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.tree.Call;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Span;
import io.lantrel.words.Words;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * GROUP BY over what tells all rows apart, by the keys: each group has one row, and its totals are
 * the values of that row. MIN and MAX may be there for an engine that wants an aggregate; COUNT,
 * SUM and AVG are there to put rows together.
 */
public final class GroupsOfOne implements Check {

  private static final Set<String> TOTALS = Set.of("count", "sum", "avg");

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    List<Expression> written = block.select().groupBy();
    Optional<FunctionCall> total = total(block);
    boolean plain =
        !written.isEmpty()
            && written.stream().noneMatch(Call.Grouping.class::isInstance)
            && written.stream().noneMatch(each -> each.span().isNowhere())
            && block.select().having() == null
            && !block.repeatsRows();
    if (!plain || total.isEmpty()) {
      return List.of();
    }
    Span last = written.get(written.size() - 1).span();
    Span place = new Span(written.get(0).span().start(), last.end());
    if (!tellsAllApart(block.groupedBy(), block)) {
      return moment(block)
          .flatMap(each -> subject.rows().map(rows -> ofMoments(each, place, rows)))
          .stream()
          .toList();
    }
    return List.of(Suspicion.certain(Kind.GROUPS_OF_ONE, place, conclude(total.get(), subject)));
  }

  /** The moment, with a time of day, that the rows of one table are grouped by alone. */
  private static Optional<UseColumn> moment(QueryBlock block) {
    return block.uses().size() == 1 && block.groupedBy().size() == 1 && !block.isCorrelated()
        ? block
            .column(block.groupedBy().get(0))
            .filter(block::isOwn)
            .filter(each -> each.type().family() == TypeFamily.TIMESTAMP)
        : Optional.empty();
  }

  /** No key keeps moments apart, but the rows tell whether two ever share one. */
  private static Suspicion ofMoments(UseColumn moment, Span place, JoinedRows rows) {
    Relation kept = rows.kept(moment.use()).relation();
    Expression value = rows.column(kept, moment);
    Question<Boolean> apart =
        Question.figures(
            kept,
            List.of(Sql.count(value), Sql.countDistinct(value)),
            row -> row.figure(0) > 1 && row.figure(0) == row.figure(1));
    return Suspicion.asking(
        Kind.GROUPS_OF_ONE,
        place,
        List.of(place),
        Optional.of(apart),
        found ->
            found
                .filter(each -> each)
                .map(
                    each ->
                        Conclusion.note(
                            "Each group is one row: no two "
                                + Words.plural(moment.use().rowWord())
                                + " share "
                                + moment.written()
                                + ", which has a time of day. Group by its day, or by what several"
                                + " share.",
                            List.of("all values of " + moment.written() + " are different"),
                            List.of())));
  }

  /** A total of all rows of a group; those of some rows can be columns of a cross table. */
  private static Optional<FunctionCall> total(QueryBlock block) {
    return block.outputs().stream()
        .flatMap(output -> Aggregates.in(output.value()))
        .filter(call -> TOTALS.contains(call.key()) && call.over() == null)
        .filter(call -> call.filter() == null && !call.span().isNowhere())
        .filter(call -> call.star() || isPlain(call, block))
        .findFirst();
  }

  /** Of what may be missing a COUNT tells whether it is there. */
  private static boolean isPlain(FunctionCall call, QueryBlock block) {
    return call.arguments().size() == 1
        && block
            .column(call.arguments().get(0))
            .filter(column -> block.stepsThatFill(column.use()).isEmpty())
            .isPresent();
  }

  private static boolean tellsAllApart(List<Expression> grouping, QueryBlock block) {
    Set<UseColumn> columns = new HashSet<>();
    grouping.forEach(each -> block.column(each).ifPresent(columns::add));
    Set<TableUse> determined = Set.copyOf(block.determinedBy(columns));
    return !block.uses().isEmpty() && determined.containsAll(block.uses());
  }

  private static Conclusion conclude(FunctionCall total, Subject subject) {
    QueryBlock block = subject.block();
    String row =
        block.uses().stream()
            .filter(use -> Totalled.decidedBy(use, block).containsAll(block.uses()))
            .findFirst()
            .map(TableUse::rowWord)
            .orElse("row");
    return new Conclusion(
        Severity.NOTE,
        "Each group is one row, since GROUP BY tells every "
            + row
            + " from the others: "
            + subject.text(total)
            + " puts nothing together. Group by what several rows share.",
        new Evidence(
            Map.of(),
            List.of(),
            List.of("the columns of GROUP BY hold a key of " + Words.one(row))),
        List.of());
  }
}
