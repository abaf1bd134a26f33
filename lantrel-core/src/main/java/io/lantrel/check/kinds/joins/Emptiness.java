package io.lantrel.check.kinds.joins;

import io.lantrel.check.suspicion.Subject;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Condition.Comparison;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value.ColumnName;
import io.lantrel.words.Words;
import java.util.List;
import java.util.Optional;

/**
 * Joins and conditions that find nothing on this data: how it is known, where it is and in words.
 */
final class Emptiness {

  /** Joins up to which it is worth asking of each what it leaves. */
  static final int MOST_JOINS = 8;

  private Emptiness() {}

  /** How many rows meet a partner at a join. */
  static Question<Long> met(JoinedRows rows, JoinStep step) {
    return Question.count(
        rows.attempts(step), Sql.all(List.of(rows.reached(step), Sql.not(rows.isAlone(step)))));
  }

  /**
   * How many rows would meet a partner at a join that looks for exceptions, if it did not; empty if
   * it does not, or asks for nothing else.
   */
  static Optional<Question<Long>> metButForOrder(JoinedRows rows, JoinStep step) {
    List<Expression> others =
        step.conjuncts().stream()
            .map(Conjunct::condition)
            .filter(each -> !looksForExceptions(each))
            .toList();
    boolean some = !others.isEmpty() && others.size() < step.conjuncts().size();
    // Rows that depend on others cannot be counted by themselves.
    return some && step.right().stream().noneMatch(TableUse::isDependent)
        ? Optional.of(Question.count(rows.almostMet(step, true, others, true)))
        : Optional.empty();
  }

  /**
   * Whether a condition looks for what is out of order: it puts values of rows before each other,
   * and no constant. Who asks for those who earn more than their head may find none.
   */
  static boolean looksForExceptions(Expression condition) {
    return condition instanceof Comparison comparison
        && comparison.operator().isOrder()
        && isOfRows(comparison.left())
        && isOfRows(comparison.right());
  }

  private static boolean isOfRows(Expression value) {
    return value.preorder().anyMatch(ColumnName.class::isInstance);
  }

  /**
   * IS NULL, NOT EXISTS, NOT IN, unequal: such a query finds what is wrong, if there is any. And
   * what a value decides that is given when it runs, is not in the query.
   */
  static boolean isNoSurprise(Expression condition, Subject subject) {
    return condition.preorder().anyMatch(Emptiness::isNegative) || subject.hasParameter(condition);
  }

  private static boolean isNegative(Node node) {
    return (node instanceof Condition.IsNull test && !test.negated())
        || node instanceof Condition.Not
        || (node instanceof Condition.InQuery in && in.negated())
        || (node instanceof Condition.InList in && in.negated())
        || (node instanceof Condition.Comparison comparison
            && comparison.operator() == Condition.ComparisonOperator.NOT_EQUAL);
  }

  /** The condition of a join, or its words if that has no text of its own. */
  static Span place(JoinStep step) {
    return step.conjuncts().stream()
        .map(Conjunct::span)
        .filter(span -> !span.isNowhere())
        .reduce(Span::to)
        .orElse(step.place());
  }

  static String condition(JoinStep step, Subject subject) {
    return String.join(
        " AND ",
        step.conjuncts().stream()
            .map(Conjunct::condition)
            .map(each -> each.span().isNowhere() ? step.words() : subject.text(each))
            .distinct()
            .toList());
  }

  static String words(List<TableUse> uses) {
    return Words.list(uses.stream().map(TableUse::words).toList());
  }
}
