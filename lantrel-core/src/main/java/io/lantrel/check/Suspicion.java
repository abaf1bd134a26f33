package io.lantrel.check;

import io.lantrel.engine.Rows;
import io.lantrel.resolve.JoinStep;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.Span;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;

/**
 * Something that may be wrong: what to ask, and what to conclude from the answers.
 *
 * @param kind which mistake it would be
 * @param place where it would be
 * @param steps the join steps that it is about: if an earlier finding blames one of them, this is
 *     what follows from it and is not told as well
 * @param conclude asks what decides it, and concludes; empty if there is nothing wrong
 */
public record Suspicion(
    Kind kind, Span place, List<JoinStep> steps, Function<Asking, Optional<Conclusion>> conclude) {
  public Suspicion {
    steps = List.copyOf(steps);
  }

  /** One that needs no database. */
  public static Suspicion certain(Kind kind, Span place, Conclusion conclusion) {
    return new Suspicion(kind, place, List.of(), asking -> Optional.of(conclusion));
  }

  /** Puts a probe to the database. */
  @FunctionalInterface
  public interface Asking {

    /**
     * The answer.
     *
     * @throws io.lantrel.engine.DatabaseException if the database does not give one
     */
    Rows ask(Query probe);
  }
}
