package io.lantrel.ledger.account;

import io.lantrel.ledger.Cause;
import io.lantrel.ledger.Change;
import io.lantrel.ledger.Entry;
import io.lantrel.ledger.Entry.Kind;
import io.lantrel.ledger.Figure;
import io.lantrel.ledger.Ledger;
import io.lantrel.ledger.Naming;
import io.lantrel.probe.Answers;
import io.lantrel.probe.BlockLines;
import io.lantrel.probe.Counting;
import io.lantrel.probe.Counting.Grouped;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.SqlPrinter;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Span;
import java.util.ArrayList;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** The account of one SELECT whose joins can be looked at step by step. */
final class BlockAccount implements Account {

  private final String name;
  private final QueryBlock block;
  private final Inner inner;
  private final Map<FromItem, Question<Long>> firsts = new IdentityHashMap<>();
  private final List<StepAccount> steps = new ArrayList<>();
  private final Map<JoinStep, StepAccount> stepOf = new IdentityHashMap<>();
  private final FilterAccount filters;
  private final Question<Long> counted;
  private final Stages stages;
  private final boolean countsWhole;
  private final int namedGroups;
  private @Nullable EqualLines merged;
  private final List<OutsideAccount> subqueries;
  private @Nullable Question<Long> joined;
  private @Nullable Question<Grouped> groups;
  private final List<Answers> answers = new ArrayList<>();

  /**
   * @param naming which rows are named
   * @param inner the queries in it
   */
  BlockAccount(String name, JoinedRows rows, Naming naming, Inner inner) {
    this.name = name;
    this.block = rows.block();
    this.inner = inner;
    this.subqueries =
        inner.lookingOutside().stream().map(each -> new OutsideAccount(rows, each)).toList();
    for (JoinStep step : block.steps()) {
      StepAccount account = new StepAccount(rows, step, naming);
      steps.add(account);
      stepOf.put(step, account);
      block
          .use(step.join().left())
          .ifPresent(use -> firsts.put(use.item(), Question.count(rows.side(use.item()))));
    }
    TableUse first = block.uses().get(0);
    firsts.computeIfAbsent(first.item(), item -> Question.count(rows.side(item)));
    this.filters = new FilterAccount(rows, naming.most(Figure.DROPPED, block.steps().size() + 2));
    this.counted = Question.number(Counting.rows(block));
    int step = block.steps().size() + 2 + (block.filters().isEmpty() ? 0 : 1);
    this.stages = new Stages(block, counted, naming, step + (block.isGrouped() ? 1 : 0));
    // That rows are put into groups needs no reason: which they are is told if it is asked.
    this.namedGroups = naming.figure() == null ? 0 : naming.most(Figure.MERGED, step);
    if (block.isGrouped()) {
      groups = Counting.groups(block);
    }
    // The joined rows are counted in one go as well: the account of the joins must agree.
    if (groups == null ? !stages.isEmpty() : Counting.hasSets(block)) {
      joined = Question.number(Counting.joinedRows(block));
    }
    this.countsWhole = groups == null || !stages.isEmpty();
  }

  // ---- rounds ----

  @Override
  public List<Question<?>> first() {
    List<Question<?>> questions = new ArrayList<>();
    if (countsWhole) {
      questions.add(counted);
    }
    Optional.ofNullable(groups).ifPresent(questions::add);
    questions.addAll(firsts.values());
    steps.forEach(step -> questions.addAll(step.first()));
    questions.addAll(filters.first());
    questions.addAll(stages.first());
    Optional.ofNullable(joined).ifPresent(questions::add);
    return questions;
  }

  @Override
  public List<Question<?>> second(Answers first) {
    answers.add(first);
    // The user's own query before all: if it fails, its message names the user's columns.
    if (countsWhole) {
      first.to(counted);
    }
    List<Question<?>> questions = new ArrayList<>();
    filters.readFirst(first);
    questions.addAll(filters.second());
    for (StepAccount step : steps) {
      step.readFirst(first, coming(step, first));
      questions.addAll(step.second(isIntact(step)));
    }
    subqueries.forEach(each -> questions.add(each.question()));
    return questions;
  }

  private long coming(StepAccount step, Answers first) {
    FromItem left = step.step().join().left();
    Question<Long> asked = firsts.get(left);
    return asked == null ? account(left).after() : first.to(asked);
  }

