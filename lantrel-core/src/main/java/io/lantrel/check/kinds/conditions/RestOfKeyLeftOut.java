package io.lantrel.check.kinds.conditions;

import io.lantrel.catalog.Key;
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
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.Conjunct.Equated;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Condition.Comparison;
import io.lantrel.sql.tree.Expression;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

/**
 * A table joined and shown by all of its key but one part, of which the query says nothing: a seat
 * meets each price that it ever had, a bed that of every season. Children listed along a reference
 * are no such case, unless they say again what the parent says, as its title in each language.
 */
public final class RestOfKeyLeftOut implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    if (subject.rows().isEmpty() || block.isOnlyAskedForARow()) {
      return List.of();
    }
    Set<UseColumn> oneSided = oneSided(block);
    Set<UseColumn> told = new HashSet<>(block.columnsSpokenOf());
    told.removeAll(oneSided);
    return block.steps().stream()
        .flatMap(step -> EquatedPart.in(step, block, told))
        .filter(part -> isMeant(part.untold(), part.key(), oneSided, block))
        .flatMap(
            part ->
                (block.isGrouped()
                        ? reckonedWith(part, oneSided, subject)
                        : leftOut(part, oneSided, block))
                    .stream())
        .limit(1)
        .map(each -> each.suspicion(subject.rows().orElseThrow()))
        .toList();
  }

  /**
   * The times that are compared once, in one direction, with a time of another row, and said
   * nothing else of: all prices before a sale, and not the one of that day.
   */
  private static Set<UseColumn> oneSided(QueryBlock block) {
    Set<UseColumn> found = new HashSet<>();
    Set<UseColumn> besides = new HashSet<>();
    block.outputs().forEach(each -> besides.addAll(block.columnsIn(each.value())));
    block.query().orderBy().forEach(each -> besides.addAll(block.columnsIn(each)));
    block.select().children().stream()
        .filter(each -> each != block.select().from() && each != block.select().where())
        .forEach(each -> besides.addAll(block.columnsIn(each)));
    for (Conjunct each : block.conjuncts()) {
      boolean ordered =
          each.condition() instanceof Comparison comparison
              && comparison.operator().isOrder()
              && each.uses().size() > 1;
      for (UseColumn column : block.columnsIn(each.condition())) {
        if (!ordered || !column.type().family().isOfTime() || !found.add(column)) {
          besides.add(column);
        }
      }
    }
    found.removeAll(besides);
    return found;
  }

  private static Optional<LeftOut> leftOut(
      EquatedPart part, Set<UseColumn> oneSided, QueryBlock block) {
    Set<TableUse> others = new LinkedHashSet<>();
    part.pairs().forEach(pair -> others.add(part.across(pair).use()));
    TableUse other = others.iterator().next();
    boolean alone =
        others.size() == 1
            && other.table().isPresent()
            && !other.isOfTable(part.use())
            && !other.keys().isEmpty();
    boolean along = part.pairs().stream().anyMatch(pair -> !block.linksAlong(pair).isEmpty());
    boolean meant =
        !along
            || part.pairs().stream().allMatch(pair -> isMeantOfTwin(part, pair, block))
            || saysAgain(part, other, block);
    return alone && meant
        ? Optional.of(new LeftOut(part, other, !along, oneSided.contains(part.untold())))
        : Optional.empty();
  }

  /**
   * A time of which nothing is said, where a total reckons each value of it with those of another
   * row: pieces times each price that there ever was. Or where all values of a period are put
   * together for a row that has a time of its own.
   */
  private static Optional<LeftOut> reckonedWith(
      EquatedPart part, Set<UseColumn> oneSided, Subject subject) {
    QueryBlock block = subject.block();
    TableUse use = part.use();
    if (!part.untold().type().family().isOfTime()) {
      return Optional.empty();
    }
    boolean limited = oneSided.contains(part.untold());
    Set<TableUse> fixed = block.determinedBy(Set.copyOf(use.columns()));
    return subject.nodes(FunctionCall.class).stream()
        .filter(call -> call.key().equals("sum") || call.key().equals("avg"))
        .map(block::mentioned)
        .filter(uses -> uses.contains(use))
        .flatMap(uses -> uses.size() > 1 || limited ? uses.stream() : withTime(use, block))
        .filter(other -> !other.equals(use) && !fixed.contains(other))
        .filter(other -> other.table().isPresent() && !other.keys().isEmpty())
        .findFirst()
        .map(other -> new LeftOut(part, other, false, limited));
  }

  /** The rows that groups are of, each with a time, if the use has a beginning and an end. */
  private static Stream<TableUse> withTime(TableUse use, QueryBlock block) {
    Set<UseColumn> grouped = block.groupColumns();
    return times(use) > 1
        ? block.determinedBy(grouped).stream()
            .filter(each -> times(each) > 0)
            .sorted(Comparator.comparing(TableUse::index))
        : Stream.empty();
  }

  private static long times(TableUse use) {
    return use.columns().stream().filter(each -> each.type().family().isOfTime()).count();
  }

  /**
   * Whether it is no list but the same said several times, as a title in each language: a text
   * tells the rows apart, and what is shown of them has a column of the same name beside the
   * parent's key.
   */
  private static boolean saysAgain(EquatedPart part, TableUse other, QueryBlock block) {
    return part.untold().type().family() == TypeFamily.TEXT
        && block.outputs().stream()
            .flatMap(each -> block.column(each.value()).stream())
            .filter(each -> each.use().equals(part.use()))
            .flatMap(each -> other.column(each.name()).stream())
            .anyMatch(each -> !References.isKey(each) && each.type().family() == TypeFamily.TEXT);
  }

  /**
   * Whether the same table is joined along the same reference again, and the part is said there.
   */
  private static boolean isMeantOfTwin(EquatedPart part, Equated pair, QueryBlock block) {
    UseColumn own = pair.of(part.use()).orElseThrow();
    List<Conjunct> conjuncts = block.conjuncts();
    return block.uses().stream()
        .filter(twin -> !twin.equals(part.use()) && twin.isOfTable(part.use()))
        .filter(
            twin ->
                conjuncts.stream()
                    .flatMap(each -> each.equality().stream())
                    .anyMatch(
                        each ->
                            each.of(twin).filter(it -> it.name().equals(own.name())).isPresent()
                                && each.other(each.of(twin).orElseThrow())
                                    .equals(part.across(pair))))
        .flatMap(twin -> twin.column(part.untold().name()).stream())
        .anyMatch(
            said ->
                conjuncts.stream()
                    .filter(each -> each.equality().isEmpty())
                    .anyMatch(each -> block.columnsIn(each.condition()).contains(said)));
  }

  /**
   * Whether nothing else of the block says which row is meant. Of a time: another time of the
   * table. Else something must be shown that depends on it, and no other table have it as well; and
   * what refers to a third table may be listed.
   */
  private static boolean isMeant(
      UseColumn untold, Key key, Set<UseColumn> oneSided, QueryBlock block) {
    TableUse use = untold.use();
    if (untold.type().family().isOfTime()) {
      return block.columnsIn(block.query()).stream()
          .filter(column -> column.use().equals(use) && !oneSided.contains(column))
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
   * @param part by what it is joined
   * @param other what it is joined to
   * @param listed whether it may be what is listed, and the other what is looked up for it
   * @param limited whether a comparison limits it on one side
   */
  private record LeftOut(EquatedPart part, TableUse other, boolean listed, boolean limited) {

    Suspicion suspicion(JoinedRows rows) {
      Question<Long> met = several(rows, other, part.rest(), List.of(part.untold()));
      Optional<Question<Long>> meeting =
          listed
              ? Optional.of(several(rows, part.use(), List.of(), keyOf(other)))
              : Optional.empty();
      return new Suspicion(
          Kind.PARTIAL_KEY,
          part.last().span(),
          List.of(part.last().span(), part.step().place()),
          Stream.concat(Stream.of(met), meeting.stream()).<Question<?>>map(each -> each).toList(),
          answers ->
              answers
                  .ifAny(met)
                  .filter(each -> each > 0)
                  .filter(each -> meeting.map(it -> answers.ifAny(it).orElse(0L) > 0).orElse(true))
                  .map(each -> conclude(each)));
    }

    private static List<UseColumn> keyOf(TableUse use) {
      return use.keys().get(0).columns().stream()
          .flatMap(name -> use.column(name).stream())
          .toList();
    }

    /** How many rows of a use, with what else tells them apart, meet several values of columns. */
    private static Question<Long> several(
        JoinedRows rows, TableUse of, List<UseColumn> with, List<UseColumn> values) {
      JoinedRows.Kept kept = rows.kept(of);
      Relation relation = kept.relation();
      List<Expression> by = new ArrayList<>(kept.identity());
      with.forEach(each -> by.add(rows.column(relation, each)));
      List<Expression> several =
          values.stream()
              .map(
                  each ->
                      Sql.greater(Sql.countDistinct(rows.column(relation, each)), Sql.number(1)))
              .toList();
      Expression there = Sql.greater(Sql.count(kept.identity().get(0)), Sql.number(0));
      return Question.groups(relation, by, Sql.all(List.of(there, Sql.any(several))));
    }

    private Conclusion conclude(long count) {
      TableUse use = part.use();
      return new Conclusion(
          Severity.WARNING,
          part.untold().written()
              + " tells "
              + Words.plural(use.rowWord())
              + " apart too, and "
              + (limited ? "a limit on one side picks no single one: " : "nothing is said of it: ")
              + Words.count(count, other.rowWord())
              + (count == 1 ? " comes" : " come")
              + " with several. "
              + (limited
                  ? "Say where it ends too, or take the nearest alone."
                  : "Say which " + part.untold().name() + " is meant, or show it."),
          new Evidence(
              Map.of("rows with several", count),
              List.of(),
              List.of("the key of " + use.tableName() + " is " + Words.list(part.key().columns()))),
          List.of());
    }
  }
}
