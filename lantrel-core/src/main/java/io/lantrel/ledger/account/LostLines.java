package io.lantrel.ledger.account;

import io.lantrel.engine.NamedRow;
import io.lantrel.ledger.Cause;
import io.lantrel.probe.Answers;
import io.lantrel.probe.Question;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** The lines that a clause behind GROUP BY, or a set operation, takes away: why, and which. */
interface LostLines {

  /** What is asked before it is known whether there are any. */
  default List<Question<?>> first() {
    return List.of();
  }

  /**
   * Which they are.
   *
   * @param lost how many there are, more than none
   * @param most how many are named at most for each reason
   */
  List<Question<?>> names(long lost, int most, Answers first);

  /** Why, with the answers to both. */
  List<Cause> causes(long lost, Answers first, Answers names);

  /** One reason for all of them. */
  static List<Cause> one(
      String reason, long lost, @Nullable Question<List<NamedRow>> asked, Answers names) {
    Optional<List<NamedRow>> named = asked == null ? Optional.of(List.of()) : names.ifAny(asked);
    String untold = named.isPresent() ? "" : "; the database did not tell which";
    return List.of(new Cause(reason + untold, lost, named.orElse(List.of())));
  }
}
