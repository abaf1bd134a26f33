package io.lantrel.probe;

import io.lantrel.engine.SampleData;
import io.lantrel.resolve.Binding;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.ColumnReplacer;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value.ColumnName;
import java.util.HashMap;
import java.util.HashSet;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * What the table uses of a block are called in probes, and those of the blocks around it. A use
 * keeps the name that it has in the query; where two share one, and outside, it gets another.
 */
final class Names {

  private final QueryBlock block;
  private final Map<TableUse, Identifier> names = new IdentityHashMap<>();
  private final Set<TableUse> renamed = new HashSet<>();
  private final ColumnReplacer replacer = new ColumnReplacer(this::replaced);

  private Names(QueryBlock block) {
    this.block = block;
  }

  /** The names of a block whose tables are alone in a FROM. */
  static Names of(QueryBlock block) {
    Names names = new Names(block);
    Map<String, TableUse> known = new HashMap<>();
    for (TableUse use : block.uses()) {
      TableUse first = known.putIfAbsent(block.dialect().key(use.name()), use);
      if (first == null) {
        names.names.put(use, block.dialect().exact(use.name()));
      } else {
        names.rename(first, "u");
        names.rename(use, "u");
      }
    }
    int depth = 1;
    for (QueryBlock outer = block.outer().orElse(null);
        outer != null;
        outer = outer.outer().orElse(null)) {
      for (TableUse use : outer.uses()) {
        names.rename(use, "o" + depth + "_");
      }
      depth++;
    }
    return names;
  }

  private void rename(TableUse use, String as) {
    names.put(use, Identifier.of(SampleData.RESERVED + as + use.index()));
    renamed.add(use);
  }

  boolean isRenamed(TableUse use) {
    return renamed.contains(use);
  }

  Identifier name(TableUse use) {
    return Optional.ofNullable(names.get(use)).orElseThrow();
  }

  boolean knows(TableUse use) {
    return names.containsKey(use);
  }

  /** A column. */
  Expression of(UseColumn column) {
    return new ColumnName(
        Span.NOWHERE, List.of(name(column.use())), block.dialect().exact(column.name()));
  }

  /** The constant beside the rows of a table use. */
  Expression mark(TableUse use) {
    return new ColumnName(Span.NOWHERE, List.of(name(use)), Identifier.of(Presence.MARK));
  }

  /** An expression of the block. */
  Expression of(Expression expression) {
    return replacer.apply(expression);
  }

  /** An item of FROM; one that uses columns of items before it, in these names. */
  FromItem within(TableUse use) {
    if (!use.isDependent()) {
      return use.item();
    }
    if (use.item() instanceof FromItem.DerivedTable derived) {
      Query query = replacer.apply(derived.query());
      return new FromItem.DerivedTable(derived.span(), derived.lateral(), query, derived.alias());
    }
    if (use.item() instanceof FromItem.TableFunction function) {
      List<Expression> calls = function.calls().stream().map(replacer::apply).toList();
      return new FromItem.TableFunction(
          function.span(), function.lateral(), calls, function.ordinality(), function.alias());
    }
    return use.item();
  }

  private Expression replaced(ColumnName name) {
    Binding binding = block.binding(name);
    if (binding instanceof Binding.ToColumn bound && knows(bound.column().use())) {
      return of(bound.column());
    }
    if (binding instanceof Binding.ToMerged merged && knows(merged.columns().get(0).use())) {
      return FunctionCall.of(
          "COALESCE", merged.columns().stream().map(this::of).toArray(Expression[]::new));
    }
    if (binding instanceof Binding.ToOutput label && block.outputs().contains(label.output())) {
      return of(label.output().value());
    }
    return name;
  }
}
