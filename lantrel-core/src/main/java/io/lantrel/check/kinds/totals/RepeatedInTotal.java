package io.lantrel.check.kinds.totals;

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
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

/**
 * SUM, AVG or COUNT over values of a row that a join repeats: within one group the same row is
 * counted more than once. MIN, MAX and DISTINCT do not mind.
 */
public final class RepeatedInTotal implements Check {

  private static final Set<String> MINDING = Set.of("sum", "avg", "count");

  @Override
  public List<Suspicion> suspect(Subject subject) {
    Optional<JoinedRows> rows = subject.rows();
    if (rows.isEmpty() || subject.block().steps().isEmpty()) {
      return List.of();
    }
    Map<TableUse, List<FunctionCall>> calls = new LinkedHashMap<>();
    calls(subject.block())
        .forEach(
            call ->
                onlyUse(call, subject.block())
                    .filter(use -> !isMeanOfOne(call, use))
                    .ifPresent(
                        use -> calls.computeIfAbsent(use, key -> new ArrayList<>()).add(call)));
    List<Suspicion> suspicions = new ArrayList<>();
    calls.forEach(
        (use, totalled) -> {
          List<JoinStep> repeating = repeating(use, subject.block());
          if (!repeating.isEmpty()) {
            RepeatedTotals totals = new RepeatedTotals(rows.get(), use, totalled);
            for (int i = 0; i < totalled.size(); i++) {
              suspicions.add(suspicion(i, totalled.get(i), use, repeating, totals, subject));
            }
          }
        });
    suspicions.sort(Comparator.comparingInt(each -> each.place().start()));
    return suspicions;
  }

  private static Stream<FunctionCall> calls(QueryBlock block) {
    Stream<Expression> values = block.outputs().stream().map(output -> output.value());
    return Stream.concat(values, Stream.ofNullable(block.select().having()))
        .flatMap(Aggregates::in)
        .filter(call -> MINDING.contains(call.key()))
        .filter(call -> !call.distinct() && !call.star() && call.arguments().size() == 1);
  }

  /** The one table use that the argument is about; of none or several nothing is claimed. */
  private static Optional<TableUse> onlyUse(FunctionCall call, QueryBlock block) {
    Set<TableUse> uses = block.mentioned(call.arguments().get(0));
    return uses.size() == 1 ? uses.stream().findFirst() : Optional.empty();
  }

  /** However often the only row of a table is counted, the mean is its value. */
  static boolean isMeanOfOne(FunctionCall call, TableUse use) {
    return call.key().equals("avg") && use.keys().stream().anyMatch(key -> key.columns().isEmpty());
  }

  /** The steps at which a row of a use can meet several partners, by the keys. */
  static List<JoinStep> repeating(TableUse use, QueryBlock block) {
    return block.steps().stream()
        .filter(
            step ->
                (step.left().contains(use) && !block.partnersOnTheRight(step).isSingle())
                    || (step.right().contains(use) && !block.partnersOnTheLeft(step).isSingle()))
        .toList();
  }

  private static Suspicion suspicion(
      int number,
      FunctionCall call,
      TableUse use,
      List<JoinStep> repeating,
      RepeatedTotals totals,
      Subject subject) {
    List<Span> about = new ArrayList<>(List.of(call.span()));
    repeating.forEach(step -> about.add(step.place()));
    return new Suspicion(
        Kind.REPEATED_IN_TOTAL,
        call.span(),
        about,
        List.of(totals.figures()),
        answers -> {
          RepeatedTotals.Figures found = answers.to(totals.figures()).get(number);
          String text = subject.source().at(call.span());
          return conclude(call, use, repeating, totals.worstGroups(number, text), found, subject);
        });
  }

  private static Optional<Conclusion> conclude(
      FunctionCall call,
      TableUse use,
      List<JoinStep> repeating,
      Question<List<String>> worst,
      RepeatedTotals.Figures found,
      Subject subject) {
    long counted = found.counted();
    long once = found.once();
    if (counted == once) {
      return Optional.empty();
    }
    String message =
        repeats(call, use, repeating, once, counted, subject) + advice(call, use, subject.block());
    Map<String, Long> figures = new LinkedHashMap<>();
    figures.put("counted", counted);
    figures.put("counted once each", once);
    figures.put("groups that differ", found.groups());
    return Optional.of(
        Conclusion.asking(
            Severity.WARNING,
            message,
            worst,
            facts -> new Evidence(figures, List.of(), facts),
            repairs(call, use, repeating, subject)));
  }

  /** What happens to the rows. */
  static String repeats(
      FunctionCall call,
      TableUse use,
      List<JoinStep> repeating,
      long rows,
      long counted,
      Subject subject) {
    String others =
        Words.list(
            repeating.stream()
                .flatMap(step -> (step.left().contains(use) ? step.right() : step.left()).stream())
                .map(TableUse::rowWord)
                .distinct()
                .toList());
    return subject.text(call)
        + " counts "
        + Words.one(use.rowWord())
        + " once for every "
        + others
        + " joined to it: "
        + Words.count(rows, use.rowWord())
        + " counted "
        + Words.number(counted)
        + " times. ";
  }

  private static String advice(FunctionCall call, TableUse use, QueryBlock block) {
    return isKey(call, use, block)
        ? "Count it once with DISTINCT."
        : "Take the total before joining, or put what repeats it into EXISTS.";
  }

  private static boolean isKey(FunctionCall call, TableUse use, QueryBlock block) {
    Optional<UseColumn> column = block.column(call.arguments().get(0));
    return call.key().equals("count")
        && column.isPresent()
        && use.keys().stream()
            .map(Key::columns)
            .anyMatch(key -> key.equals(List.of(column.get().name())));
  }

  /** DISTINCT in every count of a key that is repeated: not in one of them alone. */
  private static List<Edit> distinct(FunctionCall call, Subject subject) {
    QueryBlock block = subject.block();
    List<Edit> edits = new ArrayList<>();
    for (FunctionCall each : calls(block).distinct().toList()) {
      boolean concerned =
          each.equals(call)
              || onlyUse(each, block)
                  .filter(other -> isKey(each, other, block))
                  .filter(other -> isRepeatedLater(other, block))
                  .isPresent();
      if (concerned && !each.span().isNowhere()) {
        edits.add(Edit.insert(each.arguments().get(0).span().start(), "DISTINCT "));
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
      FunctionCall call, TableUse use, List<JoinStep> repeating, Subject subject) {
    List<List<Edit>> repairs = new ArrayList<>();
    if (isKey(call, use, subject.block())) {
      repairs.add(distinct(call, subject));
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
