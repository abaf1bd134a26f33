package io.lantrel.check.kinds.joins;

import io.lantrel.check.suspicion.Subject;
import io.lantrel.engine.SampleData;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Relation;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.SelectItem;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/** What a result is about, and the joins that repeat its rows although they show nothing. */
public final class Repeated {

  private final QueryBlock block;

  public Repeated(QueryBlock block) {
    this.block = block;
  }

  /** The table uses of which something is shown. */
  public Set<TableUse> shown() {
    Set<TableUse> shown = new LinkedHashSet<>();
    block.outputs().forEach(each -> shown.addAll(block.mentioned(each.value())));
    return shown;
  }

  /**
   * The joins of tables of which nothing is shown, and whose rows are not fixed by what is shown:
   * they repeat lines. Empty where what is shown has no key, so that nothing is known.
   */
  public List<JoinStep> steps() {
    Set<TableUse> shown = shown();
    Set<UseColumn> keys = new HashSet<>();
    for (TableUse use : shown) {
      if (use.keys().isEmpty()) {
        return List.of();
      }
      keys.addAll(use.keyColumns());
    }
    Set<TableUse> fixed = block.determinedBy(keys);
    List<JoinStep> steps = new ArrayList<>();
    for (JoinStep step : block.steps()) {
      boolean repeats =
          !shown.isEmpty()
              && step.right().stream().noneMatch(shown::contains)
              && step.right().stream().anyMatch(use -> !fixed.contains(use))
              && step.join().way() == FromItem.Way.BY_CONDITION
              // The rows without a partner are no repetition: all that is shown of them is NULL.
              && shown.stream().noneMatch(step.optional()::contains);
      if (repeats) {
        steps.add(step);
      }
    }
    return steps;
  }

  /**
   * Whether anything but its own join mentions a table of the step: a test of WHERE, an order.
   *
   * @param step the join
   */
  public boolean isUsedElsewhere(JoinStep step) {
    List<Expression> elsewhere = new ArrayList<>();
    block.filters().stream().map(Conjunct::condition).forEach(elsewhere::add);
    elsewhere.addAll(block.groupedBy());
    block.query().orderBy().forEach(item -> elsewhere.add(item.value()));
    return elsewhere.stream()
        .anyMatch(each -> block.mentioned(each).stream().anyMatch(step.right()::contains));
  }

  /**
   * How many lines there are, and how many of different rows: two rows may show the same.
   *
   * @param lines all of them
   * @param different each row of what is shown once
   */
  public record Lines(long lines, long different) {}

  /** Counted over the rows that meet WHERE; empty if these cannot be looked at. */
  public static Optional<Question<Lines>> lines(Subject subject, TableUse use) {
    return subject.rows().map(rows -> lines(rows, use));
  }

  private static Question<Lines> lines(JoinedRows rows, TableUse use) {
    Relation kept = rows.kept(use).relation();
    List<Expression> keys =
        new Repeated(rows.block())
            .shown().stream()
                .flatMap(shown -> shown.keyColumns().stream())
                .map(column -> rows.column(kept, column))
                .toList();
    String name = SampleData.RESERVED + "lines";
    List<SelectItem> items = List.of(Sql.as(Sql.count(), "n"));
    FromItem grouped = Sql.derived(kept.select(false, items, null, keys, null), name);
    Expression size = Sql.column(name, "n");
    Query query =
        Query.of(
            Sql.select(
                List.of(Sql.as(FunctionCall.of("SUM", size), "c0"), Sql.as(Sql.count(), "c1")),
                grouped,
                null));
    return Question.numbers(kept, query, 2, row -> new Lines(row.figure(0), row.figure(1)));
  }
}
