package io.lantrel.ledger.account;

import io.lantrel.ledger.Ledger;
import io.lantrel.probe.Answers;
import io.lantrel.resolve.QueryBlock;
import java.util.List;

/**
 * The queries in another.
 *
 * @param accounts of those that have one of their own
 * @param lookingOutside those that look at the rows of the query around them
 * @param untold of the rest, why not
 */
record Inner(List<Account> accounts, List<QueryBlock> lookingOutside, List<String> untold) {

  Inner {
    accounts = List.copyOf(accounts);
    lookingOutside = List.copyOf(lookingOutside);
    untold = List.copyOf(untold);
  }

  List<Ledger> ledgers(Answers names) {
    return accounts.stream().map(each -> each.ledger(names)).toList();
  }
}
