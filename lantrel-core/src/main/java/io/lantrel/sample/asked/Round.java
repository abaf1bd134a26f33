package io.lantrel.sample.asked;

import io.lantrel.probe.Answers;
import io.lantrel.probe.Question;
import java.util.List;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/**
 * What is asked together, and what the answers tell.
 *
 * @param questions at least one, or what is read needs no answer
 * @param reader throws what {@link Answers#to} throws
 */
record Round(List<? extends Question<?>> questions, Function<Answers, Found> reader) {

  /**
   * What is known behind a round.
   *
   * @param picks rows to be taken; with no rows where the database has none
   * @param next what is to be asked then; null if all is known
   */
  record Found(List<Pick> picks, @Nullable Round next) {
    Found {
      picks = List.copyOf(picks);
    }

    static Found all(List<Pick> picks) {
      return new Found(picks, null);
    }
  }

  /** Asks for rows of one table, and takes them as they come. */
  static Round of(
      Question<List<List<@Nullable String>>> rows,
      Function<List<List<@Nullable String>>, List<Pick>> picks) {
    return new Round(List.of(rows), answers -> Found.all(picks.apply(answers.to(rows))));
  }
}
