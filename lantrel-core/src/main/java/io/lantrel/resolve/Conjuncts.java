package io.lantrel.resolve;

import io.lantrel.resolve.Conjunct.Equated;
import io.lantrel.resolve.Conjunct.Origin;
import io.lantrel.sql.tree.Condition;
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
    return new Conjunct(
        condition,
        origin,
        block.mentioned(condition),
        between(block.equated(condition)),
        between(block.alike(condition)));
  }

  private @Nullable Equated between(Optional<Equated> columns) {
    return columns
        .filter(each -> block.isOwn(each.left()) && block.isOwn(each.right()))
        .filter(each -> each.left().use() != each.right().use())
        .orElse(null);
  }
}
