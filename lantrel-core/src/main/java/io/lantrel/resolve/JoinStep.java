package io.lantrel.resolve;

import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.JoinCondition;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.sql.tree.Span;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

/**
 * One join of a block: the rows so far and what is joined to them.
 *
 * @param number from 1, in the order in which the joins are carried out
 * @param join the node
 * @param kind the kind of join; a comma is an outer join if its condition has the old mark {@code
 *     (+)}
 * @param left the table uses of the rows so far
 * @param right the table uses that are joined: one, or several if a join in parentheses is joined
 * @param conjuncts what a row and its partner must meet; for a comma, the conditions of WHERE that
 *     connect the two sides
 */
public record JoinStep(
    int number,
    FromItem.Join join,
    JoinKind kind,
    List<TableUse> left,
    List<TableUse> right,
    List<Conjunct> conjuncts) {
  public JoinStep {
    conjuncts = List.copyOf(conjuncts);
  }

  /** Where its words stand: {@code LEFT JOIN}, or the comma. */
  public Span place() {
    return join.keyword();
  }

  /** Whether columns of one name become one column: USING and NATURAL. */
  public boolean mergesColumns() {
    return join.natural() || join.condition() instanceof JoinCondition.Using;
  }

  /** The table uses that this step may fill with NULLs. */
  public Set<TableUse> optional() {
    LinkedHashSet<TableUse> optional = new LinkedHashSet<>();
    if (kind().keepsLeft()) {
      optional.addAll(right);
    }
    if (kind().keepsRight()) {
      optional.addAll(left);
    }
    return optional;
  }

  /**
   * A column of a table use that is NULL only where a row of it is missing: one of its key, else
   * any that cannot be NULL, else one that must be equal to another here. Empty if there is none.
   */
  public Optional<UseColumn> nullIfMissing(TableUse use) {
    List<UseColumn> key = use.keyColumns();
    List<UseColumn> sure = use.columns().stream().filter(each -> !each.nullable()).toList();
    return sure.stream()
        .filter(key::contains)
        .findFirst()
        .or(() -> sure.stream().findFirst())
        .or(
            () ->
                conjuncts.stream()
                    .flatMap(each -> each.equality().stream())
                    .flatMap(pair -> Stream.of(pair.left(), pair.right()))
                    .filter(column -> column.use().equals(use))
                    .findFirst());
  }

  /** In words: {@code LEFT JOIN river r}. */
  public String words() {
    String sign = join.natural() ? "NATURAL " + kind().words() : kind().words();
    String uses = String.join(", ", right.stream().map(TableUse::words).toList());
    return sign + " " + (right.size() > 1 ? "(" + uses + ")" : uses);
  }
}
