package io.lantrel.claim.kinds;

import io.lantrel.probe.Question;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.Resolution;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/**
 * No two rows agree in some columns, where NULL is like NULL; or no two rows are of one row of a
 * table, where rows without one do not count.
 */
final class OneRowPer implements Meaning {

  private final List<Integer> positions;
  private final List<Subject> subjects;
  private final String words;

  /**
   * @param columns where the columns stand that are named
   * @param subjects the tables that are named; their keys count
   * @param words what is named, as its author names it
   */
  OneRowPer(List<Integer> columns, List<Subject> subjects, String words) {
    List<Integer> all = new ArrayList<>(columns);
    subjects.forEach(subject -> all.addAll(subject.positions()));
    this.positions = all.stream().distinct().toList();
    this.subjects = List.copyOf(subjects);
    this.words = words;
  }

  @Override
  public boolean follows(Resolution resolution) {
    Set<Integer> known = new HashSet<>(positions);
    return resolution.result().keys().stream().anyMatch(known::containsAll)
        || resolution.result().block().filter(block -> isFixed(block, known)).isPresent()
        || subjects.stream().anyMatch(subject -> isOnce(subject, resolution));
  }

  private static boolean isOnce(Subject subject, Resolution resolution) {
    List<Subject.Through> way = subject.through(resolution);
    return way.size() == 1
        && !way.get(0).block().isGrouped()
        && isKey(subject, way.get(0).use())
        && Uniqueness.of(way.get(0).block(), way.get(0).use(), subject.key());
  }

  /** Whether two rows of the table can agree in the key only where it is NULL. */
  private static boolean isKey(Subject subject, TableUse use) {
    return use.table().stream()
        .flatMap(table -> table.keys().stream())
        .anyMatch(key -> key.columns().equals(subject.key().columns()));
  }

  /** Whether the columns fix the row of every table, so that no two joined rows agree in them. */
  private static boolean isFixed(QueryBlock block, Set<Integer> known) {
    if (block.isGrouped() || block.select().from() == null || !block.standsAlone()) {
      return false;
    }
    Set<UseColumn> columns = new HashSet<>();
    block.outputs().stream()
        .filter(output -> known.contains(output.position()))
        .forEach(output -> block.column(output.value()).ifPresent(columns::add));
    return block.showsRowsOnce() && block.determinedBy(columns).containsAll(block.uses());
  }

  @Override
  public Shown shownByPart() {
    return Shown.BREACH;
  }

  @Override
  public Inquiry inquiry(ResultRows rows) {
    Question<long[]> question =
        rows.numbers(
            Query.of(
                Sql.select(
                    List.of(
                        Sql.as(Sql.count(), "c0"),
                        Sql.as(FunctionCall.of("SUM", Sql.column("g", "n")), "c1")),
                    Sql.derived(groups(rows, List.of(Sql.as(Sql.count(), "n"))), "g"),
                    null)),
            2,
            answer -> new long[] {answer.figure(0), answer.figure(1)});
    return new Inquiry(
        List.of(rows.count(), question),
        answers -> {
          long[] found = answers.to(question);
          long all = answers.to(rows.count());
          if (all == 0) {
            return Outcome.nothing("the result has no row");
          }
          return found[0] == 0
              ? Outcome.holds(
                  (all == 1 ? "1 row" : Words.rows(all) + ", no two of them of one " + words))
              : broken(rows, found);
        });
  }

  private Outcome broken(ResultRows rows, long[] found) {
    List<SelectItem> items = new ArrayList<>();
    List<String> headings = new ArrayList<>();
    for (int position : positions) {
      items.add(Sql.as(ResultRows.column(position), "c" + items.size()));
      headings.add(rows.names().asked().heading(position));
    }
    items.add(Sql.as(Sql.count(), "c" + items.size()));
    headings.add("rows");
    Outcome outcome =
        Outcome.broken(
            (subjects.size() == 1 && positions.size() == subjects.get(0).positions().size()
                    ? Words.count(found[0], subjects.get(0).word())
                    : Words.count(found[0], "value") + " of " + words)
                + (found[0] == 1 ? " has " : " have ")
                + "several rows, "
                + Words.number(found[1])
                + " in all",
            found[0],
            rows.first(groups(rows, items), items.size()),
            headings);
    return subjects.size() == 1 ? outcome.by(subjects.get(0), true) : outcome;
  }

  private QueryBody groups(ResultRows rows, List<SelectItem> items) {
    List<Expression> columns = positions.stream().map(ResultRows::column).toList();
    List<Expression> present =
        subjects.stream()
            .flatMap(subject -> subject.positions().stream())
            .map(ResultRows::column)
            .map(Sql::isNotNull)
            .toList();
    return new QueryBody.Select(
        Span.NOWHERE,
        false,
        items,
        rows.from(),
        present.isEmpty() ? null : Sql.all(present),
        columns,
        Sql.greater(Sql.count(), Sql.number(1)));
  }
}
