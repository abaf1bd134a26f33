package io.lantrel.check.kinds.conditions;

import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.SqlPrinter;
import io.lantrel.sql.tree.Condition.Between;
import io.lantrel.sql.tree.Condition.Comparison;
import io.lantrel.sql.tree.Condition.ComparisonOperator;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Span;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * A value between two columns of one row, of which the end can be NULL: then nothing lies before it
 * (ISO/IEC 9075-2, 8.3), although such a row mostly has no end yet.
 */
public final class OpenEnd implements Check {

  private static final Set<String> OF_AN_END = Set.of("until", "till", "expiry");

  /** Of a comma join the conditions stand in WHERE. */
  private static final Set<Conjunct.Origin> WRITTEN =
      EnumSet.of(Conjunct.Origin.ON, Conjunct.Origin.WHERE);

  @Override
  public List<Suspicion> suspect(Subject subject) {
    if (subject.rows().isEmpty()) {
      return List.of();
    }
    QueryBlock block = subject.block();
    JoinedRows rows = subject.rows().get();
    List<Suspicion> suspicions = new ArrayList<>();
    for (Range range : ranges(block.filters(), block)) {
      if (range.begins().isEmpty() && !block.stepsThatFill(range.high().use()).isEmpty()) {
        continue; // What an outer join filled is dropped here as well, and that is told.
      }
      List<Expression> open =
          new ArrayList<>(List.of(Sql.isNull(rows.column(rows.all(), range.high()))));
      range.begins().forEach(each -> open.add(rows.holds(rows.all(), each)));
      Question<Long> dropped =
          Question.count(rows.all(), rows.isKeptBut(range.end(), Sql.all(open)));
      suspicions.add(suspicion(range, List.of(), dropped, subject));
    }
    for (JoinStep step : block.steps()) {
      for (Range range : ranges(step.conjuncts(), block)) {
        if (WRITTEN.contains(range.end().origin())) {
          boolean left = step.right().contains(range.high().use());
          List<Expression> open = new ArrayList<>(range.begins());
          open.add(range.isOpen());
          step.conjuncts().stream()
              .filter(each -> !each.equals(range.end()))
              .map(Conjunct::condition)
              .forEach(open::add);
          Question<Long> alone = Question.count(rows.almostMet(step, left, open, true));
          suspicions.add(suspicion(range, List.of(step.place()), alone, subject));
        }
      }
    }
    return suspicions;
  }

  /**
   * Where a value must lie.
   *
   * @param end the condition that it is before the end; perhaps the whole range, as BETWEEN
   * @param begins that it is behind the beginning; none if nothing is said of that
   * @param written the end, as it is written
   * @param high the same as a column
   */
  private record Range(Conjunct end, List<Expression> begins, Expression written, UseColumn high) {

    Expression isOpen() {
      return Sql.isNull(written);
    }
  }

  private static List<Range> ranges(List<Conjunct> conjuncts, QueryBlock block) {
    List<Range> ranges = new ArrayList<>();
    for (Conjunct each : conjuncts) {
      if (each.condition() instanceof Between between && !between.negated()) {
        Expression begins =
            new Comparison(
                Span.NOWHERE, ComparisonOperator.GREATER_OR_EQUAL, between.value(), between.low());
        end(between.value(), between.low(), between.high(), block)
            .ifPresent(high -> ranges.add(new Range(each, List.of(begins), between.high(), high)));
      } else {
        Bound.of(each.condition()).stream()
            .filter(Bound::isUpper)
            .forEach(
                upper ->
                    conjuncts.stream()
                        .flatMap(other -> Bound.of(other.condition()).stream())
                        .filter(lower -> !lower.isUpper() && lower.isOf(upper, block))
                        .forEach(
                            lower ->
                                end(upper.value(), lower.limit(), upper.limit(), block)
                                    .ifPresent(
                                        high ->
                                            ranges.add(
                                                new Range(
                                                    each,
                                                    List.of(lower.condition()),
                                                    upper.limit(),
                                                    high)))));
      }
    }
    stillValid(conjuncts, block).stream()
        .filter(each -> ranges.stream().noneMatch(told -> told.end().equals(each.end())))
        .forEach(ranges::add);
    return ranges;
  }

