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
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Condition.ComparisonOperator;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * A value compared with NULL by a sign, or looked for in a list that holds NULL: the answer is
 * unknown, whatever the value (ISO/IEC 9075-2, 8.2, general rules).
 */
public final class NullComparison implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    List<Suspicion> suspicions = new ArrayList<>();
    for (Condition.Comparison each : subject.nodes(Condition.Comparison.class)) {
      if (subject.hasParameter(each)) {
        continue;
      }
      if (Value.Literal.isNull(each.right())) {
        suspicions.add(compared(each, each.left(), subject));
      } else if (Value.Literal.isNull(each.left())) {
        suspicions.add(compared(each, each.right(), subject));
      }
    }
    for (Condition.InList each : subject.nodes(Condition.InList.class)) {
      boolean withNull = each.list().stream().anyMatch(Value.Literal::isNull);
      if (!each.negated() && withNull && !subject.hasParameter(each)) {
        suspicions.add(listed(each, subject));
      }
    }
    for (Value.Case each : subject.nodes(Value.Case.class)) {
      Expression operand = each.operand();
      if (operand != null) {
        each.whens().stream()
            .filter(when -> Value.Literal.isNull(when.when()))
            .forEach(when -> suspicions.add(chosen(operand, when, subject)));
      }
    }
    return suspicions;
  }

  private static Suspicion compared(
      Condition.Comparison comparison, Expression value, Subject subject) {
    String test =
        comparison.operator() == ComparisonOperator.EQUAL
            ? "IS NULL"
            : comparison.operator() == ComparisonOperator.NOT_EQUAL ? "IS NOT NULL" : "";
    String right = subject.text(value) + " " + subject.edits().keyword(test);
    String advice = test.isEmpty() ? "Compare it with a value." : "Write " + right + ".";
    return suspicion(
        comparison.span(),
        value,
        subject.text(comparison) + " is true for no row, not even where it is NULL. " + advice,
        test.isEmpty() ? List.of() : List.of(List.of(new Edit(comparison.span(), right))),
        subject);
  }

  private static Suspicion listed(Condition.InList in, Subject subject) {
    String value = subject.text(in.value());
    List<String> others =
        in.list().stream().filter(each -> !Value.Literal.isNull(each)).map(subject::text).toList();
    String isNull = value + " " + subject.edits().keyword("IS NULL");
    String right =
        others.isEmpty()
            ? isNull
            : "("
                + value
                + " "
                + subject.edits().keyword("IN")
                + " ("
                + String.join(", ", others)
                + ") "
                + subject.edits().keyword("OR")
                + " "
                + isNull
                + ")";
    return suspicion(
        in.span(),
        in.value(),
        "The NULL in this list matches no row, not even where "
            + value
            + " is NULL. Write "
            + right
            + ".",
        List.of(List.of(new Edit(in.span(), right))),
        subject);
  }

  private static Suspicion chosen(Expression operand, Value.When when, Subject subject) {
    String value = subject.text(operand);
    return suspicion(
        when.when().span(),
        operand,
        "WHEN NULL is met by no row, not even where "
            + value
            + " is NULL. Write CASE WHEN "
            + value
            + " IS NULL.",
        List.of(),
        subject);
  }

  /** How many rows have NULL there, as far as it is a column of the block. */
  private static Suspicion suspicion(
      Span place, Expression value, String message, List<List<Edit>> repairs, Subject subject) {
    Optional<UseColumn> column = subject.ownColumn(value);
    Optional<Question<Long>> empty =
        column.flatMap(each -> subject.rows().map(rows -> empty(rows, each)));
    return Suspicion.asking(
        Kind.NULL_COMPARISON,
        place,
        List.of(place),
        empty,
        found ->
            Optional.of(
                new Conclusion(
                    Severity.WARNING, message, evidence(subject.text(value), found), repairs)));
  }

  private static Question<Long> empty(JoinedRows rows, UseColumn column) {
    return Question.count(
        rows.all(), Sql.all(List.of(rows.isJoined(), Sql.isNull(rows.column(rows.all(), column)))));
  }

  private static Evidence evidence(String value, Optional<Long> empty) {
    return empty
        .map(
            count ->
                new Evidence(
                    Map.of("rows with NULL", count),
                    List.of(),
                    List.of(value + " is NULL in " + Words.rows(count) + ", and none is met")))
        .orElseGet(
            () -> Evidence.facts(List.of("NULL equals nothing, and nothing differs from it")));
  }
}
