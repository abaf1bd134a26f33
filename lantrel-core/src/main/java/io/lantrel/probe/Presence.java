package io.lantrel.probe;

import io.lantrel.engine.SampleData;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import java.util.Collections;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * Values that are NULL just where a row was filled in by an outer join: a column that the partner
 * must have equal to another (so it is not NULL where there is one), or else a constant that is put
 * beside the rows of a table.
 */
final class Presence {

  /** The constant's name. */
  static final String MARK = SampleData.RESERVED + "here";

  private final QueryBlock block;
  private final Names names;
  private final Map<TableUse, UseColumn> columns = new IdentityHashMap<>();
  private final Set<TableUse> marked = Collections.newSetFromMap(new IdentityHashMap<>());

  Presence(QueryBlock block, Names names) {
    this.block = block;
    this.names = names;
    for (JoinStep step : block.steps()) {
      if (!step.kind().keepsRight()) {
        block
            .use(step.join().right())
            .ifPresent(use -> equated(step, List.of(use)).ifPresent(at -> columns.put(use, at)));
      }
    }
    for (JoinStep step : block.steps()) {
      if (equated(step, step.right()).isEmpty()) {
        mark(step.join().right());
      }
    }
    for (TableUse use : block.uses()) {
      if (!block.stepsThatFill(use).isEmpty() && !columns.containsKey(use)) {
        marked.add(use);
      }
    }
  }

  /** A column of some table uses on the right that must equal something on the left. */
  private static Optional<UseColumn> equated(JoinStep step, List<TableUse> right) {
    return step.conjuncts().stream()
        .flatMap(conjunct -> conjunct.equality().stream())
        .filter(
            each ->
                step.right().contains(each.left().use())
                    != step.right().contains(each.right().use()))
        .map(each -> step.right().contains(each.left().use()) ? each.left() : each.right())
        .filter(column -> right.contains(column.use()))
        .findFirst();
  }

  private void mark(FromItem item) {
    if (!(item instanceof FromItem.Join join)) {
      TableUse use = block.use(item).orElseThrow();
      if (!columns.containsKey(use)) {
        marked.add(use);
      }
      return;
    }
    JoinStep step = block.step(join).orElseThrow();
    if (step.kind().keepsLeft() || !step.kind().keepsRight()) {
      mark(join.left());
    }
    if (step.kind().keepsRight()) {
      mark(join.right());
    }
  }

  /** Whether a constant is to be put beside the rows of a table use. */
  boolean needsMark(TableUse use) {
    return marked.contains(use);
  }

  /** What is NULL just where a row has no partner at a step. */
  Expression ofPartner(JoinStep step) {
    return equated(step, step.right()).map(names::of).orElseGet(() -> of(step.join().right()));
  }

  /** What is NULL just where the row of an item is filled in. */
  Expression of(FromItem item) {
    if (!(item instanceof FromItem.Join join)) {
      return of(block.use(item).orElseThrow());
    }
    JoinStep step = block.step(join).orElseThrow();
    if (!step.kind().keepsRight()) {
      return of(join.left());
    }
    return step.kind().keepsLeft()
        ? FunctionCall.of("COALESCE", of(join.left()), of(join.right()))
        : of(join.right());
  }

  /** What is NULL just where the row of a table use is filled in. */
  Expression of(TableUse use) {
    UseColumn column = columns.get(use);
    if (column != null) {
      return names.of(column);
    }
    return marked.contains(use) ? names.mark(use) : Sql.number(1);
  }
}
