package io.lantrel.check.kinds.conditions;

import io.lantrel.catalog.TypeFamily;
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
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Condition.Between;
import io.lantrel.sql.tree.Condition.Comparison;
import io.lantrel.sql.tree.Condition.ComparisonOperator;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value.Literal;
import io.lantrel.sql.tree.Value.LiteralKind;
import io.lantrel.words.Words;
import java.time.DateTimeException;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * A moment compared with a day, which stands for its midnight (ISO/IEC 9075-2, 6.13): the rest of
 * that day does not meet {@code =}, {@code <=} or the end of BETWEEN.
 */
public final class DayOfMoment implements Check {

  private static final Pattern DAY = Pattern.compile("'(\\d{4}-\\d{2}-\\d{2})'");
  private static final int SHOWN = 3;

  @Override
  public List<Suspicion> suspect(Subject subject) {
    return subject
        .rows()
        .map(
            rows ->
                subject.block().filters().stream()
                    .flatMap(filter -> ofFilter(filter, rows, subject).stream())
                    .toList())
        .orElse(List.of());
  }

  /**
   * A moment and the last day that it may have.
   *
   * @param equal whether it is to be that day
   */
  private record LastDay(Expression moment, Literal day, boolean equal) {

    /** The constant for the day that follows. */
    Optional<Literal> next() {
      Matcher text = DAY.matcher(day.text());
      if (!text.find()) {
        return Optional.empty();
      }
      try {
        String next = LocalDate.parse(text.group(1)).plusDays(1).toString();
        return Optional.of(
            new Literal(Span.NOWHERE, day.kind(), text.replaceFirst("'" + next + "'")));
      } catch (DateTimeException noDay) {
        // No such day in the calendar: the engine says so.
        return Optional.empty();
      }
    }
  }

  private static Optional<LastDay> lastDay(Expression condition) {
    if (condition instanceof Between between && !between.negated()) {
      return day(between.high()).map(day -> new LastDay(between.value(), day, false));
    }
    if (condition instanceof Comparison comparison) {
      Expression left = comparison.left();
      Expression right = comparison.right();
      return switch (comparison.operator()) {
        case EQUAL ->
            day(right)
                .map(day -> new LastDay(left, day, true))
                .or(() -> day(left).map(day -> new LastDay(right, day, true)));
        case LESS_OR_EQUAL -> day(right).map(day -> new LastDay(left, day, false));
        case GREATER_OR_EQUAL -> day(left).map(day -> new LastDay(right, day, false));
        default -> Optional.empty();
      };
    }
    return Optional.empty();
  }

  private static Optional<Literal> day(Expression value) {
    return value instanceof Literal literal
            && (literal.kind() == LiteralKind.DATE || literal.kind() == LiteralKind.STRING)
            && DAY.matcher(literal.text()).find()
        ? Optional.of(literal)
        : Optional.empty();
  }

  private static Optional<Suspicion> ofFilter(Conjunct filter, JoinedRows rows, Subject subject) {
    Optional<LastDay> last = lastDay(filter.condition());
    Optional<UseColumn> column =
        last.flatMap(each -> subject.ownColumn(each.moment()))
            .filter(each -> each.type().family() == TypeFamily.TIMESTAMP);
    Optional<Literal> next = last.flatMap(LastDay::next);
    if (column.isEmpty() || next.isEmpty()) {
      return Optional.empty();
    }
    Expression moment = rows.column(rows.all(), column.get());
    Expression rest =
        Sql.all(
            List.of(
                Sql.greater(moment, last.get().day()),
                new Comparison(Span.NOWHERE, ComparisonOperator.LESS, moment, next.get())));
    Expression left = rows.isKeptBut(filter, rest);
    Question<Long> count = Question.count(rows.all(), left);
    Question<List<NamedRow>> names =
        RowNames.question(rows, rows.all(), column.get().use(), left, SHOWN);
    return Optional.of(
        Suspicion.counting(
            Kind.TYPE_MISMATCH,
            filter.span(),
            List.of(filter.span()),
            count,
            each ->
                Conclusion.asking(
                    Severity.WARNING,
                    message(column.get(), last.get(), each, next.get(), subject),
                    names,
                    named -> new Evidence(Map.of("rows later that day", each), named, List.of()),
                    repairs(filter, last.get(), next.get(), subject))));
  }

  private static String message(
      UseColumn column, LastDay last, long count, Literal next, Subject subject) {
    String day = subject.text(last.day());
    String name = column.words();
    return name
        + " is a moment, and "
        + day
        + " the midnight at which that day begins: "
        + Words.rows(count)
        + " later that day "
        + (count == 1 ? "is" : "are")
        + " left out. Write "
        + (last.equal() ? name + " >= " + day + " AND " : "")
        + name
        + " < "
        + next.text()
        + ".";
  }

  private static List<List<Edit>> repairs(
      Conjunct filter, LastDay last, Literal next, Subject subject) {
    String moment = subject.text(last.moment());
    String and = " " + subject.edits().keyword("AND") + " ";
    String before = moment + " < " + next.text();
    String written;
    if (filter.condition() instanceof Between between) {
      written = moment + " >= " + subject.text(between.low()) + and + before;
    } else {
      written = last.equal() ? moment + " >= " + subject.text(last.day()) + and + before : before;
    }
    return List.of(List.of(new Edit(filter.span(), written)));
  }
}
