package io.lantrel.check.kinds.joins;

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
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.tree.Condition.Between;
import io.lantrel.sql.tree.Condition.Comparison;
import io.lantrel.sql.tree.Condition.ComparisonOperator;
import io.lantrel.sql.tree.Expression;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

/**
 * A row looked up by a range, as the rate for a weight, where several have the same range at
 * different times, and the query says nothing of the time.
 */
public final class PeriodLeftOut implements Check {

  private static final Set<ComparisonOperator> EQUALITIES =
      Set.of(ComparisonOperator.EQUAL, ComparisonOperator.NOT_EQUAL);

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    if (subject.rows().isEmpty() || block.isOnlyAskedForARow()) {
      return List.of();
    }
    return block.steps().stream()
        .filter(step -> step.right().size() == 1)
        .flatMap(step -> suspicion(step, subject).stream())
        .limit(1)
        .toList();
  }

  private static Optional<Suspicion> suspicion(JoinStep step, Subject subject) {
    QueryBlock block = subject.block();
    TableUse looked = step.right().get(0);
    Set<UseColumn> ends = new HashSet<>();
    step.conjuncts().forEach(each -> ends(each, looked, block).forEach(ends::add));
    List<UseColumn> times =
        looked.columns().stream().filter(each -> each.type().family().isOfTime()).toList();
    Set<UseColumn> told = block.columnsSpokenOf();
    if (looked.table().isEmpty()
        || looked.keyColumns().size() != 1
        || ends.size() < 2
        || !arePeriod(times, looked)
        || times.stream().anyMatch(told::contains)) {
      return Optional.empty();
    }
    return Optional.of(
        Suspicion.counting(
            Kind.ROWS_REPEATED,
            step.place(),
            List.of(step.place()),
            several(step, looked, subject.rows().orElseThrow()),
            count -> conclude(looked, times, count)));
  }

  /** A beginning and an end, or what a key has: one time alone may say when a row was written. */
  private static boolean arePeriod(List<UseColumn> times, TableUse looked) {
    return times.size() > 1
        || times.stream()
            .anyMatch(
                each ->
                    looked.keys().stream().anyMatch(key -> key.columns().contains(each.name())));
  }

  /** How many rows on the other side, of those that meet WHERE, have several partners. */
  private static Question<Long> several(JoinStep step, TableUse looked, JoinedRows rows) {
    Set<TableUse> others = new LinkedHashSet<>();
    List<UseColumn> across = new ArrayList<>();
    for (Conjunct each : step.conjuncts()) {
      if (each.equality().isPresent()) {
        each.equality().get().of(looked).map(each.equality().get()::other).ifPresent(across::add);
      } else {
        others.addAll(each.uses());
      }
    }
    others.remove(looked);
    JoinedRows.Kept kept = rows.kept(others.iterator().next());
    List<Expression> by = new ArrayList<>(kept.identity());
    across.forEach(each -> by.add(rows.column(kept.relation(), each)));
    return Question.groups(
        kept.relation(),
        by,
        Sql.greater(
            Sql.countDistinct(rows.column(kept.relation(), looked.keyColumns().get(0))),
            Sql.number(1)));
  }

  /** The columns of a use that a condition takes for the ends of a range. */
  private static Stream<UseColumn> ends(Conjunct conjunct, TableUse looked, QueryBlock block) {
    if (conjunct.uses().size() < 2) {
      return Stream.of();
    }
    Stream<Expression> values = Stream.of();
    if (conjunct.condition() instanceof Between between && !between.negated()) {
      values = Stream.of(between.low(), between.high());
    } else if (conjunct.condition() instanceof Comparison comparison
        && !EQUALITIES.contains(comparison.operator())) {
      values = Stream.of(comparison.left(), comparison.right());
    }
    return values
        .flatMap(value -> block.column(value).stream())
        .filter(column -> column.use().equals(looked));
  }

  private static Conclusion conclude(TableUse looked, List<UseColumn> times, long count) {
    String names = Words.list(times.stream().map(UseColumn::written).toList());
    String message =
        Words.rows(count)
            + (count == 1 ? " meets" : " meet")
            + " several "
            + Words.plural(looked.rowWord())
            + " here, and nothing is said of "
            + names
            + ". Say which time is meant.";
    return new Conclusion(
        Severity.WARNING,
        message,
        new Evidence(
            Map.of("rows with several partners", count),
            List.of(),
            List.of("the join goes by a range, in which one is looked for")),
        List.of());
  }
}
