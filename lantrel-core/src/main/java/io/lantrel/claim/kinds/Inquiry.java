package io.lantrel.claim.kinds;

import io.lantrel.probe.Answers;
import io.lantrel.probe.Question;
import java.util.List;
import java.util.function.Function;

/**
 * How a claim is looked at in the rows at hand.
 *
 * @param questions what is asked
 * @param conclusion what the answers tell
 */
public record Inquiry(List<Question<?>> questions, Function<Answers, Outcome> conclusion) {
  public Inquiry {
    questions = List.copyOf(questions);
  }
}
