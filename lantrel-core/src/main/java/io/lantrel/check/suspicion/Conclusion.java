package io.lantrel.check.suspicion;

import io.lantrel.check.Evidence;
import io.lantrel.check.Severity;
import io.lantrel.probe.Answers;
import io.lantrel.probe.Question;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Span;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;

/**
 * What the answers to a suspicion amount to.
 *
 * @param severity how bad it is
 * @param message what happens to the rows, and what to do
 * @param questions what is asked for the evidence, once it is known that it will be told
 * @param evidence what shows it, with the answers to them
 * @param repairs edits to try, the best first
 * @param found where it is, if only the answers tell that
 */
public record Conclusion(
    Severity severity,
    String message,
    List<Question<?>> questions,
    Function<Answers, Evidence> evidence,
    List<List<Edit>> repairs,
    Optional<Span> found) {
  public Conclusion {
    questions = List.copyOf(questions);
    repairs = repairs.stream().map(List::copyOf).toList();
  }

  /** One whose place is known before. */
  public Conclusion(
      Severity severity,
      String message,
      List<Question<?>> questions,
      Function<Answers, Evidence> evidence,
      List<List<Edit>> repairs) {
    this(severity, message, questions, evidence, repairs, Optional.empty());
  }

  /** The same at a place that the answers told. */
  public Conclusion at(Span place) {
    return new Conclusion(severity, message, questions, evidence, repairs, Optional.of(place));
  }

  /** The same with another severity. */
  public Conclusion as(Severity other) {
    return new Conclusion(other, message, questions, evidence, repairs, found);
  }

  /** One whose evidence is known. */
  public Conclusion(
      Severity severity, String message, Evidence evidence, List<List<Edit>> repairs) {
    this(severity, message, List.of(), answers -> evidence, repairs);
  }

  /** A warning with facts alone. */
  public static Conclusion warning(String message, List<String> facts, List<List<Edit>> repairs) {
    return new Conclusion(Severity.WARNING, message, Evidence.facts(facts), repairs);
  }

  /** A note with facts alone. */
  public static Conclusion note(String message, List<String> facts, List<List<Edit>> repairs) {
    return new Conclusion(Severity.NOTE, message, Evidence.facts(facts), repairs);
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
