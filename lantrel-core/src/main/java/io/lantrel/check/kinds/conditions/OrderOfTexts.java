package io.lantrel.check.kinds.conditions;

import io.lantrel.catalog.TypeFamily;
import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Relation;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.Edit;
import io.lantrel.sql.SqlPrinter;
import io.lantrel.sql.tree.Condition.Comparison;
import io.lantrel.sql.tree.Condition.ComparisonOperator;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value.Cast;
import io.lantrel.sql.tree.Value.Literal;
import io.lantrel.sql.tree.Value.LiteralKind;
import io.lantrel.words.Words;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * A number or a day made a text and compared with one: texts are compared letter by letter (ISO/IEC
 * 9075-2, 8.2), so that '9' comes behind '10'. Told where a row is kept or left out for that.
 */
public final class OrderOfTexts implements Check {

  private static final Set<TypeFamily> NUMBERS =
      EnumSet.of(TypeFamily.INTEGER, TypeFamily.DECIMAL, TypeFamily.FLOAT);

  private static final Pattern NUMBER =
      Pattern.compile("'\\s*(-?[0-9]{1,15}(?:\\.[0-9]{1,9})?)\\s*'");

  private static final Pattern DAY =
      Pattern.compile("'\\s*([0-9]{4})-([0-9]{1,2})-([0-9]{1,2})\\s*'");

  @Override
  public List<Suspicion> suspect(Subject subject) {
    if (subject.rows().isEmpty()) {
      return List.of();
    }
    return subject.nodes(Comparison.class).stream()
        .filter(each -> each.operator() != ComparisonOperator.EQUAL)
        .filter(each -> each.operator() != ComparisonOperator.NOT_EQUAL)
        .filter(each -> !subject.hasParameter(each))
        .flatMap(
            each ->
                of(each, each.left(), each.right(), each.operator(), subject)
                    .or(
                        () ->
                            of(each, each.right(), each.left(), each.operator().turned(), subject))
                    .stream())
        .toList();
  }

  private static Optional<Suspicion> of(
      Comparison comparison,
      Expression cast,
      Expression constant,
      ComparisonOperator operator,
      Subject subject) {
    if (!(cast instanceof Cast made)
        || subject.block().type(cast).family() != TypeFamily.TEXT
        || !(constant instanceof Literal text)
        || text.kind() != LiteralKind.STRING) {
      return Optional.empty();
    }
    return subject
        .ownColumn(made.value())
        .flatMap(
            column ->
                value(text.text(), column.type().family(), subject.block().dialect())
                    .map(
                        value ->
                            suspicion(
                                comparison,
                                column,
                                new Comparison(Span.NOWHERE, operator, made.value(), value),
                                subject)));
  }

  /** What the text says, if it says a value of the column. */
  private static Optional<Expression> value(String text, TypeFamily family, Dialect dialect) {
    Matcher number = NUMBER.matcher(text);
    if (NUMBERS.contains(family) && number.matches()) {
      return Optional.of(new Literal(Span.NOWHERE, LiteralKind.NUMBER, number.group(1)));
    }
    Matcher day = DAY.matcher(text);
    if (family == TypeFamily.DATE && day.matches()) {
      String written =
          "%s-%2s-%2s".formatted(day.group(1), day.group(2), day.group(3)).replace(' ', '0');
      return Optional.of(
          dialect.has(Dialect.Rule.DATES_ARE_TEXTS)
              ? Literal.string(written)
              : new Literal(Span.NOWHERE, LiteralKind.DATE, "DATE '" + written + "'"));
    }
    return Optional.empty();
  }

  private static Suspicion suspicion(
      Comparison comparison, UseColumn column, Comparison byValue, Subject subject) {
    JoinedRows rows = subject.rows().orElseThrow();
    Relation side = rows.side(column.use().item());
    Expression asText = rows.holds(side, comparison);
    Expression asValue = rows.holds(side, byValue);
    return Suspicion.counting(
        Kind.TYPE_MISMATCH,
        comparison.span(),
        List.of(comparison.span()),
        Question.count(
            side,
            Sql.any(
                List.of(
                    Sql.all(List.of(asText, Sql.not(asValue))),
                    Sql.all(List.of(asValue, Sql.not(asText)))))),
        count -> conclude(comparison, column, byValue, count, subject));
  }

  private static Conclusion conclude(
      Comparison comparison, UseColumn column, Comparison byValue, long rows, Subject subject) {
    String instead = SqlPrinter.print(byValue, subject.block().dialect());
    return new Conclusion(
        Severity.WARNING,
        subject.text(comparison)
            + " compares letter by letter, and not by the "
            + (column.type().family() == TypeFamily.DATE ? "days" : "numbers")
            + ": "
            + Words.count(rows, column.use().rowWord())
            + (rows == 1 ? " falls" : " fall")
            + " on the other side of it. Write "
            + instead
            + ".",
        new Evidence(
            Map.of("rows on the other side", rows),
            List.of(),
            List.of(column.words() + " is of type " + column.type().text())),
        List.of(List.of(new Edit(comparison.span(), instead))));
  }
}
