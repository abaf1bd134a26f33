package io.lantrel.trace.asked;

import io.lantrel.resolve.Aggregates;
import io.lantrel.resolve.Binding;
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.Resolution;
import io.lantrel.resolve.ResolvedQuery;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.SqlPrinter;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value.ColumnName;
import io.lantrel.trace.ColumnOrigin;
import io.lantrel.trace.ColumnOrigin.OfTable;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** Follows the columns of a result to those of tables. Only reads trees. */
public final class ColumnOrigins {

  private final Resolution resolution;
  private final Map<Span, List<QueryBlock>> blocks = new HashMap<>();
  private final Set<UseColumn> seen = new HashSet<>();

  public ColumnOrigins(Resolution resolution) {
    this.resolution = resolution;
    resolution
        .blocks()
        .forEach(
            block ->
                blocks.computeIfAbsent(block.query().span(), key -> new ArrayList<>()).add(block));
  }

  /** Of each column of the result, in order. */
  public List<ColumnOrigin> all() {
    ResolvedQuery result = resolution.result();
    List<ColumnOrigin> origins = new ArrayList<>();
    for (OutputColumn output : result.outputs()) {
      Set<OfTable> from = new LinkedHashSet<>();
      seen.clear();
      boolean copied = result.parts().stream().allMatch(part -> isCopied(part, output.position()));
      ofPosition(result, output.position(), from);
      Expression value = output.value();
      origins.add(
          new ColumnOrigin(
              output.name(),
              SqlPrinter.print(value, resolution.root().dialect()),
              copied && from.size() > 0,
              List.copyOf(from)));
    }
    return origins;
  }

  private void ofPosition(ResolvedQuery query, int position, Set<OfTable> from) {
    for (QueryBlock part : query.parts()) {
      if (position < part.outputs().size()) {
        of(part, part.outputs().get(position).value(), from);
      }
    }
  }

  private void of(QueryBlock block, Expression value, Set<OfTable> from) {
    Aggregates.withoutQueries(value)
        .forEach(
            node -> {
              if (node instanceof ColumnName name) {
                of(block.binding(name), block, from);
              }
              for (Node part : node.children()) {
                if (part instanceof Query inner) {
                  shownBy(inner, from);
                }
              }
            });
  }

  /** A query for a value stands for what it shows. */
  private void shownBy(Query query, Set<OfTable> from) {
    for (QueryBlock inner : blocks.getOrDefault(query.span(), List.of())) {
      inner.outputs().forEach(output -> of(inner, output.value(), from));
    }
  }

  private void of(Binding binding, QueryBlock block, Set<OfTable> from) {
    if (binding instanceof Binding.ToColumn bound) {
      of(bound.column(), from);
    } else if (binding instanceof Binding.ToMerged merged) {
      merged.columns().forEach(column -> of(column, from));
    } else if (binding instanceof Binding.ToOutput label) {
      of(block, label.output().value(), from);
    }
  }

  private void of(UseColumn column, Set<OfTable> from) {
    if (!seen.add(column)) {
      return;
    }
    if (column.use().table().isPresent()) {
      from.add(new OfTable(column.use().table().get().name(), column.tableColumn()));
    } else {
      column.use().result().ifPresent(query -> ofPosition(query, column.position(), from));
    }
  }

  private static boolean isCopied(QueryBlock block, int position) {
    return block
        .shownAt(position)
        .map(
            column ->
                column.use().table().isPresent()
                    || column
                        .use()
                        .result()
                        .map(
                            query ->
                                query.parts().stream()
                                    .allMatch(part -> isCopied(part, column.position())))
                        .orElse(false))
        .orElse(false);
  }
}
