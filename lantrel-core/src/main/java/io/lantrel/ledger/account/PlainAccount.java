package io.lantrel.ledger.account;

import io.lantrel.ledger.Entry;
import io.lantrel.ledger.Entry.Kind;
import io.lantrel.ledger.Ledger;
import io.lantrel.ledger.Naming;
import io.lantrel.probe.Answers;
import io.lantrel.probe.Counting;
import io.lantrel.probe.Question;
import io.lantrel.resolve.QueryBlock;
import java.util.ArrayList;
import java.util.List;

/** The account of a SELECT that cannot be looked at step by step: the rows that it gives. */
final class PlainAccount implements Account {

  private final String name;
  private final QueryBlock block;
  private final Inner inner;
  private final Question<Long> counted;
  private final Stages stages;
  private final Question<Long> joined;
  private Answers answers = new Answers();

  PlainAccount(String name, QueryBlock block, Naming naming, Inner inner) {
    this.name = name;
    this.block = block;
    this.inner = inner;
    this.counted = Question.number(Counting.rows(block));
    this.stages = new Stages(block, counted, naming, 2);
    this.joined = stages.isEmpty() ? counted : Question.number(Counting.rowsBehindWhere(block));
  }

  @Override
  public List<Question<?>> first() {
    List<Question<?>> questions = new ArrayList<>(List.of(counted));
    if (!joined.equals(counted)) {
      questions.add(joined);
    }
    questions.addAll(stages.first());
    return questions;
  }

  @Override
  public List<Question<?>> second(Answers first) {
    answers = first;
    first.to(counted);
    return List.of();
  }

  @Override
  public List<Question<?>> names(Answers third) {
    return stages.names(answers.to(joined), answers);
  }

  private String words() {
    return block.select().from() == null
        ? "one row, without FROM"
        : block.isGrouped() ? "the groups of SELECT" : "the rows of SELECT";
  }

  @Override
  public Ledger ledger(Answers names) {
    long rows = answers.to(joined);
    List<Entry> entries = new ArrayList<>();
    entries.add(new Entry(Kind.FROM, words(), block.select().span(), rows, List.of(), rows));
    entries.addAll(stages.entries(rows, answers, names));
    List<String> untold = new ArrayList<>(inner.untold());
    if (block.select().from() != null) {
      String whose = name.isEmpty() ? "this query" : name;
      Obstacles.of(block)
          .ifPresent(why -> untold.add(0, whose + " cannot be looked at step by step: " + why));
    }
    entries.forEach(Balance::check);
    return new Ledger(name, entries, inner.ledgers(names), List.of(), untold);
  }
}
