package io.lantrel.ledger.account;

import io.lantrel.engine.Database;
import io.lantrel.ledger.Ledger;
import io.lantrel.ledger.LedgerOfPart;
import io.lantrel.ledger.Naming;
import io.lantrel.ledger.RowShare;
import io.lantrel.probe.Answers;
import io.lantrel.probe.Asker;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Promises;
import io.lantrel.probe.Question;
import io.lantrel.probe.RowPart;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** Makes the account of a block for a part of the rows of its first table. */
public final class PartLedgerMaker {

  private final Database database;
  private final Naming naming;

  /**
   * @param naming which rows are named
   */
  public PartLedgerMaker(Database database, Naming naming) {
    this.database = database;
    this.naming = naming;
  }

  /** Why a part of its first table tells nothing of a block, as a sentence without its stop. */
  public static Optional<String> obstacle(QueryBlock block) {
    TableUse first = block.uses().get(0);
    Optional<JoinStep> keeping =
        block.steps().stream().filter(step -> step.kind().keepsRight()).findFirst();
    if (keeping.isPresent()) {
      return Optional.of(
          keeping.get().words()
              + " keeps rows that have no partner, and a part of "
              + first.words()
              + " does not tell which have none");
    }
    return RowPart.of(first, 1).isPresent()
        ? Optional.empty()
        : Optional.of(RowPart.missing(first));
  }

  /**
   * The account.
   *
   * @param block one that has an account and no {@link #obstacle}
   */
  public LedgerOfPart make(QueryBlock block, RowShare share) {
    return database.inSnapshot(() -> asked(block, share));
  }

  private LedgerOfPart asked(QueryBlock block, RowShare share) {
    Asker asker = new Asker(database);
    TableUse first = block.uses().get(0);
    Promises.Test test = new Promises.Test(database, List.of(block));
    Question<Long> count =
        Question.count(JoinedRows.of(block, Promises.KEYS).orElseThrow().side(first.item()));
    List<Question<?>> questions = new ArrayList<>(test.questions());
    questions.add(count);
    Answers known = asker.ask(questions);
    long of = known.to(count);
    JoinedRows all = JoinedRows.of(block, test.read(known)).orElseThrow();
    RowPart part = RowPart.of(first, share.of(of)).orElseThrow();
    JoinedRows rows = part.taken() == RowPart.OF ? all : all.ofPart(part);
    Account account = new PartAccount(rows, naming);
    Answers firsts = asker.ask(account.first());
    Answers seconds = asker.ask(account.second(firsts));
    Ledger ledger = account.ledger(asker.ask(account.names(seconds)));
    return new LedgerOfPart(
        ledger,
        first.words(),
        ledger.entries().get(0).after(),
        of,
        part.by().stream().map(UseColumn::name).toList());
  }
}
