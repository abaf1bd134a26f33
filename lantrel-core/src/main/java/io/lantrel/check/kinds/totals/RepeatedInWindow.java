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
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Span;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;

/** What {@link RepeatedInTotal} is for groups, for windows. */
public final class RepeatedInWindow implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    List<Suspicion> suspicions = new ArrayList<>();
    if (block.steps().isEmpty() || subject.rows().isEmpty()) {
      return suspicions;
    }
    Stream.concat(
            subject.nodes(FunctionCall.class).stream()
                .flatMap(call -> Totalled.of(call, block).stream())
                .filter(total -> !total.isList()),
            block.outputs().stream().flatMap(each -> Totalled.ofHeading(each, block).stream()))
        .filter(total -> total.call().over() != null && !total.call().distinct())
        .forEach(
            total -> {
              List<JoinStep> repeating = RepeatedInTotal.repeating(total.use(), block);
              if (!repeating.isEmpty()) {
                suspicions.add(window(total, repeating, subject));
              }
            });
    return suspicions;
  }

  private static Suspicion window(Totalled total, List<JoinStep> repeating, Subject subject) {
    FunctionCall call = total.call();
    List<Span> about = new ArrayList<>(List.of(call.span()));
    repeating.forEach(step -> about.add(step.place()));
    var counts = RowCounts.question(subject.rows().orElseThrow(), total);
    return new Suspicion(
        Kind.REPEATED_IN_TOTAL,
        call.span(),
        about,
        List.of(counts),
        answers ->
            answers
                .ifAny(counts)
                .filter(each -> each.counted() > each.rows())
                .map(each -> repeated(total, repeating, each, subject)));
  }

  private static Conclusion repeated(
      Totalled total, List<JoinStep> repeating, RowCounts counts, Subject subject) {
    String message =
        RepeatedInTotal.repeats(total, repeating, counts.rows(), counts.counted(), subject)
            + "Take the total before joining.";
    return new Conclusion(
        Severity.WARNING,
        message,
        new Evidence(
            Map.of("counted", counts.counted(), "counted once each", counts.rows()),
            List.of(),
            List.of("a row of " + total.use().words() + " comes several times")),
        List.of());
  }
}
