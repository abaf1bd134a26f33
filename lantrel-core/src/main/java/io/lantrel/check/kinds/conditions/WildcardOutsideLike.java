package io.lantrel.check.kinds.conditions;

import io.lantrel.check.Kind;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Relation;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Condition.ComparisonOperator;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** A pattern compared with = : its % stands for itself there, and no row has it. */
public final class WildcardOutsideLike implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    List<Suspicion> suspicions = new ArrayList<>();
    for (Condition.Comparison each : subject.nodes(Condition.Comparison.class)) {
      boolean equal = each.operator() == ComparisonOperator.EQUAL;
      boolean unequal = each.operator() == ComparisonOperator.NOT_EQUAL;
      if ((equal || unequal) && (isPattern(each.right()) || isPattern(each.left()))) {
        suspicions.add(compared(each, equal, subject));
      }
    }
    for (Condition.InList each : subject.nodes(Condition.InList.class)) {
      if (each.list().stream().anyMatch(WildcardOutsideLike::isPattern)) {
        suspicions.add(listed(each, subject));
      }
    }
    return suspicions;
  }

  /** A % that begins or ends a text beside something else. */
  private static boolean isPattern(Expression value) {
    return value instanceof Value.Literal literal
        && literal.kind() == Value.LiteralKind.STRING
        && literal.text().length() > 3
        && (literal.text().startsWith("'%") || literal.text().endsWith("%'"));
  }

  private static Suspicion compared(Condition.Comparison each, boolean equal, Subject subject) {
    boolean behind = isPattern(each.right());
    Expression tested = behind ? each.left() : each.right();
    Expression wanted = behind ? each.right() : each.left();
    String value = subject.text(tested);
    String pattern = subject.text(wanted);
    String sign = subject.edits().keyword(equal ? "LIKE" : "NOT LIKE");
    return suspicion(
        each.span(),
        tested,
        List.of(wanted),
        "Only LIKE takes % for any characters; "
            + (equal ? "= looks for " : "<> leaves out ")
            + "the text "
            + pattern
            + " itself. Write "
            + value
            + " "
            + sign
            + " "
            + pattern
            + ".",
        value + " " + sign + " " + pattern,
        subject);
  }

  private static Suspicion listed(Condition.InList in, Subject subject) {
    String value = subject.text(in.value());
    List<String> terms = new ArrayList<>();
    for (Expression each : in.list()) {
      String sign =
          isPattern(each) ? (in.negated() ? "NOT LIKE" : "LIKE") : in.negated() ? "<>" : "=";
      terms.add(value + " " + subject.edits().keyword(sign) + " " + subject.text(each));
    }
    String between = " " + subject.edits().keyword(in.negated() ? "AND" : "OR") + " ";
    String right = "(" + String.join(between, terms) + ")";
    return suspicion(
        in.span(),
        in.value(),
        in.list().stream().filter(WildcardOutsideLike::isPattern).toList(),
        "Only LIKE takes % for any characters; IN looks for the text itself. Write " + right + ".",
        right,
        subject);
  }

  private static Suspicion suspicion(
      Span place,
      Expression value,
      List<Expression> patterns,
      String message,
      String right,
      Subject subject) {
    Optional<UseColumn> column = subject.ownColumn(value);
    Optional<Question<Long>> same =
        column.flatMap(each -> subject.rows().map(rows -> same(rows, each, value, patterns)));
    return Suspicion.asking(
        Kind.WILDCARD_OUTSIDE_LIKE,
        place,
        List.of(place),
        same,
        found ->
            found.orElse(0L) > 0
                ? Optional.empty()
                : Optional.of(
                    Conclusion.warning(
                        message,
                        List.of(
                            found.isPresent()
                                ? "no row has that text"
                                : "% is an ordinary character outside of LIKE"),
                        List.of(List.of(new Edit(place, right))))));
  }

  /** How many rows hold the text with its %: where some do, it is meant. */
  private static Question<Long> same(
      JoinedRows rows, UseColumn column, Expression value, List<Expression> patterns) {
    Relation side = rows.side(column.use().item());
    return Question.count(
        side, rows.holds(side, new Condition.InList(Span.NOWHERE, value, patterns, false)));
  }
}
