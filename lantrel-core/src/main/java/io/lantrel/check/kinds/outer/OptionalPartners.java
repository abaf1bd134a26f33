package io.lantrel.check.kinds.outer;

import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.OrderItem;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;

/** Rows of a table that an outer join fills with NULL where there is none, and that can be many. */
final class OptionalPartners {

  private OptionalPartners() {}

  /** The one outer join that fills it, where a row can have several partners. */
  static Optional<JoinStep> severalFrom(TableUse use, QueryBlock block) {
    List<JoinStep> steps = block.stepsThatFill(use);
    if (steps.size() != 1) {
      return Optional.empty();
    }
    JoinStep step = steps.get(0);
    boolean several =
        switch (step.kind()) {
          case LEFT ->
              step.right().equals(List.of(use)) && !block.partnersOnTheRight(step).isSingle();
          case RIGHT ->
              step.left().equals(List.of(use)) && !block.partnersOnTheLeft(step).isSingle();
          default -> false;
        };
    return several ? Optional.of(step) : Optional.empty();
  }

  /** On the side that an outer join keeps: the table that its condition mentions. */
  static TableUse kept(JoinStep step) {
    return OuterJoinCancelled.mentioned(
        step, step.kind() == JoinKind.LEFT ? step.left() : step.right());
  }

  /** Whether the select list, HAVING or ORDER BY speaks of them. */
  static boolean isShown(TableUse use, QueryBlock block) {
    Stream<Node> shown =
        Stream.of(
                block.outputs().stream().map(output -> output.value()),
                Stream.ofNullable(block.select().having()),
                block.query().orderBy().stream().map(OrderItem::value))
            .flatMap(each -> each);
    return shown.anyMatch(each -> block.mentioned(each).contains(use));
  }

  /** The column of IS NULL. */
  static Optional<UseColumn> emptyColumn(Expression term, QueryBlock block) {
    return term instanceof Condition.IsNull test && !test.negated()
        ? block.column(test.value()).filter(block::isOwn)
        : Optional.empty();
  }
}
