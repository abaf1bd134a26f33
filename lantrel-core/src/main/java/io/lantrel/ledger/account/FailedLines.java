package io.lantrel.ledger.account;

import io.lantrel.engine.NamedRow;
import io.lantrel.ledger.Cause;
import io.lantrel.probe.Answers;
import io.lantrel.probe.FailedConditions;
import io.lantrel.probe.FailedConditions.Failed;
import io.lantrel.probe.Question;
import io.lantrel.probe.ResultLines;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** The groups that HAVING drops, or the rows that QUALIFY drops, condition by condition. */
final class FailedLines implements LostLines {

  private final FailedConditions conditions;
  private final Question<Failed> counted;
  private final List<Reason> reasons = new ArrayList<>();

  private record Reason(String words, long rows, @Nullable Question<List<NamedRow>> names) {}

  FailedLines(FailedConditions conditions) {
    this.conditions = conditions;
    this.counted = conditions.question();
  }

  @Override
  public List<Question<?>> first() {
    return List.of(counted);
  }

  @Override
  public List<Question<?>> names(long lost, int most, Answers first) {
    List<Question<?>> questions = new ArrayList<>();
    Optional<Failed> failed = first.ifAny(counted);
    List<String> texts = conditions.conditions();
    for (int i = 0; failed.isPresent() && i < texts.size(); i++) {
      add(texts.get(i) + " is false", failed.get().whenFalse(i), i, false, most);
      add(
          texts.get(i) + " is unknown, since a value in it is NULL",
          failed.get().whenUnknown(i),
          i,
          true,
          most);
    }
    for (Reason each : reasons) {
      if (each.names() != null) {
        questions.add(each.names());
      }
    }
    return questions;
  }

  private void add(String words, long rows, int condition, boolean isUnknown, int most) {
    if (rows > 0) {
      Optional<ResultLines> lines =
          most > 0 ? conditions.lines(condition, isUnknown) : Optional.empty();
      reasons.add(new Reason(words, rows, lines.map(each -> each.least(most)).orElse(null)));
    }
  }

  @Override
  public List<Cause> causes(long lost, Answers first, Answers names) {
    // An engine that cannot tell them apart, or rows that change, leave the figure as it is.
    if (reasons.stream().mapToLong(Reason::rows).sum() != lost) {
      return List.of();
    }
    return reasons.stream()
        .flatMap(each -> LostLines.one(each.words(), each.rows(), each.names(), names).stream())
        .toList();
  }
}
