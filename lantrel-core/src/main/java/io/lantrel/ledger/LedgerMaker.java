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

/**
 * Makes the ledger of a resolved query. Three statements are run for each block, however many joins
 * it has: one for all figures, one that names rows (left out if there are none to name), and one in
 * which the database counts the user's own query.
 */
public final class LedgerMaker {

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
      if (inner.isPresent() && inner.get().select().from() != null) {
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
    check(ledger, counted);
    return ledger;
  }

  private static void check(Ledger ledger, long counted) {
    for (Entry entry : ledger.entries()) {
      if (!entry.balances()) {
        throw new LedgerDefect(
            "the account of " + entry.words() + " does not balance; this is a defect of Lantrel");
      }
    }
    if (ledger.result() != counted) {
      throw new LedgerDefect(
          "the account ends with "
              + ledger.result()
              + " rows, the database counts "
              + counted
              + "; this is a defect of Lantrel");
    }
  }
}
