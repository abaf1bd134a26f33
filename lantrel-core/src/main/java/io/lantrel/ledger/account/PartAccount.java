package io.lantrel.ledger.account;

import io.lantrel.ledger.Entry;
import io.lantrel.ledger.Figure;
import io.lantrel.ledger.Ledger;
import io.lantrel.ledger.Naming;
import io.lantrel.probe.Answers;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.tree.QueryBody;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * What becomes of the rows of the first table of a block at its joins and in WHERE: what grows with
 * these rows, and nothing else.
 */
final class PartAccount implements Account {

  private final QueryBlock block;
  private final TableUse use;
  private final Question<Long> counted;
  private final List<StepAccount> steps;
  private final FilterAccount filters;
  private long rows;
  private @Nullable Answers second;

  PartAccount(JoinedRows joined, Naming naming) {
    this.block = joined.block();
    this.use = block.uses().get(0);
    this.counted = Question.count(joined.side(use.item()));
    this.steps =
        block.steps().stream()
            .filter(step -> step.left().contains(use))
            .map(step -> StepAccount.ofTheLeft(joined, step, naming))
            .toList();
    this.filters = new FilterAccount(joined, naming.most(Figure.DROPPED, steps.size() + 2));
  }

  @Override
  public List<Question<?>> first() {
    List<Question<?>> questions = new ArrayList<>(List.of(counted));
    steps.forEach(step -> questions.addAll(step.first()));
    questions.addAll(filters.first());
    return questions;
  }

  @Override
  public List<Question<?>> second(Answers first) {
    filters.readFirst(first);
    List<Question<?>> questions = new ArrayList<>(filters.second());
    rows = first.to(counted);
    long coming = rows;
    for (StepAccount step : steps) {
      step.readFirst(first, coming);
      questions.addAll(step.second(false));
      coming = step.after();
    }
    return questions;
  }

  @Override
  public List<Question<?>> names(Answers answers) {
    second = answers;
    filters.readSecond(answers);
    List<Question<?>> questions = new ArrayList<>(filters.names());
    for (StepAccount step : steps) {
      step.readSecond(answers);
      questions.addAll(step.names());
    }
    return questions;
  }

  @Override
  public Ledger ledger(Answers names) {
    Answers told = Objects.requireNonNull(second);
    List<Entry> entries = new ArrayList<>();
    entries.add(new Entry(Entry.Kind.FROM, use.words(), use.item().span(), rows, List.of(), rows));
    steps.forEach(step -> entries.add(step.entry(told, names)));
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
