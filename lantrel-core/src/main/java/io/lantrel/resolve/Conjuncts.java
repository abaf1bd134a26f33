package io.lantrel.resolve;

import io.lantrel.resolve.Conjunct.Equated;
import io.lantrel.resolve.Conjunct.Origin;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Condition.Comparison;
import io.lantrel.sql.tree.Condition.ComparisonOperator;
import io.lantrel.sql.tree.Expression;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** Takes a condition apart at its ANDs. */
final class Conjuncts {

  private final QueryBlock block;

  Conjuncts(QueryBlock block) {
    this.block = block;
  }

  List<Conjunct> of(Expression condition, Origin origin) {
    return condition instanceof Condition.And and
        ? and.terms().stream().flatMap(term -> of(term, origin).stream()).toList()
        : List.of(one(condition, origin));
  }

  Conjunct one(Expression condition, Origin origin) {
    return new Conjunct(condition, origin, block.mentioned(condition), equated(condition));
  }

  private @Nullable Equated equated(Expression condition) {
    if (condition instanceof Comparison comparison
        && comparison.operator() == ComparisonOperator.EQUAL) {
      Optional<UseColumn> left = block.column(comparison.left()).filter(block::isOwn);
      Optional<UseColumn> right = block.column(comparison.right()).filter(block::isOwn);
      if (left.isPresent() && right.isPresent() && left.get().use() != right.get().use()) {
        return new Equated(left.get(), right.get());
      }
    }
    return null;
  }
}
