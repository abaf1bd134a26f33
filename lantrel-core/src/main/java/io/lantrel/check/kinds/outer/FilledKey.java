package io.lantrel.check.kinds.outer;

import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.engine.NamedRow;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.RowNames;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

/**
 * What a row is known by, taken from the side that an outer join fills: it is NULL just for the
 * rows that the outer join is there to keep, and in groups all of these become one.
 */
public final class FilledKey implements Check {

  private static final int SHOWN = 3;

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    if (subject.rows().isEmpty() || block.isOnlyAskedForARow() || !block.hasAllOutputs()) {
      return List.of();
    }
    return block.outputs().stream()
        .flatMap(output -> filled(output, block).stream())
        .limit(1)
        .map(filled -> filled.suspicion(subject))
        .toList();
  }

  private static Optional<Filled> filled(OutputColumn output, QueryBlock block) {
    Optional<UseColumn> shown = block.column(output.value()).filter(block::isOwn);
    if (shown.isEmpty() || output.value().span().isNowhere() || isTested(shown.get(), block)) {
      return Optional.empty();
    }
    UseColumn column = shown.get();
    Set<UseColumn> mentioned = new HashSet<>();
    block.outputs().forEach(each -> mentioned.addAll(block.columnsIn(each.value())));
    for (JoinStep step : block.stepsThatFill(column.use())) {
      Optional<UseColumn> kept =
          step.conjuncts().stream()
              .flatMap(each -> each.equality().stream())
              .filter(each -> each.of(column.use()).filter(column::equals).isPresent())
              .map(each -> each.other(column))
              .filter(each -> isKept(each, column, step, block))
              .findFirst();
      if (kept.isPresent()) {
        boolean known =
            block.isGrouped()
                ? block.determinedBy(columns(block.groupedBy(), block)).contains(kept.get().use())
                : mentioned.contains(kept.get());
        return known
            ? Optional.empty()
            : Optional.of(new Filled(column, kept.get(), step, isNamed(kept.get(), block)));
      }
    }
    return Optional.empty();
  }

  /**
   * Whether it is of what its row is known by, and has a value where the other is filled: not
   * filled itself, but by FULL JOIN. A reference to nothing is told by the key that is not found.
   */
  private static boolean isKept(UseColumn kept, UseColumn column, JoinStep step, QueryBlock block) {
    boolean both = step.optional().contains(kept.use());
    boolean known = kept.use().keys().stream().anyMatch(key -> key.columns().contains(kept.name()));
    return known
        && !kept.use().equals(column.use())
        && (both || block.stepsThatFill(kept.use()).isEmpty());
  }

  /** Whether WHERE is about it: who asks for NULL there knows. */
  private static boolean isTested(UseColumn column, QueryBlock block) {
    return block.filters().stream()
        .anyMatch(each -> block.columnsIn(each.condition()).contains(column));
  }

  private static Set<UseColumn> columns(List<Expression> values, QueryBlock block) {
    Set<UseColumn> columns = new HashSet<>();
    values.forEach(each -> block.column(each).filter(block::isOwn).ifPresent(columns::add));
    return columns;
  }

  /** Whether each line shows something else of the row that it is about. */
  private static boolean isNamed(UseColumn kept, QueryBlock block) {
    return !block.isGrouped()
        && block.outputs().stream()
            .anyMatch(each -> block.mentioned(each.value()).contains(kept.use()));
  }

  /**
   * A column that is shown.
   *
   * @param column the column
   * @param kept the column of the other side that is equal to it
   * @param step the outer join
   * @param named whether the line says by another column what it is about
   */
  private record Filled(UseColumn column, UseColumn kept, JoinStep step, boolean named) {

    Suspicion suspicion(Subject subject) {
      Span place = places(subject).get(0);
      JoinedRows rows = subject.rows().orElseThrow();
      return Suspicion.counting(
          Kind.FILLED_KEY,
          place,
          List.of(place),
          Question.count(rows.all(), isEmpty(rows)),
          count -> conclude(count, subject));
    }

    private Expression isEmpty(JoinedRows rows) {
      return rows.isKept(
          Sql.not(rows.isThere(rows.all(), column.use())),
          Sql.isNotNull(rows.column(rows.all(), kept)));
    }

    /** Where it is written by itself: shown, grouped by. */
    private List<Span> places(Subject subject) {
      QueryBlock block = subject.block();
      return Stream.concat(
              block.outputs().stream().map(OutputColumn::value),
              Stream.concat(
                  block.select().groupBy().stream(),
                  block.query().orderBy().stream().map(each -> each.value())))
          .filter(each -> block.column(each).filter(column::equals).isPresent())
          .map(Expression::span)
          .filter(span -> !span.isNowhere())
          .distinct()
          .toList();
    }

    private Conclusion conclude(long count, Subject subject) {
      boolean full = step.optional().contains(kept.use());
      String right =
          full
              ? subject.edits().keyword("COALESCE")
                  + "("
                  + column.written()
                  + ", "
                  + kept.written()
                  + ")"
              : kept.written();
      boolean grouped = !subject.block().groupedBy().isEmpty();
      String message =
          column.words()
              + " is NULL for "
              + Words.one(kept.use().rowWord())
              + " without "
              + Words.one(column.use().rowWord())
              + ": "
              + (grouped
                  ? "all of these make one group, " + Words.rows(count)
                  : Words.rows(count)
                      + (named
                          ? (count == 1 ? " shows" : " show") + " no key"
                          : (count == 1 ? " does" : " do") + " not say what it is about"))
              + ". "
              + (grouped ? "Show and group by " : "Show ")
              + right
              + ".";
      JoinedRows rows = subject.rows().orElseThrow();
      Question<List<NamedRow>> names =
          RowNames.question(rows, rows.all(), kept.use(), isEmpty(rows), SHOWN);
      return Conclusion.asking(
          named ? Severity.NOTE : Severity.WARNING,
          message,
          names,
          found -> new Evidence(Map.of("rows without it", count), found, List.of()),
          List.of(edits(right, subject)));
    }

    private List<Edit> edits(String right, Subject subject) {
      List<Edit> edits = new ArrayList<>();
      places(subject).forEach(place -> edits.add(new Edit(place, right)));
      boolean otherwise = !kept.name().equals(column.name()) || !right.equals(kept.written());
      for (SelectItem item : subject.block().select().items()) {
        if (otherwise
            && item instanceof SelectItem.Output output
            && output.label() == null
            && subject.block().column(output.value()).filter(column::equals).isPresent()) {
          String label =
              subject.edits().beforeLabel() + subject.block().dialect().write(column.name());
          edits.add(Edit.insert(output.value().span().end(), label));
        }
      }
      return edits;
    }
  }
}
