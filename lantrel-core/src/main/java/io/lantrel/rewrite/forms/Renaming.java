package io.lantrel.rewrite.forms;

import io.lantrel.resolve.Binding;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.rewrite.RewriteException;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Alias;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value;
import io.lantrel.sql.tree.Value.ColumnName;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** Another alias for a table use, there and wherever a column is named by it. */
final class Renaming {

  private final Reading reading;

  Renaming(Reading reading) {
    this.reading = reading;
  }

  /**
   * @param alias one that is not taken
   * @throws RewriteException if the use cannot get one
   */
  List<Edit> edits(QueryBlock block, TableUse use, String alias) {
    List<Edit> edits = new ArrayList<>();
    edits.add(inFrom(block, use, alias));
    reading
        .query()
        .preorder()
        .forEach(
            node -> qualifier(node, block, use).ifPresent(at -> edits.add(new Edit(at, alias))));
    return edits.stream().distinct().toList();
  }

  private Edit inFrom(QueryBlock block, TableUse use, String alias) {
    Alias old = old(use.item());
    if (old != null) {
      return new Edit(old.name().span(), alias);
    }
    if (!(use.item() instanceof FromItem.TableName table)
        || table.sample() != null
        || table.partition() != null) {
      throw new RewriteException(use.name() + " cannot get an alias where it stands");
    }
    return Edit.insert(table.last().span().end(), reading.edits(block).beforeAlias() + alias);
  }

  private static @Nullable Alias old(FromItem item) {
    if (item instanceof FromItem.TableName table) {
      return table.alias();
    }
    if (item instanceof FromItem.DerivedTable derived) {
      return derived.alias();
    }
    return item instanceof FromItem.TableFunction function ? function.alias() : null;
  }

  /** Where a node names the use before a dot. */
  private Optional<Span> qualifier(Node node, QueryBlock block, TableUse use) {
    if (node instanceof ColumnName name) {
      Binding binding = reading.resolution().binding(name);
      if (binding instanceof Binding.Opaque && isName(List.of(name.name()), use)) {
        throw new RewriteException(
            use.name() + " stands for a whole row here; name its columns first");
      }
      boolean own = binding instanceof Binding.ToColumn bound && bound.column().use() == use;
      return own ? span(name.qualifier()) : Optional.empty();
    }
    if (node instanceof SelectItem.AllColumns all && block.select().items().contains(all)) {
      return isName(all.qualifier(), use) ? span(all.qualifier()) : Optional.empty();
    }
    if (node instanceof Value.WholeRow row) {
      return isName(row.qualifier(), use) ? span(row.qualifier()) : Optional.empty();
    }
    return Optional.empty();
  }

  private boolean isName(List<Identifier> parts, TableUse use) {
    return !parts.isEmpty()
        && reading
            .catalog()
            .tableKey(reading.dialect().stored(parts.get(parts.size() - 1)))
            .equals(reading.catalog().tableKey(use.name()));
  }

  private static Optional<Span> span(List<Identifier> parts) {
    return parts.isEmpty()
        ? Optional.empty()
        : Optional.of(parts.get(0).span().to(parts.get(parts.size() - 1).span()));
  }
}
