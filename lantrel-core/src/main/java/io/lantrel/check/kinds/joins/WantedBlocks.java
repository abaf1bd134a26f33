package io.lantrel.check.kinds.joins;

import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.Resolution;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.JoinCondition;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Deque;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * The blocks of a query that are written to find rows: its own, those in its FROM and WITH, and
 * subqueries that a row must find something in. What NOT EXISTS, NOT IN or EXCEPT look into, and
 * what a CASE asks, may well have none.
 */
final class WantedBlocks {

  private final Set<Span> found = new LinkedHashSet<>();
  private final Deque<Query> open = new ArrayDeque<>();

  private WantedBlocks() {}

  /** Those inside before those around them. */
  static List<QueryBlock> of(Resolution resolution) {
    WantedBlocks wanted = new WantedBlocks();
    wanted.open.add(resolution.result().query());
    while (!wanted.open.isEmpty()) {
      Query query = wanted.open.remove();
      for (int i = query.with().size() - 1; i >= 0; i--) {
        wanted.open.add(query.with().get(i).query());
      }
      wanted.body(query.body());
    }
    Map<Span, QueryBlock> blocks = new HashMap<>();
    resolution.blocks().forEach(each -> blocks.put(each.select().span(), each));
    List<QueryBlock> found = new ArrayList<>();
    for (Span each : wanted.found) {
      QueryBlock block = blocks.get(each);
      if (block != null) {
        found.add(block);
      }
    }
    Collections.reverse(found);
    return found;
  }

  private void body(QueryBody body) {
    if (body instanceof QueryBody.Nested nested) {
      open.add(nested.query());
    } else if (body instanceof QueryBody.SetOperation operation) {
      boolean taken = operation.operator() == QueryBody.SetOperator.EXCEPT;
      // The start of a recursion is looked at before its step.
      for (int i = taken ? 0 : operation.parts().size() - 1; i >= 0; i--) {
        body(operation.parts().get(i));
      }
    } else if (body instanceof QueryBody.Select select) {
      found.add(select.span());
      if (select.from() != null) {
        from(select.from());
      }
      condition(select.where());
      condition(select.having());
      for (SelectItem item : select.items()) {
        if (item instanceof SelectItem.Output output) {
          value(output.value());
        }
      }
    }
  }

  private void from(FromItem start) {
    Deque<FromItem> items = new ArrayDeque<>(List.of(start));
    while (!items.isEmpty()) {
      FromItem item = items.remove();
      if (item instanceof FromItem.DerivedTable derived) {
        open.add(derived.query());
      } else if (item instanceof FromItem.Join join) {
        items.add(join.left());
        items.add(join.right());
        if (join.condition() instanceof JoinCondition.On on) {
          condition(on.condition());
        }
      }
    }
  }

  private void condition(@Nullable Expression condition) {
    for (Expression term : condition == null ? List.<Expression>of() : Condition.terms(condition)) {
      if (term instanceof Condition.Exists exists) {
        open.add(exists.query());
      } else if (term instanceof Condition.InQuery in && !in.negated()) {
        open.add(in.query());
      } else if (term instanceof Condition.Comparison comparison) {
        value(comparison.left());
        value(comparison.right());
      }
    }
  }

  private void value(Expression value) {
    if (value instanceof Value.ScalarQuery scalar) {
      open.add(scalar.query());
    }
  }
}
