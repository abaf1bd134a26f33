package io.lantrel.check.kinds.conditions;

import io.lantrel.catalog.Key;
import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.engine.SampleData;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Relation;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.Conjunct.Equated;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * A table that keeps what was valid when, joined and shown by all of its key but the time, of which
 * the query says nothing: a seat meets each price that it ever had. Children listed along a
 * reference are no such case.
 */
public final class TimeLeftOut implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    if (subject.rows().isEmpty() || block.isGrouped() || block.isOnlyAskedForARow()) {
      return List.of();
    }
    for (JoinStep step : block.steps()) {
      Optional<History> found =
          step.conjuncts().stream()
              .flatMap(each -> each.likeness().stream())
              .flatMap(pair -> List.of(pair.left(), pair.right()).stream())
              .map(UseColumn::use)
              .distinct()
              .flatMap(use -> history(use, step, subject).stream())
              .findFirst();
      if (found.isPresent()) {
        return List.of(found.get().suspicion(subject));
      }
    }
    return List.of();
  }

  private static Optional<History> history(TableUse use, JoinStep step, Subject subject) {
    QueryBlock block = subject.block();
    List<Conjunct> equated =
        step.conjuncts().stream()
            .filter(each -> each.equality().flatMap(pair -> pair.of(use)).isPresent())
            .toList();
    List<Equated> pairs = equated.stream().flatMap(each -> each.equality().stream()).toList();
    Set<TableUse> others = new LinkedHashSet<>();
    Set<UseColumn> fixed = new HashSet<>();
    for (Equated each : pairs) {
      fixed.add(each.of(use).orElseThrow());
      others.add(each.other(each.of(use).orElseThrow()).use());
    }
    boolean alone =
        use.table().isPresent()
            && use.keys().size() == 1
            && others.size() == 1
            && others.iterator().next().table().isPresent()
            && !others.iterator().next().isOfTable(use)
            && !others.iterator().next().keys().isEmpty()
            && pairs.stream().allMatch(each -> block.linksAlong(each).isEmpty());
    if (!alone) {
      return Optional.empty();
    }
    Key key = use.keys().get(0);
    List<UseColumn> left =
        key.columns().stream()
            .flatMap(name -> use.column(name).stream())
            .filter(column -> !fixed.contains(column))
            .toList();
    List<UseColumn> times =
        left.stream().filter(column -> column.type().family().isOfTime()).toList();
    boolean partly = times.size() == 1 && left.size() < key.columns().size();
    Set<UseColumn> told = block.columnsIn(block.query());
    boolean onlyTime =
        told.containsAll(left.stream().filter(each -> !times.contains(each)).toList());
    return partly && onlyTime && isUntold(use, subject)
        ? Optional.of(
            new History(
                use,
                others.iterator().next(),
                times.get(0),
                left.stream().filter(column -> !times.contains(column)).toList(),
                equated.get(equated.size() - 1),
                step))
        : Optional.empty();
  }

  /**
   * Whether the block mentions no time of the table: it may be meant by another one than the key's.
   */
  private static boolean isUntold(TableUse use, Subject subject) {
    return subject.block().columnsIn(subject.block().query()).stream()
        .filter(column -> column.use().equals(use))
        .noneMatch(column -> column.type().family().isOfTime());
  }

  /**
   * A table that keeps what was valid when.
   *
   * @param use the table use
   * @param other what it is joined to
   * @param time the time in its key
   * @param rest what else of its key is not equated
   */
  private record History(
      TableUse use,
      TableUse other,
      UseColumn time,
      List<UseColumn> rest,
      Conjunct conjunct,
      JoinStep step) {

    Suspicion suspicion(Subject subject) {
      Span place = conjunct.span();
      return Suspicion.asking(
          Kind.PARTIAL_KEY,
          place,
          List.of(place, step.place()),
          subject.rows().map(this::several),
          found -> found.filter(each -> each > 0).map(each -> conclude(each)));
    }

    /** How many rows of the other meet several that only the time tells apart. */
    private Question<Long> several(JoinedRows rows) {
      JoinedRows.Kept kept = rows.kept(other);
      Relation relation = kept.relation();
      List<Expression> by = new ArrayList<>(kept.identity());
      rest.forEach(each -> by.add(rows.column(relation, each)));
      String name = SampleData.RESERVED + "times";
      List<SelectItem> shown = List.of(Sql.as(Sql.countDistinct(rows.column(relation, time)), "n"));
      FromItem each =
          Sql.derived(
              relation.select(false, shown, Sql.isNotNull(kept.identity().get(0)), by, null), name);
      Query query =
          Query.of(
              Sql.select(
                  List.of(
                      Sql.as(Sql.countIf(Sql.greater(Sql.column(name, "n"), Sql.number(1))), "c0")),
                  each,
                  null));
      return Question.numbers(relation, query, 1, row -> row.figure(0));
    }

    private Conclusion conclude(long count) {
      return new Conclusion(
          Severity.WARNING,
          time.written()
              + " tells "
              + Words.plural(use.rowWord())
              + " apart too, and nothing is said of it: "
              + Words.count(count, other.rowWord())
              + (count == 1 ? " comes" : " come")
              + " with several. Say which "
              + time.name()
              + " is meant, or show it.",
          new Evidence(
              Map.of("rows with several", count),
              List.of(),
              List.of(
                  "the key of "
                      + use.tableName()
                      + " is "
                      + Words.list(use.keys().get(0).columns()))),
          List.of());
    }
  }
}
