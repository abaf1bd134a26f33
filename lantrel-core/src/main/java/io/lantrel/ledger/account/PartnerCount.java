package io.lantrel.ledger.account;

import io.lantrel.probe.Answers;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Sql;
import io.lantrel.probe.Unmatched;
import io.lantrel.resolve.JoinStep;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * How many of the rows that come to a step have a partner, in the way that is the least work: it is
 * known by an earlier test; or the rows that have any are grouped by their keys; or all rows are
 * looked at, each with its partners or with none.
 */
final class PartnerCount {

  private final Optional<Long> known;
  private final @Nullable Question<JoinedRows.Met> grouped;
  private final @Nullable Question<Long> alone;
  private final @Nullable Question<Long> pairs;
  private final boolean all;

  /**
   * @param step one that has a condition
   */
  PartnerCount(JoinedRows rows, JoinStep step) {
    all = rows.isComplete(step);
    known = rows.partnersFound(step);
    boolean asks = !all && known.isEmpty();
    boolean first = asks && rows.isFirst(step);
    grouped = first && rows.canRepeat(step) ? rows.repeated(step).met() : null;
    alone = asks && grouped == null ? Unmatched.ofTheLeft(rows, step).count() : null;
    pairs =
        first && grouped == null
            ? Question.count(rows.attempts(step), Sql.not(rows.isAlone(step)))
            : null;
  }

  /** Whether each row is known to have one. */
  boolean isOfAll() {
    return all;
  }

  /** Whether all rows, with their partners or with none, are looked at. */
  boolean looksAtAll() {
    return alone != null;
  }

  List<Question<?>> questions() {
    return Stream.<@Nullable Question<?>>of(grouped, alone, pairs)
        .flatMap(Stream::ofNullable)
        .<Question<?>>map(each -> each)
        .toList();
  }

  /**
   * What came of it.
   *
   * @param alone how many rows have none
   * @param pairs the others, each as often as it has partners
   * @param several how many have more than one, if that is known as well
   */
  record Counted(long alone, long pairs, OptionalLong several) {}

  /**
   * @param answers those to {@link #questions}
   * @param before how many rows come to the step
   */
  Counted read(Answers answers, long before) {
    if (grouped != null) {
      JoinedRows.Met met = answers.to(grouped);
      return new Counted(before - met.rows(), met.pairs(), OptionalLong.of(met.several()));
    }
    long missing = known.map(found -> before - found).orElse(0L);
    long lost = alone == null ? missing : answers.to(alone);
    return new Counted(
        lost, pairs == null ? before - lost : answers.to(pairs), OptionalLong.empty());
  }
}
