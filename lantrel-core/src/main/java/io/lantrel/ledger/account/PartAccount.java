package io.lantrel.ledger.account;

import io.lantrel.engine.Database;
import io.lantrel.ledger.Entry;
import io.lantrel.ledger.Figure;
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
import io.lantrel.sql.tree.QueryBody;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** Makes the account of a block for a part of the rows of its first table. */
public final class PartAccount {

  private final Database database;
  private final Naming naming;

  /**
   * @param naming which rows are named
   */
  public PartAccount(Database database, Naming naming) {
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
        : Optional.of(
            first.words()
                + " has no column of whole numbers, by which a part of its rows could be taken");
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
    Ledger ledger = ledger(block, rows, asker);
    return new LedgerOfPart(
        ledger,
        first.words(),
        ledger.entries().get(0).after(),
        of,
        part.by().stream().map(UseColumn::name).toList());
  }

  private Ledger ledger(QueryBlock block, JoinedRows rows, Asker asker) {
    TableUse use = block.uses().get(0);
    Question<Long> counted = Question.count(rows.side(use.item()));
    List<StepAccount> steps =
        block.steps().stream()
            .filter(step -> step.left().contains(use))
            .map(step -> StepAccount.ofTheLeft(rows, step, naming))
            .toList();
    FilterAccount filters = new FilterAccount(rows, naming.most(Figure.DROPPED, steps.size() + 2));

    List<Question<?>> questions = new ArrayList<>(List.of(counted));
    steps.forEach(step -> questions.addAll(step.first()));
    questions.addAll(filters.first());
    Answers first = asker.ask(questions);
    filters.readFirst(first);
    questions.clear();
    questions.addAll(filters.second());
    long coming = first.to(counted);
    for (StepAccount step : steps) {
      step.readFirst(first, coming);
      questions.addAll(step.second(false));
      coming = step.after();
    }
    Answers second = asker.ask(questions);
    filters.readSecond(second);
    steps.forEach(step -> step.readSecond(second));
    questions.clear();
    questions.addAll(filters.names());
    steps.forEach(step -> questions.addAll(step.names()));
    Answers names = asker.ask(questions);

    List<Entry> entries = new ArrayList<>();
    long begun = first.to(counted);
    entries.add(
        new Entry(Entry.Kind.FROM, use.words(), use.item().span(), begun, List.of(), begun));
    steps.forEach(step -> entries.add(step.entry(second, names)));
    if (!block.filters().isEmpty()) {
      entries.add(filters.entry(entries.get(entries.size() - 1).after(), names));
    }
    entries.forEach(Balance::check);
    return new Ledger("", entries, List.of(), List.of(), untold(block));
  }

  /** What does not grow with the rows. */
  private static List<String> untold(QueryBlock block) {
    List<String> untold = new ArrayList<>();
    if (!block.steps().isEmpty()) {
      untold.add("which rows of the joined tables find no partner");
    }
    QueryBody.Select select = block.select();
    List<String> clauses = new ArrayList<>();
    if (block.isGrouped()) {
      clauses.add(select.groupBy().isEmpty() ? "the one group" : "GROUP BY");
    }
    if (select.having() != null) {
      clauses.add("HAVING");
    }
    if (select.qualify() != null) {
      clauses.add("QUALIFY");
    }
    if (select.distinct()) {
      clauses.add("DISTINCT");
    }
    if (block.query().limit() != null) {
      clauses.add("LIMIT");
    }
    if (!clauses.isEmpty()) {
      untold.add("what becomes of the rows at " + String.join(", ", clauses));
    }
    return untold;
  }
}
