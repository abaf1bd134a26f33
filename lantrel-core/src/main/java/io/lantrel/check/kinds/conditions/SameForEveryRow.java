package io.lantrel.check.kinds.conditions;

import io.lantrel.check.Kind;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.Link;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.LexedText;
import io.lantrel.sql.SqlPrinter;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Condition.ComparisonOperator;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;

/**
 * A condition that is true for every row, or for none: a value compared with itself, two constants
 * that one value cannot equal at a time, or always differs from one of, NULL where there is none.
 * Conditions over constants alone are left: {@code 1 = 1} is written on purpose.
 */
public final class SameForEveryRow implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    List<Suspicion> suspicions = new ArrayList<>();
    for (Condition.Comparison each : subject.nodes(Condition.Comparison.class)) {
      if (isSameValue(each.left(), each.right(), subject)) {
        suspicions.add(withItself(each, subject));
      }
    }
    subject
        .nodes(Condition.Or.class)
        .forEach(each -> differs(each, subject).ifPresent(suspicions::add));
    subject
        .nodes(Condition.And.class)
        .forEach(each -> equals(each, subject).ifPresent(suspicions::add));
    subject
        .nodes(Condition.Between.class)
        .forEach(each -> turned(each, subject).ifPresent(suspicions::add));
    subject.block().filters().forEach(each -> missing(each, subject).ifPresent(suspicions::add));
    for (JoinStep step : subject.block().steps()) {
      step.conjuncts().forEach(each -> missingInOn(each, step, subject).ifPresent(suspicions::add));
    }
    return suspicions;
  }

  private static List<Span> about(Span place, Subject subject) {
    List<Span> about = new ArrayList<>(List.of(place));
    stepOf(place, subject).ifPresent(step -> about.add(step.place()));
    return about;
  }

  /** The join in whose condition it stands. */
  private static Optional<JoinStep> stepOf(Span place, Subject subject) {
    return subject.block().steps().stream()
        .filter(
            step ->
                Stream.ofNullable(step.join().condition())
                    .anyMatch(condition -> condition.span().contains(place)))
        .findFirst();
  }

  private static Suspicion suspicion(
      Kind kind, Span place, Conclusion conclusion, Subject subject) {
    return new Suspicion(
        kind, place, about(place, subject), List.of(), answers -> Optional.of(conclusion));
  }

  // ---- a value and itself ----

  private static Suspicion withItself(Condition.Comparison each, Subject subject) {
    boolean equal =
        switch (each.operator()) {
          case EQUAL, LESS_OR_EQUAL, GREATER_OR_EQUAL -> true;
          default -> false;
        };
    Optional<JoinStep> step = stepOf(each.span(), subject);
    List<String> links =
        step.stream()
            .flatMap(
                join ->
                    join.left().stream()
                        .flatMap(
                            left ->
                                join.right().stream()
                                    .flatMap(
                                        right ->
                                            subject.block().linksBetween(left, right).stream())))
            .map(Link::condition)
            .distinct()
            .toList();
    String value = subject.text(each.left());
    String message =
        subject.text(each)
            + " compares a column with itself: it is "
            + (equal ? "true for every row that has a value there" : "true for no row")
            + (links.isEmpty()
                ? ". Compare it with the column that is meant."
                : ". Join on " + String.join(" or ", links) + ".");
    List<List<Edit>> repairs =
        links.size() != 1
            ? List.of()
            : step.stream()
                .flatMap(join -> join.conjuncts().stream())
                .filter(conjunct -> conjunct.condition().equals(each))
                .findFirst()
                .map(conjunct -> Instead.of(conjunct, step.orElseThrow(), links.get(0), subject))
                .orElse(List.of());
    return suspicion(
        equal ? Kind.ALWAYS_TRUE : Kind.NEVER_TRUE,
        each.span(),
        Conclusion.warning(
            message,
            List.of(value + " and " + subject.text(each.right()) + " are one column"),
            repairs),
        subject);
  }

  /** Whether both are made of one column, in the same way or in ways that keep its values. */
  private static boolean isSameValue(Expression one, Expression other, Subject subject) {
    QueryBlock block = subject.block();
    Optional<UseColumn> column = block.meant(one);
    return column.isPresent()
        && column.equals(block.meant(other))
        && (subject.text(one).equals(subject.text(other))
            || (block.kept(one).isPresent() && block.kept(other).isPresent()));
  }

  // ---- one value and two constants ----

  private static boolean differ(Value.Literal one, Value.Literal other) {
    Optional<BigDecimal> first = ConstantTest.number(one);
    Optional<BigDecimal> second = ConstantTest.number(other);
    if (first.isPresent() && second.isPresent()) {
      return first.get().compareTo(second.get()) != 0;
    }
    return one.kind() == other.kind() && !one.text().equalsIgnoreCase(other.text());
  }

  private static Optional<Suspicion> differs(Condition.Or or, Subject subject) {
    List<ConstantTest> tests =
        ConstantTest.in(or.terms(), subject).stream()
            .filter(each -> each.operator() == ComparisonOperator.NOT_EQUAL)
            .toList();
    return pair(tests)
        .map(
            pair -> {
              ConstantTest one = pair.get(0);
              ConstantTest other = pair.get(1);
              Span place = one.condition().span().to(other.condition().span());
              String value = subject.text(one.tested());
              String message =
                  "Whatever "
                      + value
                      + " is, it differs from one of the two: with OR every row that has a value passes."
                      + " Write AND.";
              Span between = Span.between(one.condition().span(), other.condition().span());
              List<List<Edit>> repairs =
                  or.terms().size() == 2
                      ? new LexedText(subject.source(), between, subject.block().dialect())
                          .first("OR").stream()
                              .map(word -> List.of(new Edit(word, subject.edits().keyword("AND"))))
                              .toList()
                      : List.of();
              return suspicion(
                  Kind.ALWAYS_TRUE,
                  place,
                  Conclusion.warning(message, List.of(fact(one, other)), repairs),
                  subject);
            });
  }

  private static String fact(ConstantTest one, ConstantTest other) {
    return one.constant().text() + " and " + other.constant().text() + " are two values";
  }

  private static Optional<List<ConstantTest>> pair(List<ConstantTest> tests) {
    for (int i = 0; i < tests.size(); i++) {
      for (int j = i + 1; j < tests.size() && j < i + 8; j++) {
        ConstantTest one = tests.get(i);
        ConstantTest other = tests.get(j);
        if (one.value().equals(other.value()) && differ(one.constant(), other.constant())) {
          return Optional.of(List.of(one, other));
        }
      }
    }
    return Optional.empty();
  }

  private static Optional<Suspicion> equals(Condition.And and, Subject subject) {
    List<ConstantTest> tests = ConstantTest.in(and.terms(), subject);
    Optional<List<ConstantTest>> equal =
        pair(tests.stream().filter(each -> each.operator() == ComparisonOperator.EQUAL).toList());
    if (equal.isPresent()) {
      return Optional.of(both(equal.get().get(0), equal.get().get(1), and, subject));
    }
    return apart(tests).map(pair -> beyond(pair.get(0), pair.get(1), subject));
  }

  private static Suspicion both(
      ConstantTest one, ConstantTest other, Condition.And and, Subject subject) {
    String value = subject.text(one.tested());
    Span place = one.condition().span().to(other.condition().span());
    String right =
        value
            + " "
            + subject.edits().keyword("IN")
            + " ("
            + subject.text(one.constant())
            + ", "
            + subject.text(other.constant())
            + ")";
    boolean adjacent =
        and.terms().indexOf(other.condition()) == and.terms().indexOf(one.condition()) + 1;
    return suspicion(
        Kind.NEVER_TRUE,
        place,
        Conclusion.warning(
            "No row has two values of "
                + value
                + " at a time, so none passes. Write "
                + right
                + " for rows with either.",
            List.of(fact(one, other)),
            adjacent ? List.of(List.of(new Edit(place, right))) : List.of()),
        subject);
  }

  /** A lower bound above an upper one. */
  private static Optional<List<ConstantTest>> apart(List<ConstantTest> tests) {
    for (ConstantTest low : tests) {
      for (ConstantTest high : tests) {
        boolean bounds =
            low.operator().isAbove()
                && high.operator().isBelow()
                && low.value().equals(high.value());
        if (bounds && isAbove(low.constant(), high.constant())) {
          return Optional.of(
              low.condition().span().start() < high.condition().span().start()
                  ? List.of(low, high)
                  : List.of(high, low));
        }
      }
    }
    return Optional.empty();
  }

  private static boolean isAbove(Expression one, Expression other) {
    Optional<BigDecimal> first = ConstantTest.number(one);
    Optional<BigDecimal> second = ConstantTest.number(other);
    if (first.isPresent() && second.isPresent()) {
      return first.get().compareTo(second.get()) > 0;
    }
    return one instanceof Value.Literal day
        && other instanceof Value.Literal end
        && day.kind() == end.kind()
        && (day.kind() == Value.LiteralKind.DATE || day.kind() == Value.LiteralKind.TIMESTAMP)
        && day.text().compareToIgnoreCase(end.text()) > 0;
  }

  private static Suspicion beyond(ConstantTest one, ConstantTest other, Subject subject) {
    String value = subject.text(one.tested());
    return suspicion(
        Kind.NEVER_TRUE,
        one.condition().span().to(other.condition().span()),
        Conclusion.warning(
            "No "
                + value
                + " is above the one and below the other, so no row passes. Write OR, or turn the"
                + " signs round.",
            List.of(fact(one, other)),
            List.of()),
        subject);
  }

  private static Optional<Suspicion> turned(Condition.Between between, Subject subject) {
    if (between.negated()
        || subject.hasParameter(between)
        || !isAbove(between.low(), between.high())) {
      return Optional.empty();
    }
    String low = subject.text(between.low());
    String high = subject.text(between.high());
    return Optional.of(
        suspicion(
            Kind.NEVER_TRUE,
            between.span(),
            Conclusion.warning(
                "BETWEEN takes the lower bound first: nothing lies between "
                    + low
                    + " and "
                    + high
                    + ". Turn them round.",
                List.of(low + " is above " + high),
                List.of(
                    List.of(
                        new Edit(between.low().span(), high),
                        new Edit(between.high().span(), low)))),
            subject));
  }

  // ---- NULL where there is none ----

  /** IS NULL of a column that holds no NULL where its table was joined by an inner join. */
  private static Optional<Suspicion> missing(Conjunct filter, Subject subject) {
    if (!(filter.condition() instanceof Condition.IsNull test) || test.negated()) {
      return Optional.empty();
    }
    Optional<UseColumn> column = subject.ownColumn(test.value());
    if (column.isEmpty() || !subject.block().isNeverNull(column.get())) {
      return Optional.empty();
    }
    UseColumn tested = column.get();
    Optional<JoinStep> step =
        subject.block().steps().stream()
            .filter(each -> each.right().contains(tested.use()))
            .findFirst();
    boolean joined = step.filter(each -> each.kind() == JoinKind.INNER).isPresent();
    String message =
        tested.words()
            + " is never NULL here, so no row passes."
            + (joined
                ? " To find rows without "
                    + tested.use().words()
                    + ", join it with LEFT JOIN, which keeps them."
                : " Leave the condition out, or test the column that is meant.");
    String printed = SqlPrinter.print(test.value(), subject.block().dialect());
    String fact =
        tested.nullable()
            ? "another condition lets no row pass where " + printed + " is NULL"
            : "the schema lets no row of "
                + tested.use().words()
                + " have NULL in "
                + tested.name();
    List<List<Edit>> repairs =
        joined
            ? List.of(List.of(subject.edits().kind(step.orElseThrow(), JoinKind.LEFT)))
            : List.of();
    Conclusion conclusion = Conclusion.warning(message, List.of(fact), repairs);
    List<Span> about = new ArrayList<>(List.of(filter.span()));
    step.filter(each -> joined).ifPresent(each -> about.add(each.place()));
    return Optional.of(
        new Suspicion(
            Kind.NEVER_TRUE, filter.span(), about, List.of(), answers -> Optional.of(conclusion)));
  }

  /** IS NULL in ON of a column of the side that is joined: the join has not filled it yet. */
  private static Optional<Suspicion> missingInOn(
      Conjunct conjunct, JoinStep step, Subject subject) {
    if (!(conjunct.condition() instanceof Condition.IsNull test) || test.negated()) {
      return Optional.empty();
    }
    List<TableUse> joined =
        switch (step.kind()) {
          case LEFT -> step.right();
          case RIGHT -> step.left();
          default -> List.of();
        };
    Optional<UseColumn> column =
        subject
            .ownColumn(test.value())
            .filter(each -> joined.contains(each.use()) && !each.nullable())
            .filter(each -> subject.block().stepsThatFill(each.use()).equals(List.of(step)));
    return column.map(tested -> inOn(conjunct, step, tested, subject));
  }

  private static Suspicion inOn(
      Conjunct conjunct, JoinStep step, UseColumn tested, Subject subject) {
    Conclusion conclusion =
        Conclusion.warning(
            tested.words()
                + " is never NULL in ON, where the "
                + step.kind().words()
                + " has not filled it yet, so nothing is joined. Move the condition to WHERE to"
                + " find rows without "
                + tested.use().words()
                + ".",
            List.of(
                "the schema lets no row of "
                    + tested.use().words()
                    + " have NULL in "
                    + tested.name()),
            subject.edits().fromOnToWhere(step, conjunct.condition()).stream().toList());
    List<Span> about = List.of(conjunct.span(), step.place());
    return new Suspicion(
        Kind.NEVER_TRUE, conjunct.span(), about, List.of(), answers -> Optional.of(conclusion));
  }
}
