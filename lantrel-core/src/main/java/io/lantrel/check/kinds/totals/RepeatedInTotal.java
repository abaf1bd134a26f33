package io.lantrel.check.kinds.totals;

import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.resolve.Aggregates;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Span;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.IntStream;
import java.util.stream.Stream;

/**
 * SUM, AVG or COUNT over values of a row that a join repeats: within one group the same row is
 * counted more than once. MIN, MAX and DISTINCT do not mind.
 */
public final class RepeatedInTotal implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    Optional<JoinedRows> rows = subject.rows();
    if (rows.isEmpty() || subject.block().steps().isEmpty()) {
      return List.of();
    }
    Map<TableUse, List<Totalled>> byUse = new LinkedHashMap<>();
    totals(subject.block())
        .filter(total -> !RateAtTime.isTotalled(total, subject.block()))
        .forEach(total -> byUse.computeIfAbsent(total.use(), use -> new ArrayList<>()).add(total));
    List<Suspicion> suspicions = new ArrayList<>();
    byUse.forEach(
        (use, totals) -> {
          List<JoinStep> repeating = repeating(use, subject.block());
          if (!repeating.isEmpty()) {
            RepeatedTotals asked = new RepeatedTotals(rows.get(), use, totals);
            for (int i = 0; i < totals.size(); i++) {
              suspicions.add(suspicion(i, totals, repeating, asked, subject));
            }
          }
        });
    suspicions.sort(Comparator.comparingInt(each -> each.place().start()));
    return suspicions;
  }

  private static Stream<Totalled> totals(QueryBlock block) {
    Stream<Expression> values = block.outputs().stream().map(output -> output.value());
    Stream<Totalled> ofValues =
        Stream.concat(values, Stream.ofNullable(block.select().having()))
            .flatMap(Aggregates::in)
            .filter(call -> !call.distinct())
            .flatMap(call -> Totalled.of(call, block).stream());
    return Stream.concat(
        ofValues,
        block.outputs().stream()
            .flatMap(
                each ->
                    Stream.concat(
                        Totalled.ofHeading(each, block).stream()
                            .filter(total -> total.call().over() == null),
                        ShareOfTable.in(each, block))));
  }

  /** The steps at which a row of a use can meet several partners, by the keys. */
  static List<JoinStep> repeating(TableUse use, QueryBlock block) {
    if (Totalled.decidedBy(use, block).containsAll(block.uses())) {
      return List.of();
    }
    return block.steps().stream()
        .filter(
            step ->
                (step.left().contains(use) && !block.partnersOnTheRight(step).isSingle())
                    || (step.right().contains(use) && !block.partnersOnTheLeft(step).isSingle()))
        .toList();
  }

  private static Suspicion suspicion(
      int number,
      List<Totalled> all,
      List<JoinStep> repeating,
      RepeatedTotals totals,
      Subject subject) {
    Totalled total = all.get(number);
    FunctionCall call = total.call();
    List<Span> about = new ArrayList<>(List.of(call.span()));
    repeating.forEach(step -> about.add(step.place()));
    return new Suspicion(
        Kind.REPEATED_IN_TOTAL,
        call.span(),
        about,
        List.of(totals.figures()),
        answers -> {
          List<RepeatedTotals.Figures> figures = answers.to(totals.figures());
          RepeatedTotals.Figures found = figures.get(number);
          if (found.counted() == found.once()) {
            return found.once() > 0
                    && !isTold(all.subList(0, number), figures)
                    && mayRepeat(total, repeating, subject.block())
                ? Optional.of(byChance(total, repeating, found.once(), subject))
                : Optional.empty();
          }
          String text = subject.source().at(call.span());
          return Optional.of(
              conclude(total, repeating, totals.worstGroups(number, text), found, subject));
        });
  }

  /** Whether one of the totals before it speaks for all that the same joins may repeat. */
  private static boolean isTold(List<Totalled> before, List<RepeatedTotals.Figures> figures) {
    return IntStream.range(0, before.size())
        .anyMatch(each -> !before.get(each).isList() && figures.get(each).once() > 0);
  }

  private static Conclusion conclude(
      Totalled total,
      List<JoinStep> repeating,
      Question<List<String>> worst,
      RepeatedTotals.Figures found,
      Subject subject) {
    long counted = found.counted();
    long once = found.once();
    String message =
        repeats(total, repeating, once, counted, subject) + advice(total, subject.block());
    Map<String, Long> figures = new LinkedHashMap<>();
    figures.put("counted", counted);
    figures.put("counted once each", once);
    figures.put("groups that differ", found.groups());
    return Conclusion.asking(
        Severity.WARNING,
        message,
        worst,
        facts -> new Evidence(figures, List.of(), facts),
        repairs(total, repeating, subject));
  }

  /**
   * Whether nothing but the rows at hand keeps it from repeating: a child beside another, joined by
   * references alone, of which no condition picks one and no group has only one.
   */
  private static boolean mayRepeat(Totalled total, List<JoinStep> repeating, QueryBlock block) {
    TableUse use = total.use();
    Set<TableUse> others = new HashSet<>();
    repeating.forEach(
        step -> others.addAll(step.left().contains(use) ? step.right() : step.left()));
    others.removeAll(Totalled.decidedBy(use, block));
    Set<UseColumn> grouped = block.groupColumns();
    Set<TableUse> fixed = block.determinedBy(grouped);
    return !total.isList()
        && use.table().isPresent()
        && others.stream().allMatch(each -> each.table().isPresent() && !fixed.contains(each))
        && block.filters().stream().noneMatch(each -> !Collections.disjoint(each.uses(), others))
        && repeating.stream()
            .flatMap(step -> step.conjuncts().stream())
            .allMatch(
                each ->
                    each.equality().filter(pair -> !block.linksAlong(pair).isEmpty()).isPresent());
  }

  private static Conclusion byChance(
      Totalled total, List<JoinStep> repeating, long once, Subject subject) {
    String row = total.use().rowWord();
    return new Conclusion(
        Severity.NOTE,
        subject.text(total.call())
            + " would count "
            + Words.one(row)
            + " once for every "
            + Words.list(others(total.use(), repeating, subject.block()))
            + " joined to it, though none of "
            + Words.count(once, row)
            + " meets several here. "
            + advice(total, subject.block()),
        new Evidence(Map.of("counted", once, "counted once each", once), List.of(), List.of()),
        repairs(total, repeating, subject));
  }

  /** What happens to the rows. */
  static String repeats(
      Totalled total, List<JoinStep> repeating, long rows, long counted, Subject subject) {
    String does = total.isList() ? "list" : "count";
    return subject.text(total.call())
        + (" " + does + "s ")
        + Words.one(total.use().rowWord())
        + " once for every "
        + Words.list(others(total.use(), repeating, subject.block()))
        + " joined to it: "
        + Words.count(rows, total.use().rowWord())
        + (" " + does + "ed ")
        + Words.number(counted)
        + " times. ";
  }

  /** What repeats a row: not what it refers to, nor what these rows refer to. */
  private static List<String> others(TableUse use, List<JoinStep> repeating, QueryBlock block) {
    List<TableUse> joined =
        repeating.stream()
            .flatMap(step -> (step.left().contains(use) ? step.right() : step.left()).stream())
            .distinct()
            .toList();
    Set<TableUse> decided = Totalled.decidedBy(use, block);
    Map<TableUse, Set<TableUse>> decides = new LinkedHashMap<>();
    joined.stream()
        .filter(other -> !decided.contains(other))
        .forEach(other -> decides.put(other, Totalled.decidedBy(other, block)));
    Set<TableUse> dependent = new HashSet<>();
    decides.forEach(
        (one, all) ->
            all.stream()
                .filter(other -> !decides.getOrDefault(other, Set.of(one)).contains(one))
                .forEach(dependent::add));
    List<String> several =
        decides.keySet().stream()
            .filter(other -> !dependent.contains(other))
            .map(TableUse::rowWord)
            .distinct()
            .toList();
    return several.isEmpty() ? joined.stream().map(TableUse::rowWord).distinct().toList() : several;
  }

  private static String advice(Totalled total, QueryBlock block) {
    if (isKey(total, block)) {
      return "Count it once with DISTINCT.";
    }
    String what = total.isList() ? "list" : "total";
    return "Take the " + what + " before joining, or put what repeats it into EXISTS.";
  }

  /** Whether it counts the rows of a table by its key, or as what a heading says. */
  private static boolean isKey(Totalled total, QueryBlock block) {
    return total.call().key().equals("count")
        && (total.call().star()
            ? key(total).isPresent()
            : block
                .column(total.value())
                .filter(
                    column ->
                        total.use().keys().stream()
                            .anyMatch(key -> key.columns().equals(List.of(column.name()))))
                .isPresent());
  }

  /** A key of one column. */
  private static Optional<UseColumn> key(Totalled total) {
    return total.use().keys().stream()
        .filter(key -> key.columns().size() == 1)
        .findFirst()
        .flatMap(key -> total.use().column(key.columns().get(0)));
  }

  /** DISTINCT in every count of a key that is repeated: not in one of them alone. */
  private static List<Edit> distinct(Totalled counted, Subject subject) {
    QueryBlock block = subject.block();
    List<Edit> edits = new ArrayList<>();
    for (Totalled each : totals(block).distinct().toList()) {
      FunctionCall call = each.call();
      boolean concerned =
          call.equals(counted.call()) || (isKey(each, block) && isRepeatedLater(each.use(), block));
      if (concerned && call.star()) {
        String column = key(each).orElseThrow().written();
        String count = subject.edits().keyword("COUNT") + "(DISTINCT " + column + ")";
        edits.add(new Edit(call.span(), count));
      } else if (concerned && !call.span().isNowhere()) {
        edits.add(Edit.insert(call.arguments().get(0).span().start(), "DISTINCT "));
      }
    }
    return edits;
  }

  /** Whether a join behind it gives its rows several partners. */
  private static boolean isRepeatedLater(TableUse use, QueryBlock block) {
    return repeating(use, block).stream().anyMatch(step -> step.left().contains(use));
  }

  /** Every table of which there are several rows, joined as its totals: none repeats another. */
  private static Optional<List<Edit>> allTotals(Subject subject) {
    QueryBlock block = subject.block();
    List<Edit> all = new ArrayList<>();
    for (JoinStep step : block.steps()) {
      if (!block.partnersOnTheRight(step).isSingle()) {
        Optional<List<Edit>> edits = new TotalsBeforeJoin(step, subject).edits();
        if (edits.isEmpty()) {
          return Optional.empty();
        }
        all.addAll(edits.get());
      }
    }
    return Edit.areApart(all) ? Optional.of(all) : Optional.empty();
  }

  private static List<List<Edit>> repairs(
      Totalled total, List<JoinStep> repeating, Subject subject) {
    TableUse use = total.use();
    List<List<Edit>> repairs = new ArrayList<>();
    if (isKey(total, subject.block())) {
      repairs.add(distinct(total, subject));
    }
    if (repeating.size() == 1) {
      new IdleJoin(repeating.get(0), use, subject).removal().ifPresent(repairs::add);
      if (repeating.get(0).left().contains(use)) {
        new TotalsBeforeJoin(repeating.get(0), subject).edits().ifPresent(repairs::add);
        allTotals(subject).ifPresent(repairs::add);
      }
    }
    return repairs;
  }
}
