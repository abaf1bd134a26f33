package io.lantrel;

import io.lantrel.draft.Drafter;
import io.lantrel.draft.Wish;
import io.lantrel.draft.WishException;
import io.lantrel.engine.DatabaseException;
import java.util.Optional;

/** Finds the condition of a wish because of which the database refuses all of its draft. */
final class RefusedCondition {

  private final Lantrel lantrel;
  private final Drafter drafter;

  /**
   * @param drafter that wrote the draft
   */
  RefusedCondition(Lantrel lantrel, Drafter drafter) {
    this.lantrel = lantrel;
    this.drafter = drafter;
  }

  /** What is wrong with which condition; empty if the draft runs, or fails without it as well. */
  Optional<WishException> of(Wish wish) {
    Optional<String> failure = failure(wish);
    if (failure.isEmpty()) {
      return Optional.empty();
    }
    return wish.eachWithoutACondition().entrySet().stream()
        .filter(each -> failure(each.getValue()).isEmpty())
        .map(
            each ->
                new WishException(
                    "the condition \"" + each.getKey() + "\" does not run: " + failure.get()))
        .findFirst();
  }

  private Optional<String> failure(Wish wish) {
    try {
      lantrel.study(drafter.drafts(wish).get(0).sql()).result(1);
      return Optional.empty();
    } catch (DatabaseException failed) {
      return Optional.of(String.valueOf(failed.getMessage()));
    }
  }
}