  private StepAccount account(FromItem join) {
    return block.step(join).map(stepOf::get).orElseThrow();
  }

  /** Whether no row of the first table on its left was lost before a step. */
  private boolean isIntact(StepAccount step) {
    FromItem left = step.step().join().left();
    while (left instanceof FromItem.Join join) {
      StepAccount earlier = account(join);
      if (earlier.dropped() > 0) {
        return false;
      }
      left = join.left();
    }
    return true;
  }

  @Override
  public List<Question<?>> third(Answers second) {
    answers.add(second);
    List<Question<?>> questions = new ArrayList<>();
    filters.readSecond(second);
    for (StepAccount step : steps) {
      step.readSecond(second);
      questions.addAll(step.third());
    }
    return questions;
  }

  @Override
  public List<Question<?>> names(Answers third) {
    List<Question<?>> questions = new ArrayList<>(filters.names());
    for (StepAccount step : steps) {
      step.readThird(third);
      questions.addAll(step.names());
    }
    if (groups != null && namedGroups > 0) {
      merged =
          new EqualLines("several rows are in one group", BlockLines.groups(block).orElse(null));
      questions.addAll(merged.names(1, namedGroups, answers.get(0)));
    }
    if (!stages.isEmpty()) {
      questions.addAll(stages.names(comingToStages(), answers.get(0)));
    }
    return questions;
  }

  private long comingToStages() {
    Answers first = answers.get(0);
    return groups != null
        ? first.to(groups).groups()
        : first.to(Optional.ofNullable(joined).orElseThrow());
  }

  // ---- the account ----

  @Override
  public Ledger ledger(Answers names) {
    List<String> untold = new ArrayList<>(inner.untold());
    subqueries.stream().flatMap(each -> each.untold(answers.get(1)).stream()).forEach(untold::add);
    Ledger ledger =
        new Ledger(
            name,
            entries(names),
            inner.ledgers(names),
            subqueries.stream().flatMap(each -> each.found(answers.get(1)).stream()).toList(),
            untold);
    if (countsWhole) {
      Balance.check(ledger.result(), answers.get(0).to(counted), "the result");
    }
    if (joined != null) {
      Balance.check(Balance.joinedRows(ledger), answers.get(0).to(joined), "the joined rows");
    }
    if (groups != null && !Counting.hasSets(block)) {
      long rows = answers.get(0).to(groups).rows();
      Balance.check(Balance.joinedRows(ledger), rows, "the joined rows");
    }
    ledger.entries().forEach(Balance::check);
    return ledger;
  }

  private List<Entry> entries(Answers names) {
    List<Entry> entries = new ArrayList<>();
    TableUse first = block.uses().get(0);
    Question<Long> asked = Optional.ofNullable(firsts.get(first.item())).orElseThrow();
    long rows = answers.get(0).to(asked);
    entries.add(new Entry(Kind.FROM, first.words(), first.item().span(), rows, List.of(), rows));
    for (StepAccount step : steps) {
      entries.add(step.entry(answers.get(1), names));
    }
    if (!block.filters().isEmpty()) {
      entries.add(filters.entry(last(entries), names));
    }
    if (groups != null) {
      entries.add(group(last(entries), answers.get(0).to(groups).groups(), names));
    }
    entries.addAll(stages.entries(last(entries), answers.get(0), names));
    return entries;
  }

  private static long last(List<Entry> entries) {
    return entries.get(entries.size() - 1).after();
  }

  private Entry group(long before, long groups, Answers names) {
    List<Expression> groupBy = block.select().groupBy();
    boolean all = groupBy.isEmpty();
    Span place =
        all
            ? block.select().span()
            : groupBy.get(0).span().to(groupBy.get(groupBy.size() - 1).span());
    String words =
        all
            ? "one group of all rows"
            : "GROUP BY "
                + String.join(
                    ", ",
                    groupBy.stream().map(each -> SqlPrinter.print(each, block.dialect())).toList());
    // Over no rows at all, an aggregate without GROUP BY still gives one row.
    Change change =
        groups > before
            ? new Change(Figure.ADDED, groups - before, List.of())
            : new Change(Figure.MERGED, before - groups, merged(before - groups, names));
    return new Entry(Kind.GROUP, words, place, before, List.of(change), groups);
  }

  private List<Cause> merged(long rows, Answers names) {
    return merged == null || rows == 0 ? List.of() : merged.causes(rows, answers.get(0), names);
  }
}
