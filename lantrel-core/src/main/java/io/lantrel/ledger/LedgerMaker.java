package io.lantrel.ledger;

import io.lantrel.engine.Database;
import io.lantrel.engine.Rows;
import io.lantrel.probe.Chain;
import io.lantrel.probe.Counting;
import io.lantrel.probe.RowNames;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * Makes the ledger of a resolved query. Three or four statements are run for each block, however
 * many joins it has: one for all figures, one that names rows (left out if there are none to name),
 * and one in which the database counts the user's own query; a fourth counts its joined rows, if
 * the query puts rows together or cuts them off.
 */
public final class LedgerMaker {

  private static final Set<Entry.Kind> JOINED =
      Set.of(Entry.Kind.FROM, Entry.Kind.JOIN, Entry.Kind.WHERE);

  private final Database database;
  private final int examples;

  /**
   * @param database where the query's tables are
   * @param examples how many rows are named at most for each reason
   */
  public LedgerMaker(Database database, int examples) {
    this.database = database;
    this.examples = examples;
  }

  /**
   * The ledger of a block and of the queries in its FROM.
   *
   * @param block a block without name problems that has a FROM and depends on no block around it
   * @throws LedgerDefect if the account does not balance or disagrees with the database
   */
  public Ledger make(QueryBlock block) {
    return make("", block);
  }

  private Ledger make(String name, QueryBlock block) {
    List<Ledger> parts = new ArrayList<>();
    for (TableUse use : block.uses()) {
      Optional<QueryBlock> inner = use.query();
      if (inner.isPresent() && inner.get().isAccountable()) {
        parts.add(make(use.name(), inner.get()));
      }
    }
    // The user's own query first: if it fails, its message names the user's columns.
    long counted = database.ask(Counting.rows(block)).figure(0);
    StepFigures figures = new StepFigures(Chain.forFigures(block));
    Rows answer = database.ask(figures.ask());
    Chain chain = Chain.of(block);
    RowNames names = new RowNames(chain, examples);
    EntryMaker maker = new EntryMaker(chain, figures.read(answer), names);
    maker.askForNames();
    Rows named =
        names.isEmpty() ? new Rows(List.of(), List.of(), false) : database.ask(names.ask());
    Ledger ledger = new Ledger(name, maker.entries(named, counted), parts);
    compare(ledger.result(), counted, "the result");
    if (block.isGrouped() || block.select().distinct() || block.query().limit() != null) {
      long joined = database.ask(Counting.joinedRows(block)).figure(0);
      compare(joinedRows(ledger), joined, "the joined rows");
    }
    ledger.entries().forEach(LedgerMaker::check);
    return ledger;
  }

  private static long joinedRows(Ledger ledger) {
    return ledger.entries().stream()
        .filter(entry -> JOINED.contains(entry.kind()))
        .reduce((earlier, later) -> later)
        .orElseThrow()
        .after();
  }

  /**
   * The account is drawn up from pairs and rows without a partner; the database counts it again.
   */
  private static void compare(long account, long counted, String what) {
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

  private static void check(Entry entry) {
    boolean possible = entry.changes().stream().allMatch(change -> change.rows() >= 0);
    if (!possible || !entry.balances()) {
      throw new LedgerDefect(
          "the account of " + entry.words() + " does not balance; this is a defect of Lantrel");
    }
  }
}
