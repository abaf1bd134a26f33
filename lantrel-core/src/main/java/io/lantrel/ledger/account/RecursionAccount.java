package io.lantrel.ledger.account;

import io.lantrel.engine.NamedRow;
import io.lantrel.ledger.Cause;
import io.lantrel.ledger.Change;
import io.lantrel.ledger.Entry;
import io.lantrel.ledger.Entry.Kind;
import io.lantrel.ledger.Figure;
import io.lantrel.ledger.Ledger;
import io.lantrel.ledger.Naming;
import io.lantrel.probe.Answers;
import io.lantrel.probe.Question;
import io.lantrel.probe.Relation;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.sql.tree.CommonTable;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Span;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/**
 * The account of a recursive member of WITH: what it starts with, what each level finds, and where
 * it stops (ISO/IEC 9075-2, 7.17, general rules on recursion).
 */
final class RecursionAccount implements Account {

  /** So many levels are told one by one. */
  private static final int SHOWN = 12;

  private final String name;
  private final CommonTable table;
  private final List<Account> parts;
  private final Question<Long> counted;
  private final Optional<Levels> levels;
  private final Naming naming;
  private final Map<Long, Question<List<NamedRow>>> again = new TreeMap<>();
  private @Nullable Question<Map<Long, Long>> askedRows;
  private @Nullable Question<Map<Long, Long>> askedFound;
  private long rows;
  private Map<Long, Long> rowsOf = Map.of();
  private Map<Long, Long> foundOf = Map.of();

  /**
   * @param blocks those that the recursion is put together of
   * @param parts their accounts
   */
  RecursionAccount(
      String name, CommonTable table, List<QueryBlock> blocks, Naming naming, List<Account> parts) {
    this.name = name;
    this.naming = naming;
    this.table = table;
    this.parts = parts;
    QueryBlock step = blocks.stream().filter(QueryBlock::isRecursive).findFirst().orElseThrow();
    FromItem whole = new FromItem.TableName(Span.NOWHERE, List.of(table.name()), null);
    this.counted =
        Question.count(Relation.of(whole, step.commonTables(), step.hasRecursiveTables()));
    this.levels = Levels.of(table, blocks);
  }

  @Override
  public List<Question<?>> first() {
    return List.of(counted);
  }

  /** That the recursion comes to an end is known by now: its rows were counted. */
  @Override
  public List<Question<?>> second(Answers first) {
    rows = first.to(counted);
    List<Question<?>> questions = new ArrayList<>();
    if (levels.isPresent()) {
      askedRows = levels.get().rows();
      questions.add(askedRows);
      if (levels.get().isMerging()) {
        askedFound = levels.get().found();
        questions.add(askedFound);
      }
    }
    return questions;
  }

  @Override
  public List<Question<?>> third(Answers second) {
    rowsOf = told(askedRows, second);
    foundOf = told(askedFound, second);
    return List.of();
  }

  private static Map<Long, Long> told(@Nullable Question<Map<Long, Long>> asked, Answers answers) {
    return asked == null ? Map.of() : new TreeMap<>(answers.ifAny(asked).orElse(Map.of()));
  }

  @Override
  public List<Question<?>> names(Answers third) {
    int at = 2;
    for (Step each : steps()) {
      int most = naming.most(Figure.MERGED, at++);
      if (each.found() > each.fresh() && most > 0 && each.to() < Long.MAX_VALUE) {
        again.put(each.from(), levels.orElseThrow().again(each.from(), each.to()).least(most));
      }
    }
    return List.copyOf(again.values());
  }

  @Override
  public Ledger ledger(Answers names) {
    List<Entry> entries = new ArrayList<>();
    List<String> untold = new ArrayList<>();
    if (rowsOf.isEmpty() && rows > 0) {
      entries.add(entry(Kind.FROM, "all levels", rows, List.of(), rows));
      untold.add("the levels of " + name + " are not told one by one");
    } else {
      levels(entries, names);
    }
    entries.forEach(Balance::check);
    Balance.check(entries.get(entries.size() - 1).after(), rows, "the rows of " + name);
    return new Ledger(
        name, entries, parts.stream().map(each -> each.ledger(names)).toList(), List.of(), untold);
  }

  private Entry entry(Kind kind, String words, long before, List<Change> changes, long after) {
    return new Entry(kind, words, table.span(), before, changes, after);
  }

  private void levels(List<Entry> entries, Answers names) {
    long before = rowsOf.getOrDefault(0L, 0L);
    entries.add(entry(Kind.FROM, "the start", before, List.of(), before));
    for (Step each : steps()) {
      entries.add(level(each, before, names));
      before += each.fresh();
    }
  }

  /**
   * Levels that are told together.
   *
   * @param from the first
   * @param to the last; Long.MAX_VALUE for all that follow
   * @param fresh how many rows they find for the first time
   * @param found how many they find
   */
  private record Step(String words, long from, long to, long fresh, long found) {}

  private List<Step> steps() {
    List<Step> steps = new ArrayList<>();
    if (rowsOf.isEmpty() && rows > 0) {
      return steps;
    }
    long last = rowsOf.keySet().stream().reduce(0L, Math::max);
    long before = rowsOf.getOrDefault(0L, 0L);
    long level = 1;
    while (level <= last) {
      long to = level == SHOWN && last > SHOWN ? last : level;
      long fresh = sum(rowsOf, level, to);
      long found = foundOf.isEmpty() ? fresh : sum(foundOf, level, to);
      String words = to == level ? "level " + level : "levels " + level + " to " + to;
      steps.add(new Step(words, level, to, fresh, found));
      before += fresh;
      level = to + 1;
    }
    long rest = rows - before;
    steps.add(
        rest > 0
            ? new Step("levels from " + level + " on", level, Long.MAX_VALUE, rest, rest)
            : new Step(
                "level " + level + ": nothing new",
                level,
                level,
                0,
                foundOf.getOrDefault(level, 0L)));
    return steps;
  }

  private static long sum(Map<Long, Long> figures, long from, long to) {
    return figures.entrySet().stream()
        .filter(each -> each.getKey() >= from && each.getKey() <= to)
        .mapToLong(Map.Entry::getValue)
        .sum();
  }

  /** Rows that were there already are found, and not taken once more. */
  private Entry level(Step step, long before, Answers names) {
    List<Change> changes = new ArrayList<>();
    changes.add(new Change(Figure.ADDED, step.found(), List.of()));
    long met = step.found() - step.fresh();
    if (met != 0) {
      List<Cause> causes =
          LostLines.one("they were found before", met, again.get(step.from()), names);
      changes.add(new Change(Figure.MERGED, met, causes));
    }
    return entry(Kind.LEVEL, step.words(), before, changes, before + step.fresh());
  }
}
