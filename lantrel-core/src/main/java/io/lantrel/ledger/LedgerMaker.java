package io.lantrel.ledger;

import io.lantrel.engine.Database;
import io.lantrel.probe.Answers;
import io.lantrel.probe.Asker;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Promises;
import io.lantrel.probe.Question;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;

/**
 * Makes the ledger of a resolved query in a few rounds, for all its blocks at a time: who has
 * partners, what is missing and why, and the names of some rows. A round without questions is left
 * out.
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
    return database.inSnapshot(
        () -> {
          if (database.isLive()) {
            try {
              return asked(block, Promises.KEYS.andReferences());
            } catch (LedgerDefect broken) {
              // A reference does not hold, though the database says so: it can be told not to look.
              return asked(block, Promises.KEYS);
            }
          }
          return asked(block, Promises.KEYS);
        });
  }

  private Ledger asked(QueryBlock block, Promises trusted) {
    Asker asker = new Asker(database);
    Promises.Test test = new Promises.Test(database, blocks(block));
    List<BlockAccount> accounts = accounts(block, trusted);
    List<Question<?>> questions = new ArrayList<>(all(accounts, BlockAccount::first));
    questions.addAll(test.questions());
    Answers first = asker.ask(questions);
    Promises kept = test.read(first);
    if (!kept.isAll()) {
      accounts = accounts(block, kept);
      first = asker.ask(all(accounts, BlockAccount::first));
    }
    Answers firstly = first;
    Answers second = asker.ask(all(accounts, each -> each.second(firstly)));
    Answers third = asker.ask(all(accounts, each -> each.third(second)));
    Answers names = asker.ask(all(accounts, each -> each.names(third)));
    return accounts.get(accounts.size() - 1).ledger(names);
  }

  private static List<Question<?>> all(
      List<BlockAccount> accounts, Function<BlockAccount, List<Question<?>>> round) {
    List<Question<?>> questions = new ArrayList<>();
    accounts.forEach(each -> questions.addAll(round.apply(each)));
    return questions;
  }

  /** Of the block and all in its FROM, the outermost last. */
  private List<BlockAccount> accounts(QueryBlock block, Promises promises) {
    List<BlockAccount> accounts = new ArrayList<>();
    account("", block, promises, accounts);
    return accounts;
  }

  private static List<QueryBlock> blocks(QueryBlock block) {
    List<QueryBlock> blocks = new ArrayList<>(List.of(block));
    for (TableUse use : block.uses()) {
      inner(use).ifPresent(each -> blocks.addAll(blocks(each)));
    }
    return blocks;
  }

  private static Optional<QueryBlock> inner(TableUse use) {
    return use.query().filter(QueryBlock::isAccountable);
  }

  private BlockAccount account(
      String name, QueryBlock block, Promises promises, List<BlockAccount> accounts) {
    List<BlockAccount> parts = new ArrayList<>();
    for (TableUse use : block.uses()) {
      inner(use).ifPresent(each -> parts.add(account(use.name(), each, promises, accounts)));
    }
    JoinedRows rows = JoinedRows.of(block, promises).orElseThrow();
    BlockAccount account = new BlockAccount(name, rows, examples, parts);
    accounts.add(account);
    return account;
  }
}
