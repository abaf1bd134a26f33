package io.lantrel.ledger.account;

import io.lantrel.engine.Database;
import io.lantrel.ledger.Ledger;
import io.lantrel.ledger.LedgerDefect;
import io.lantrel.probe.Answers;
import io.lantrel.probe.Asker;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Promises;
import io.lantrel.probe.Question;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import java.util.ArrayList;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
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
    return database.inSnapshot(() -> asked(block));
  }

  private Ledger asked(QueryBlock block) {
    Asker asker = new Asker(database);
    Map<QueryBlock, JoinedRows> rows = rows(block, Promises.KEYS);
    Promises.Test test = new Promises.Test(database, blocks(block));
    List<BlockAccount> accounts = new ArrayList<>();
    List<Question<?>> questions = new ArrayList<>(test.questions());
    // Few rows are looked at in one round, as if every key were kept.
    if (database.isSmall()) {
      account("", block, rows, accounts);
      questions.addAll(all(accounts, BlockAccount::first));
    } else {
      rows.values().forEach(each -> questions.addAll(each.lossTests()));
    }
    Answers tested = asker.ask(questions);
    Promises kept = test.read(tested);
    if (kept.isAll() && database.isSmall()) {
      return ledger(accounts, tested, asker);
    }
    rows.values().forEach(each -> each.readLossTests(tested));
    List<BlockAccount> told = new ArrayList<>();
    account("", block, kept.isAll() ? rows : rows(block, kept), told);
    return ledger(told, asker.ask(all(told, BlockAccount::first)), asker);
  }

  private static Ledger ledger(List<BlockAccount> accounts, Answers first, Asker asker) {
    Answers second = asker.ask(all(accounts, each -> each.second(first)));
    Answers third = asker.ask(all(accounts, each -> each.third(second)));
    Answers names = asker.ask(all(accounts, each -> each.names(third)));
    return accounts.get(accounts.size() - 1).ledger(names);
  }

  private static Map<QueryBlock, JoinedRows> rows(QueryBlock block, Promises promises) {
    Map<QueryBlock, JoinedRows> rows = new IdentityHashMap<>();
    blocks(block).forEach(each -> rows.put(each, JoinedRows.of(each, promises).orElseThrow()));
    return rows;
  }

  private static List<Question<?>> all(
      List<BlockAccount> accounts, Function<BlockAccount, List<Question<?>>> round) {
    List<Question<?>> questions = new ArrayList<>();
    accounts.forEach(each -> questions.addAll(round.apply(each)));
    return questions;
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

  /** Of the block and all in its FROM, the outermost last. */
  private BlockAccount account(
      String name,
      QueryBlock block,
      Map<QueryBlock, JoinedRows> rows,
      List<BlockAccount> accounts) {
    List<BlockAccount> parts = new ArrayList<>();
    for (TableUse use : block.uses()) {
      inner(use).ifPresent(each -> parts.add(account(use.name(), each, rows, accounts)));
    }
    JoinedRows own = Optional.ofNullable(rows.get(block)).orElseThrow();
    BlockAccount account = new BlockAccount(name, own, examples, parts);
    accounts.add(account);
    return account;
  }
}
