package io.lantrel.probe;

import io.lantrel.resolve.Binding;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.Value.ColumnName;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * The rows outside that a block looks at. Of the block's own rows those count that meet its
 * conditions for at least one row outside, each once.
 */
final class OuterRows {

  private final QueryBlock block;
  private final Names names;

  OuterRows(QueryBlock block, Names names) {
    this.block = block;
    this.names = names;
  }

  /** Whether a node uses columns of the blocks around. */
  boolean isMentioned(Node node) {
    return block.isCorrelated() && isMentioned(block, node);
  }

  static boolean isMentioned(QueryBlock block, Node node) {
    return node.preorder()
        .filter(ColumnName.class::isInstance)
        .flatMap(name -> columns(block.binding((ColumnName) name)))
        .anyMatch(column -> isOutside(block, column.use()));
  }

  private static Stream<UseColumn> columns(Binding binding) {
    if (binding instanceof Binding.ToColumn bound) {
      return Stream.of(bound.column());
    }
    return binding instanceof Binding.ToMerged merged ? merged.columns().stream() : Stream.empty();
  }

  private static boolean isOutside(QueryBlock block, TableUse use) {
    for (QueryBlock outer = block.outer().orElse(null);
        outer != null;
        outer = outer.outer().orElse(null)) {
      if (outer.use(use.item()).isPresent()) {
        return true;
      }
    }
    return false;
  }

  /** That there is a row outside with which these conditions hold, already in probe names. */
  Expression meet(List<Expression> conditions) {
    List<FromItem> from = new ArrayList<>();
    List<Expression> where = new ArrayList<>();
    QueryBlock inner = block;
    QueryBlock outer = block.outer().orElse(null);
    while (outer != null) {
      FromItem rows = rows(outer, inner);
      if (rows != null) {
        from.add(rows);
        where.addAll(filters(outer, inner));
      }
      inner = outer;
      outer = outer.isCorrelated() ? outer.outer().orElse(null) : null;
    }
    where.addAll(conditions);
    FromItem joined = from.get(0);
    for (FromItem next : from.subList(1, from.size())) {
      joined = FromItem.Join.of(joined, JoinKind.CROSS, next, null);
    }
    return Sql.exists(joined, Sql.all(where));
  }

  /** The rows of a block around that a block in it can see; null if there are none. */
  private @Nullable FromItem rows(QueryBlock outer, QueryBlock inner) {
    FromItem from = outer.joinedFrom().orElse(null);
    FromTree tree =
        new FromTree(outer, names, null, conjunct -> contains(conjunct.condition(), inner), null);
    FromItem seen = from == null || !contains(from, inner) ? from : before(from, inner);
    return seen == null ? null : tree.of(seen);
  }

  /** A query in FROM sees what stands before it; one in the condition of a join sees the join. */
  private static @Nullable FromItem before(FromItem from, QueryBlock inner) {
    FromItem item = from;
    FromItem seen = null;
    while (item instanceof FromItem.Join join) {
      if (contains(join.right(), inner)) {
        seen = join.left();
        item = join.right();
      } else if (contains(join.left(), inner)) {
        item = join.left();
      } else {
        return join;
      }
    }
    return seen;
  }

  private static boolean contains(Node node, QueryBlock inner) {
    return node.preorder().anyMatch(each -> each == inner.select());
  }

  /** The conditions of WHERE outside that ask nothing of further tables. */
  private List<Expression> filters(QueryBlock outer, QueryBlock inner) {
    FromItem from = outer.joinedFrom().orElse(null);
    if (from == null || contains(from, inner)) {
      return List.of();
    }
    return outer.filters().stream()
        .map(Conjunct::condition)
        .filter(each -> each.preorder().noneMatch(Query.class::isInstance))
        .map(names::of)
        .toList();
  }
}
