package io.lantrel.ledger.account;

import io.lantrel.engine.Database;
import io.lantrel.ledger.Ledger;
import io.lantrel.ledger.LedgerDefect;
import io.lantrel.ledger.Naming;
import io.lantrel.probe.Answers;
import io.lantrel.probe.Asker;
import io.lantrel.probe.Promises;
import io.lantrel.probe.Question;
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.Resolution;
import io.lantrel.sql.tree.Query;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Function;

/**
 * Makes the ledger of a resolved query in a few rounds, for all queries in it at a time: who has
 * partners, what is missing and why, and the names of some rows. A round without questions is left
 * out.
 */
public final class LedgerMaker {

  private final Database database;
  private final Naming naming;

  /**
   * @param database where the query's tables are
   * @param naming which rows are named
   */
  public LedgerMaker(Database database, Naming naming) {
    this.database = database;
    this.naming = naming;
  }

  /**
   * The ledger of a query and of all queries in it.
   *
   * @param resolution a query without name problems
   * @throws LedgerDefect if the account does not balance or disagrees with the database
   */
  public Ledger make(Resolution resolution) {
    List<String> headings = resolution.result().outputs().stream().map(OutputColumn::name).toList();
    return make(resolution.blocks(), resolution.result().query(), headings);
  }

  /**
   * The ledger of one block alone.
   *
   * @param block a block without name problems that has a FROM and depends on no block around it
   * @throws LedgerDefect if the account does not balance or disagrees with the database
   */
  public Ledger make(QueryBlock block) {
    return make(List.of(block), block.query(), List.of());
  }

  private Ledger make(List<QueryBlock> blocks, Query query, List<String> headings) {
    return database.inSnapshot(() -> asked(blocks, accounts -> accounts.ofWhole(query, headings)));
  }

  private Ledger asked(List<QueryBlock> blocks, Function<Accounts, Account> root) {
    Asker asker = new Asker(database);
    Accounts accounts = new Accounts(blocks, Promises.KEYS, naming);
    Promises.Test test = new Promises.Test(database, blocks);
    List<Question<?>> questions = new ArrayList<>(test.questions());
    // Few rows are looked at in one round, as if every key were kept.
    if (database.isSmall()) {
      Account whole = root.apply(accounts);
      questions.addAll(all(accounts, Account::first));
      Answers tested = asker.ask(questions);
      Promises kept = test.read(tested);
      return kept.isAll()
          ? ledger(accounts, whole, tested, asker)
          : told(new Accounts(blocks, kept, naming), root, asker);
    }
    questions.addAll(accounts.lossTests());
    Answers tested = asker.ask(questions);
    Promises kept = test.read(tested);
    if (!kept.isAll()) {
      return told(new Accounts(blocks, kept, naming), root, asker);
    }
    accounts.readLossTests(tested);
    return told(accounts, root, asker);
  }

  private static Ledger told(Accounts accounts, Function<Accounts, Account> root, Asker asker) {
    Account whole = root.apply(accounts);
    return ledger(accounts, whole, asker.ask(all(accounts, Account::first)), asker);
  }

  private static Ledger ledger(Accounts accounts, Account whole, Answers first, Asker asker) {
    Answers second = asker.ask(all(accounts, each -> each.second(first)));
    Answers third = asker.ask(all(accounts, each -> each.third(second)));
    Answers names = asker.ask(all(accounts, each -> each.names(third)));
    return whole.ledger(names);
  }

  private static List<Question<?>> all(
      Accounts accounts, Function<Account, List<Question<?>>> round) {
    List<Question<?>> questions = new ArrayList<>();
    accounts.all().forEach(each -> questions.addAll(round.apply(each)));
    return questions;
  }
}
