package io.lantrel.check.suspicion;

import io.lantrel.check.Kind;
import io.lantrel.probe.Answers;
import io.lantrel.probe.Question;
import io.lantrel.sql.tree.Span;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import java.util.function.LongFunction;

/**
 * Something that may be wrong: what is to be known, and what to conclude from the answers.
 *
 * @param kind which mistake it would be
 * @param place where it would be
 * @param about the places of the joins, conditions and values that it is about: if an earlier
 *     finding blames one of them, this is what follows from it and is not told as well
 * @param questions what decides it
 * @param conclude concludes from the answers; empty if there is nothing wrong
 */
public record Suspicion(
    Kind kind,
    Span place,
    List<Span> about,
    List<Question<?>> questions,
    Function<Answers, Optional<Conclusion>> conclude) {
  public Suspicion {
    about = List.copyOf(about);
    questions = List.copyOf(questions);
  }

  /** One that one question decides; without rows it is concluded from nothing. */
  public static <A> Suspicion asking(
      Kind kind,
      Span place,
      List<Span> about,
      Optional<Question<A>> question,
      Function<Optional<A>, Optional<Conclusion>> conclude) {
    return new Suspicion(
        kind,
        place,
        about,
        List.copyOf(question.stream().toList()),
        answers -> conclude.apply(question.flatMap(answers::ifAny)));
  }

  /** One that is, if a question counts anything; unknown without rows, and then not told. */
  public static Suspicion counting(
      Kind kind,
      Span place,
      List<Span> about,
      Question<Long> question,
      LongFunction<Conclusion> conclude) {
    return asking(
        kind,
        place,
        about,
        Optional.of(question),
        count -> count.filter(rows -> rows > 0).map(conclude::apply));
  }

  /** One that needs no database. */
  public static Suspicion certain(Kind kind, Span place, Conclusion conclusion) {
    return new Suspicion(kind, place, List.of(), List.of(), answers -> Optional.of(conclusion));
  }
}
