package io.lantrel.check.suspicion;

import io.lantrel.check.Evidence;
import io.lantrel.check.Severity;
import io.lantrel.probe.Answers;
import io.lantrel.probe.Question;
import io.lantrel.sql.Edit;
import java.util.List;
import java.util.function.Function;

/**
 * What the answers to a suspicion amount to.
 *
 * @param severity how bad it is
 * @param message what happens to the rows, and what to do
 * @param questions what is asked for the evidence, once it is known that it will be told
 * @param evidence what shows it, with the answers to them
 * @param repairs edits to try, the best first
 */
public record Conclusion(
    Severity severity,
    String message,
    List<Question<?>> questions,
    Function<Answers, Evidence> evidence,
    List<List<Edit>> repairs) {
  public Conclusion {
    questions = List.copyOf(questions);
    repairs = repairs.stream().map(List::copyOf).toList();
  }

  /** One whose evidence is known. */
  public Conclusion(
      Severity severity, String message, Evidence evidence, List<List<Edit>> repairs) {
    this(severity, message, List.of(), answers -> evidence, repairs);
  }

  /** One whose evidence takes one more question. */
  public static <A> Conclusion asking(
      Severity severity,
      String message,
      Question<A> question,
      Function<A, Evidence> evidence,
      List<List<Edit>> repairs) {
    return new Conclusion(
        severity,
        message,
        List.of(question),
        answers -> evidence.apply(answers.to(question)),
        repairs);
  }
}
