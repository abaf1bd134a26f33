package io.lantrel.ledger.account;

import io.lantrel.ledger.Change;
import io.lantrel.ledger.Entry;
import io.lantrel.ledger.Entry.Kind;
import io.lantrel.ledger.Figure;
import io.lantrel.ledger.Ledger;
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
  private @Nullable Question<Map<Long, Long>> askedRows;
  private @Nullable Question<Map<Long, Long>> askedFound;
  private long rows;
  private Map<Long, Long> rowsOf = Map.of();
  private Map<Long, Long> foundOf = Map.of();

  /**
   * @param blocks those that the recursion is put together of
   * @param parts their accounts
   */
  RecursionAccount(String name, CommonTable table, List<QueryBlock> blocks, List<Account> parts) {
    this.name = name;
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
  public Ledger ledger(Answers names) {
    List<Entry> entries = new ArrayList<>();
    List<String> untold = new ArrayList<>();
    if (rowsOf.isEmpty() && rows > 0) {
      entries.add(entry(Kind.FROM, "all levels", rows, List.of(), rows));
      untold.add("the levels of " + name + " are not told one by one");
    } else {
      levels(entries);
    }
    entries.forEach(Balance::check);
    Balance.check(entries.get(entries.size() - 1).after(), rows, "the rows of " + name);
    return new Ledger(
        name, entries, parts.stream().map(each -> each.ledger(names)).toList(), List.of(), untold);
  }

  private Entry entry(Kind kind, String words, long before, List<Change> changes, long after) {
    return new Entry(kind, words, table.span(), before, changes, after);
  }

  private void levels(List<Entry> entries) {
    long start = rowsOf.getOrDefault(0L, 0L);
    entries.add(entry(Kind.FROM, "the start", start, List.of(), start));
    long last = rowsOf.keySet().stream().reduce(0L, Math::max);
    long before = start;
    long level = 1;
    while (level <= last) {
      long to = level == SHOWN && last > SHOWN ? last : level;
      long fresh = sum(rowsOf, level, to);
      long found = foundOf.isEmpty() ? fresh : sum(foundOf, level, to);
      String words = to == level ? "level " + level : "levels " + level + " to " + to;
      entries.add(level(words, before, fresh, found));
      before += fresh;
      level = to + 1;
    }
    if (rows > before) {
      entries.add(level("levels from " + level + " on", before, rows - before, rows - before));
      return;
    }
    long met = foundOf.getOrDefault(level, 0L);
    entries.add(level("level " + level + ": nothing new", before, 0, met));
  }

  private static long sum(Map<Long, Long> figures, long from, long to) {
    return figures.entrySet().stream()
        .filter(each -> each.getKey() >= from && each.getKey() <= to)
        .mapToLong(Map.Entry::getValue)
        .sum();
  }

  /** Rows that were there already are found, and not taken once more. */
  private Entry level(String words, long before, long fresh, long found) {
    List<Change> changes = new ArrayList<>(List.of(new Change(Figure.ADDED, found, List.of())));
    if (found != fresh) {
      changes.add(new Change(Figure.MERGED, found - fresh, List.of()));
    }
    return entry(Kind.LEVEL, words, before, changes, before + fresh);
  }
}