  /** A day that must be before the end of what is valid, and nothing is said of its beginning. */
  private static List<Range> stillValid(List<Conjunct> conjuncts, QueryBlock block) {
    List<Range> ranges = new ArrayList<>();
    for (Conjunct each : conjuncts) {
      for (Bound bound : Bound.of(each.condition())) {
        Optional<UseColumn> high =
            bound.isUpper() && block.columnsIn(bound.value()).isEmpty()
                ? block.column(bound.limit()).filter(column -> isEndOfValidity(column, block))
                : Optional.empty();
        high.ifPresent(column -> ranges.add(new Range(each, List.of(), bound.limit(), column)));
      }
    }
    return ranges;
  }

  /** By its name, and since the table has a beginning that is never missing. */
  static boolean isEndOfValidity(UseColumn column, QueryBlock block) {
    List<String> words = Words.ofName(column.name());
    boolean named =
        words.stream().anyMatch(word -> word.startsWith("expir") || OF_AN_END.contains(word))
            || (words.size() > 1 && words.get(words.size() - 1).equals("to"));
    return named
        && block.isOwn(column)
        && column.nullable()
        && column.type().family().isOfTime()
        && column.use().columns().stream()
            .anyMatch(each -> each.type().family().isOfTime() && !each.nullable());
  }

  /** The column of the end, if it can be NULL where that of the beginning cannot. */
  private static Optional<UseColumn> end(
      Expression value, Expression low, Expression high, QueryBlock block) {
    Optional<UseColumn> from = block.column(low).filter(block::isOwn);
    Optional<UseColumn> to = block.column(high).filter(block::isOwn);
    boolean open =
        from.isPresent()
            && to.isPresent()
            && from.get().use().equals(to.get().use())
            && !from.get().nullable()
            && to.get().nullable()
            && !block.mentioned(value).contains(to.get().use());
    return open ? to : Optional.empty();
  }

  /**
   * A value and what it is above or below.
   *
   * @param isUpper whether it is below
   */
  private record Bound(Expression condition, Expression value, Expression limit, boolean isUpper) {

    /** A comparison, read both ways round. */
    static List<Bound> of(Expression condition) {
      if (!(condition instanceof Comparison each)) {
        return List.of();
      }
      return switch (each.operator()) {
        case LESS, LESS_OR_EQUAL -> both(each, true);
        case GREATER, GREATER_OR_EQUAL -> both(each, false);
        default -> List.of();
      };
    }

    private static List<Bound> both(Comparison each, boolean isUpper) {
      return List.of(
          new Bound(each, each.left(), each.right(), isUpper),
          new Bound(each, each.right(), each.left(), !isUpper));
    }

    boolean isOf(Bound other, QueryBlock block) {
      return SqlPrinter.print(value, block.dialect())
          .equals(SqlPrinter.print(other.value(), block.dialect()));
    }
  }

  private static Suspicion suspicion(
      Range range, List<Span> joins, Question<Long> left, Subject subject) {
    List<Span> about = new ArrayList<>(joins);
    about.add(range.end().span());
    return Suspicion.counting(
        Kind.NULL_COMPARISON,
        range.end().span(),
        about,
        left,
        count -> conclude(range, count, !joins.isEmpty(), subject));
  }

  private static Conclusion conclude(Range range, long count, boolean joined, Subject subject) {
    String end = subject.text(range.written());
    String written = written(range.end().condition(), end, subject);
    return new Conclusion(
        Severity.WARNING,
        "Nothing is before "
            + end
            + " where that is NULL: "
            + Words.rows(count)
            + (joined
                ? (count == 1 ? " gets" : " get") + " no partner for that alone"
                : (count == 1 ? " is" : " are") + " dropped for that alone")
            + ". If NULL means without an end, write "
            + written
            + ".",
        new Evidence(Map.of("rows left out", count), List.of(), List.of(end + " can be NULL")),
        List.of(List.of(new Edit(range.end().span(), written))));
  }

  private static String written(Expression condition, String end, Subject subject) {
    String and = " " + subject.edits().keyword("AND") + " ";
    String open =
        "(" + end + " " + subject.edits().keyword("IS NULL") + " " + subject.edits().keyword("OR");
    if (condition instanceof Between between) {
      String value = subject.text(between.value());
      String begins = value + " >= " + subject.text(between.low());
      return begins + and + open + " " + value + " <= " + end + ")";
    }
    return open + " " + subject.text(condition) + ")";
  }
}
