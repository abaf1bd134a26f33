package io.lantrel.rewrite.forms;

import io.lantrel.resolve.QueryBlock;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Condition.ComparisonOperator;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value.ColumnName;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * What ties a subquery to the row outside.
 *
 * @param equalities terms of its WHERE in which something inside equals something outside
 * @param areAll whether nothing else in it depends on the row outside
 */
record Ties(List<Tie> equalities, boolean areAll) {

  Ties {
    equalities = List.copyOf(equalities);
  }

  /** An equality, its sides told apart. */
  record Tie(Expression whole, Expression inner, Expression outer) {}

  static Ties of(Reading reading, QueryBlock inner) {
    List<Tie> found = new ArrayList<>();
    for (Expression term : reading.edits(inner).terms()) {
      tie(reading, inner, term).ifPresent(found::add);
    }
    Span within = inner.query().span();
    boolean areAll =
        inner
            .query()
            .preorder()
            .filter(ColumnName.class::isInstance)
            .filter(name -> found.stream().noneMatch(tie -> holds(tie.outer(), name)))
            .allMatch(name -> reading.namesOnlyWithin(name, within));
    return new Ties(found, areAll);
  }

  private static boolean holds(Expression value, Node name) {
    return value.span().contains(name.span());
  }

  private static Optional<Tie> tie(Reading reading, QueryBlock inner, Expression term) {
    if (!(term instanceof Condition.Comparison c) || c.operator() != ComparisonOperator.EQUAL) {
      return Optional.empty();
    }
    return tie(reading, inner, c, c.left(), c.right())
        .or(() -> tie(reading, inner, c, c.right(), c.left()));
  }

  private static Optional<Tie> tie(
      Reading reading, QueryBlock inner, Expression whole, Expression one, Expression other) {
    boolean outside =
        !reading.columns(other).isEmpty()
            && other
                .preorder()
                .filter(ColumnName.class::isInstance)
                .noneMatch(name -> reading.namesOnlyWithin(name, inner.query().span()));
    return outside && reading.isOf(one, inner.uses())
        ? Optional.of(new Tie(whole, one, other))
        : Optional.empty();
  }
}
