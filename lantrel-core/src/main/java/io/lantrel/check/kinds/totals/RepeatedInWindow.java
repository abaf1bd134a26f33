package io.lantrel.check.kinds.totals;

import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Span;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * What {@link RepeatedInTotal} is for groups, for windows; and SUM(DISTINCT …), by which people try
 * to undo it: it adds each value once, not each row.
 */
public final class RepeatedInWindow implements Check {

  private static final Set<String> MINDING = Set.of("sum", "avg", "count");

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    List<Suspicion> suspicions = new ArrayList<>();
    if (block.steps().isEmpty() || subject.rows().isEmpty()) {
      return suspicions;
    }
    for (FunctionCall call : subject.nodes(FunctionCall.class)) {
      boolean total = MINDING.contains(call.key()) && call.arguments().size() == 1 && !call.star();
      Set<TableUse> uses = total ? block.mentioned(call.arguments().get(0)) : Set.of();
      if (uses.size() == 1) {
        TableUse use = uses.iterator().next();
        List<JoinStep> repeating =
            RepeatedInTotal.isMeanOfOne(call, use)
                ? List.of()
                : RepeatedInTotal.repeating(use, block);
        if (!repeating.isEmpty() && call.over() != null && !call.distinct()) {
          suspicions.add(window(call, use, repeating, subject));
        }
        boolean undone = !repeating.isEmpty() && call.over() == null && call.distinct();
        if (undone && !call.key().equals("count")) {
          suspicions.add(distinct(call, use, subject));
        }
      }
    }
    return suspicions;
  }

  private static Suspicion window(
      FunctionCall call, TableUse use, List<JoinStep> repeating, Subject subject) {
    List<Span> about = new ArrayList<>(List.of(call.span()));
    repeating.forEach(step -> about.add(step.place()));
    var counts = RowCounts.question(subject.rows().orElseThrow(), use, call);
    return new Suspicion(
        Kind.REPEATED_IN_TOTAL,
        call.span(),
        about,
        List.of(counts),
        answers ->
            answers
                .ifAny(counts)
                .filter(each -> each.counted() > each.rows())
                .map(each -> repeated(call, use, repeating, each, subject)));
  }

  private static Conclusion repeated(
      FunctionCall call,
      TableUse use,
      List<JoinStep> repeating,
      RowCounts counts,
      Subject subject) {
    String message =
        RepeatedInTotal.repeats(call, use, repeating, counts.rows(), counts.counted(), subject)
            + "Take the total before joining.";
    return new Conclusion(
        Severity.WARNING,
        message,
        new Evidence(
            Map.of("counted", counts.counted(), "counted once each", counts.rows()),
            List.of(),
            List.of("a row of " + use.words() + " comes several times")),
        List.of());
  }

  private static Suspicion distinct(FunctionCall call, TableUse use, Subject subject) {
    var counts = RowCounts.question(subject.rows().orElseThrow(), use, call);
    return new Suspicion(
        Kind.DISTINCT_HIDES_REPEATS,
        call.span(),
        List.of(call.span()),
        List.of(counts),
        answers ->
            answers
                .ifAny(counts)
                .filter(each -> each.values() < each.rows())
                .map(
                    each ->
                        new Conclusion(
                            Severity.WARNING,
                            subject.text(call)
                                + " takes each value once, not each "
                                + use.rowWord()
                                + ": "
                                + Words.count(each.rows(), use.rowWord())
                                + " have "
                                + Words.count(each.values(), "different value")
                                + ", so equal ones are left out. Take the total before joining.",
                            new Evidence(
                                Map.of("rows", each.rows(), "different values", each.values()),
                                List.of(),
                                List.of("several rows of " + use.words() + " have one value")),
                            List.of())));
  }
}
