package io.lantrel.ledger.account;

import io.lantrel.ledger.Ledger;
import io.lantrel.probe.Answers;
import io.lantrel.probe.Question;
import java.util.List;

/** What is asked about one query, round by round, and the account that comes of it. */
interface Account {

  List<Question<?>> first();

  default List<Question<?>> second(Answers first) {
    return List.of();
  }

  default List<Question<?>> third(Answers second) {
    return List.of();
  }

  default List<Question<?>> names(Answers third) {
    return List.of();
  }

  /**
   * The account, after all rounds.
   *
   * @param names the answers to {@link #names}
   */
  Ledger ledger(Answers names);
}
