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
 * A table joined and shown by all of its key but one part, of which the query says nothing: a seat
 * meets each price that it ever had, a bed that of every season. Children listed along a reference
 * are no such case.
 */
public final class RestOfKeyLeftOut implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    if (subject.rows().isEmpty() || block.isGrouped() || block.isOnlyAskedForARow()) {
      return List.of();
    }
    for (JoinStep step : block.steps()) {
      Optional<Part> found =
          step.conjuncts().stream()
              .flatMap(each -> each.likeness().stream())
              .flatMap(pair -> List.of(pair.left(), pair.right()).stream())
              .map(UseColumn::use)
              .distinct()
              .flatMap(use -> part(use, step, subject).stream())
              .findFirst();
      if (found.isPresent()) {
        return List.of(found.get().suspicion(subject));
      }
    }
    return List.of();
  }

  private static Optional<Part> part(TableUse use, JoinStep step, Subject subject) {
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
    Set<UseColumn> told = new HashSet<>(block.columnsIn(block.query()));
    block.outputs().forEach(each -> told.addAll(block.columnsIn(each.value())));
    List<UseColumn> untold = left.stream().filter(each -> !told.contains(each)).toList();
    boolean partly = untold.size() == 1 && left.size() < key.columns().size();
    return partly && isMeant(untold.get(0), key, block)
        ? Optional.of(
            new Part(
                use,
                others.iterator().next(),
                untold.get(0),
                left.stream().filter(column -> !untold.contains(column)).toList(),
                equated.get(equated.size() - 1),
                step))
        : Optional.empty();
  }

  /**
   * Whether nothing else of the block says which row is meant. Of a time: another time of the
   * table. Else something must be shown that depends on it, and no other table have it as well; and
   * what refers to a third table may be listed.
   */
  private static boolean isMeant(UseColumn untold, Key key, QueryBlock block) {
    TableUse use = untold.use();
    if (untold.type().family().isOfTime()) {
      return block.columnsIn(block.query()).stream()
          .filter(column -> column.use().equals(use))
          .noneMatch(column -> column.type().family().isOfTime());
    }
    return References.targets(untold, block.catalog()).isEmpty()
        && block.outputs().stream()
            .flatMap(each -> block.columnsIn(each.value()).stream())
            .anyMatch(each -> each.use().equals(use) && !key.columns().contains(each.name()))
        && block.uses().stream()
            .noneMatch(each -> !each.isOfTable(use) && each.column(untold.name()).isPresent());
  }

  /**
   * A table of which several rows are met.
   *
   * @param use the table use
   * @param other what it is joined to
   * @param part what of its key nothing is said of
   * @param rest what else of its key is not equated
   */
  private record Part(
      TableUse use,
      TableUse other,
      UseColumn part,
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

    /** How many rows of the other meet several that only the part tells apart. */
    private Question<Long> several(JoinedRows rows) {
      JoinedRows.Kept kept = rows.kept(other);
      Relation relation = kept.relation();
      List<Expression> by = new ArrayList<>(kept.identity());
      rest.forEach(each -> by.add(rows.column(relation, each)));
      String name = SampleData.RESERVED + "parts";
      List<SelectItem> shown = List.of(Sql.as(Sql.countDistinct(rows.column(relation, part)), "n"));
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
          part.written()
              + " tells "
              + Words.plural(use.rowWord())
              + " apart too, and nothing is said of it: "
              + Words.count(count, other.rowWord())
              + (count == 1 ? " comes" : " come")
              + " with several. Say which "
              + part.name()
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
