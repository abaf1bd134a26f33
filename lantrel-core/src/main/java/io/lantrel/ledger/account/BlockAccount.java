package io.lantrel.ledger.account;

import io.lantrel.ledger.Change;
import io.lantrel.ledger.Entry;
import io.lantrel.ledger.Entry.Kind;
import io.lantrel.ledger.Figure;
import io.lantrel.ledger.Ledger;
import io.lantrel.probe.Answers;
import io.lantrel.probe.Counting;
import io.lantrel.probe.Counting.Grouped;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.SqlPrinter;
import io.lantrel.sql.tree.Call;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Limit;
import io.lantrel.sql.tree.Span;
import java.util.ArrayList;
import java.util.IdentityHashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** What is asked about one block, round by round, and the account that comes of it. */
final class BlockAccount {

  private final String name;
  private final QueryBlock block;
  private final List<BlockAccount> parts;
  private final Map<FromItem, Question<Long>> firsts = new IdentityHashMap<>();
  private final List<StepAccount> steps = new ArrayList<>();
  private final Map<JoinStep, StepAccount> stepOf = new IdentityHashMap<>();
  private final FilterAccount filters;
  private final Question<Long> counted;
  private final Map<Kind, Question<Long>> stages = new LinkedHashMap<>();
  private @Nullable Question<Long> joined;
  private @Nullable Question<Grouped> groups;
  private boolean countsWhole = true;
  private final List<Answers> answers = new ArrayList<>();

  BlockAccount(String name, JoinedRows rows, int examples, List<BlockAccount> parts) {
    this.name = name;
    this.block = rows.block();
    this.parts = parts;
    for (JoinStep step : block.steps()) {
      StepAccount account = new StepAccount(rows, step, examples);
      steps.add(account);
      stepOf.put(step, account);
      block
          .use(step.join().left())
          .ifPresent(use -> firsts.put(use.item(), Question.count(rows.side(use.item()))));
    }
    TableUse first = block.uses().get(0);
    firsts.computeIfAbsent(first.item(), item -> Question.count(rows.side(item)));
    this.filters = new FilterAccount(rows, examples);
    this.counted = Question.number(Counting.rows(block));
    ask();
  }

  /**
   * Whatever puts rows together or cuts them off is counted by the query itself, up to that clause;
   * and so are the joined rows, with which the account of the joins must agree.
   */
  private void ask() {
    boolean limited = block.query().limit() != null;
    boolean distinct = block.select().distinct();
    boolean having = block.select().having() != null;
    if (block.isGrouped()) {
      groups = Counting.groups(block);
    }
    if (groups == null ? distinct || limited : hasSets()) {
      joined = Question.number(Counting.joinedRows(block));
    }
    if (having) {
      stages.put(
          Kind.HAVING,
          distinct || limited ? Question.number(Counting.groupsBehindHaving(block)) : counted);
    }
    if (distinct) {
      stages.put(
          Kind.DISTINCT, limited ? Question.number(Counting.rowsBeforeLimit(block)) : counted);
    }
    countsWhole = groups == null || having || distinct || limited;
  }

  /** Whether a row is in several groups, as ROLLUP makes it. */
  private boolean hasSets() {
    return block.select().groupBy().stream().anyMatch(Call.Grouping.class::isInstance);
  }

  // ---- rounds ----

  List<Question<?>> first() {
    List<Question<?>> questions = new ArrayList<>();
    if (countsWhole) {
      questions.add(counted);
    }
    Optional.ofNullable(groups).ifPresent(questions::add);
    questions.addAll(firsts.values());
    steps.forEach(step -> questions.addAll(step.first()));
    questions.addAll(filters.first());
    questions.addAll(stages.values());
    Optional.ofNullable(joined).ifPresent(questions::add);
    return questions;
  }

  List<Question<?>> second(Answers first) {
    answers.add(first);
    // The user's own query before all: if it fails, its message names the user's columns.
    if (countsWhole) {
      first.to(counted);
    }
    List<Question<?>> questions = new ArrayList<>();
    filters.read(first);
    for (StepAccount step : steps) {
      step.readFirst(first, coming(step, first));
      questions.addAll(step.second(isIntact(step)));
    }
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

  List<Question<?>> third(Answers second) {
    answers.add(second);
    List<Question<?>> questions = new ArrayList<>();
    for (StepAccount step : steps) {
      step.readSecond(second);
      questions.addAll(step.third());
    }
    return questions;
  }

  List<Question<?>> names(Answers third) {
    List<Question<?>> questions = new ArrayList<>(filters.names());
    for (StepAccount step : steps) {
      step.readThird(third);
      questions.addAll(step.names());
    }
    return questions;
  }

  // ---- the account ----

  Ledger ledger(Answers names) {
    List<Ledger> accounts = parts.stream().map(part -> part.ledger(names)).toList();
    Ledger ledger = new Ledger(name, entries(names), accounts);
    if (countsWhole) {
      Balance.check(ledger.result(), answers.get(0).to(counted), "the result");
    }
    if (joined != null) {
      Balance.check(Balance.joinedRows(ledger), answers.get(0).to(joined), "the joined rows");
    }
    if (groups != null && !hasSets()) {
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
    entries.add(
        new Entry(Kind.FROM, first.words(), first.item().span(), rows, List.of(), rows, null));
    for (StepAccount step : steps) {
      entries.add(step.entry(answers.get(1), names));
    }
    if (!block.filters().isEmpty()) {
      entries.add(filters.entry(last(entries), names));
    }
    if (groups != null) {
      entries.add(group(last(entries), answers.get(0).to(groups).groups()));
    }
    stages.forEach((kind, count) -> entries.add(stage(kind, last(entries), count)));
    Limit limit = block.query().limit();
    if (limit != null) {
      entries.add(fewer(Kind.LIMIT, "LIMIT", limit.span(), last(entries), Figure.CUT, counted));
    }
    return entries;
  }

  private static long last(List<Entry> entries) {
    return entries.get(entries.size() - 1).after();
  }

  private Entry stage(Kind kind, long before, Question<Long> asked) {
    if (kind == Kind.HAVING) {
      Expression having = Optional.ofNullable(block.select().having()).orElseThrow();
      String words = "HAVING " + SqlPrinter.print(having, block.dialect());
      return fewer(kind, words, having.span(), before, Figure.DROPPED, asked);
    }
    Span place = new Span(block.select().span().start(), block.select().span().start() + 6);
    return fewer(kind, "DISTINCT", place, before, Figure.MERGED, asked);
  }

  private Entry fewer(
      Kind kind, String words, Span place, long before, Figure figure, Question<Long> asked) {
    long after = answers.get(0).to(asked);
    Change change = new Change(figure, before - after, List.of());
    return new Entry(kind, words, place, before, List.of(change), after, null);
  }

  private Entry group(long before, long groups) {
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
            : new Change(Figure.MERGED, before - groups, List.of());
    return new Entry(Kind.GROUP, words, place, before, List.of(change), groups, null);
  }
}
