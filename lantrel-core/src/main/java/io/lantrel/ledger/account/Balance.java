package io.lantrel.ledger.account;

import io.lantrel.ledger.Entry;
import io.lantrel.ledger.Ledger;
import io.lantrel.ledger.LedgerDefect;
import java.util.Set;

/** Compares an account with itself, and with what the database counts in one go. */
final class Balance {

  private static final Set<Entry.Kind> JOINED =
      Set.of(Entry.Kind.FROM, Entry.Kind.JOIN, Entry.Kind.WHERE);

  private Balance() {}

  /** The rows before any are put together. */
  static long joinedRows(Ledger ledger) {
    return ledger.entries().stream()
        .filter(entry -> JOINED.contains(entry.kind()))
        .reduce((earlier, later) -> later)
        .orElseThrow()
        .after();
  }

  static void check(long account, long counted, String what) {
    if (account != counted) {
      throw new LedgerDefect(
          "the account has "
              + account
              + " for "
              + what
              + ", the database counts "
              + counted
              + "; this is a defect of Lantrel");
    }
  }

  static void check(Entry entry) {
    boolean possible = entry.changes().stream().allMatch(change -> change.rows() >= 0);
    if (!possible || !entry.balances()) {
      throw new LedgerDefect(
          "the account of " + entry.words() + " does not balance; this is a defect of Lantrel");
    }
  }
}
