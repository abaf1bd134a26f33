package io.lantrel.resolve;

import io.lantrel.resolve.Conjunct.Equated;
import io.lantrel.resolve.Conjunct.Origin;
import io.lantrel.sql.Dialect.Rule;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Condition.Comparison;
import io.lantrel.sql.tree.Condition.ComparisonOperator;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Value.Literal;
import io.lantrel.sql.tree.Value.LiteralKind;
import io.lantrel.sql.tree.Value.RowValue;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** Takes a condition apart at its ANDs. */
final class Conjuncts {

  private final QueryBlock block;

  Conjuncts(QueryBlock block) {
    this.block = block;
  }

  List<Conjunct> of(Expression condition, Origin origin) {
    return of(condition, origin, Set.of());
  }

  /**
   * Those of ON.
   *
   * @param whole table uses that no outer join has filled yet
   */
  List<Conjunct> ofJoin(Expression condition, Set<TableUse> whole) {
    return of(condition, Origin.ON, whole);
  }

  private List<Conjunct> of(Expression condition, Origin origin, Set<TableUse> whole) {
    if (condition instanceof Condition.And and) {
      return and.terms().stream().flatMap(term -> of(term, origin, whole).stream()).toList();
    }
    List<Condition> pairs = pairs(condition);
    return pairs.isEmpty()
        ? List.of(conjunct(condition, false, origin, whole))
        : pairs.stream().map(pair -> conjunct(pair, true, origin, whole)).toList();
  }

  Conjunct one(Expression condition, Origin origin) {
    return conjunct(condition, false, origin, Set.of());
  }

  /** Two rows are equal where each of their values is (ISO/IEC 9075-2, 8.2): a condition each. */
  private List<Condition> pairs(Expression condition) {
    boolean nullsMeet = block.dialect().has(Rule.NULLS_IN_ROWS_ARE_EQUAL);
    List<Condition> pairs = new ArrayList<>();
    if (condition instanceof Comparison comparison
        && comparison.operator() == ComparisonOperator.EQUAL
        && comparison.left() instanceof RowValue left
        && comparison.right() instanceof RowValue right
        && left.values().size() == right.values().size()) {
      for (int i = 0; i < left.values().size(); i++) {
        Expression one = left.values().get(i);
        Expression other = right.values().get(i);
        pairs.add(
            nullsMeet && !isValue(one) && !isValue(other)
                ? new Condition.IsDistinct(comparison.span(), one, other, true)
                : new Comparison(comparison.span(), ComparisonOperator.EQUAL, one, other));
      }
    }
    return pairs;
  }

  /** A constant that no NULL equals in any product. */
  private static boolean isValue(Expression expression) {
    return expression instanceof Literal literal && literal.kind() != LiteralKind.NULL;
  }

  private Conjunct conjunct(
      Expression condition, boolean part, Origin origin, Set<TableUse> whole) {
    return new Conjunct(
        condition,
        part,
        origin,
        block.mentioned(condition),
        between(KeptColumn.equated(condition, block, whole)),
        between(block.alike(condition)));
  }

  private @Nullable Equated between(Optional<Equated> columns) {
    return columns
        .filter(each -> block.isOwn(each.left()) && block.isOwn(each.right()))
        .filter(each -> each.left().use() != each.right().use())
        .orElse(null);
  }
}
