package io.lantrel.rewrite.forms;

import io.lantrel.resolve.Binding;
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.rewrite.RewriteException;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Value.ColumnName;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;

/** Columns under their full names, and all of them in place of {@code *}. */
final class NameForms {

  private NameForms() {}

  /** Every column of the block's own table uses gets the name of its use. */
  static List<Edit> qualified(QueryBlock block) {
    return apart(block, names(block));
  }

  /** The columns of the block's own table uses that have one of these names get it before them. */
  static List<Edit> apart(QueryBlock block, Collection<String> names) {
    Set<String> keys =
        names.stream().map(name -> block.dialect().key(name)).collect(Collectors.toSet());
    List<Edit> edits = new ArrayList<>();
    block
        .query()
        .preorder()
        .filter(ColumnName.class::isInstance)
        .map(ColumnName.class::cast)
        .filter(name -> name.qualifier().isEmpty())
        .forEach(
            name -> {
              if (block.binding(name) instanceof Binding.ToColumn bound
                  && block.uses().contains(bound.column().use())
                  && bound.column().use().isNamed()
                  && keys.contains(block.dialect().key(bound.column().name()))) {
                edits.add(Edit.insert(name.span().start(), bound.column().use().written() + "."));
              }
            });
    // BETWEEN SYMMETRIC has its values twice in the tree.
    return edits.stream().distinct().toList();
  }

  /** Tables before columns, where the names would mean several once all stand in one FROM. */
  static List<Edit> apart(QueryBlock block, QueryBlock inner) {
    List<Edit> edits = new ArrayList<>(apart(block, names(inner)));
    edits.addAll(apart(inner, names(block)));
    return edits.stream().distinct().toList();
  }

  private static List<String> names(QueryBlock block) {
    return block.uses().stream()
        .flatMap(use -> use.columns().stream())
        .map(UseColumn::name)
        .toList();
  }

  /** Whether the block shows {@code *}, or all columns of a table. */
  static boolean hasStar(QueryBlock block) {
    return block.select().items().stream().anyMatch(SelectItem.AllColumns.class::isInstance);
  }

  /** The first {@code *} of the block, written out. */
  static List<Edit> columns(Reading reading, QueryBlock block) {
    for (SelectItem item : block.select().items()) {
      if (item instanceof SelectItem.AllColumns all) {
        return List.of(new Edit(item.span(), columns(reading, block, all)));
      }
    }
    return List.of();
  }

  private static String columns(Reading reading, QueryBlock block, SelectItem.AllColumns all) {
    List<OutputColumn> shown =
        block.outputs().stream().filter(each -> all.span().contains(each.value().span())).toList();
    refuseIfUnknown(reading, block, all, shown);
    List<String> columns = new ArrayList<>();
    for (OutputColumn each : shown) {
      boolean written = !each.value().span().isSame(all.span());
      columns.add(written ? labelled(reading, block, each) : name(block, each));
    }
    return String.join(", ", columns);
  }

  private static void refuseIfUnknown(
      Reading reading, QueryBlock block, SelectItem.AllColumns all, List<OutputColumn> shown) {
    boolean allKnown = block.hasAllOutputs() || block.uses().stream().allMatch(TableUse::isKnown);
    if (!allKnown) {
      throw new RewriteException(
          "the columns of "
              + Reading.names(block.uses().stream().filter(use -> !use.isKnown()).toList())
              + " are not all known");
    }
    if (shown.isEmpty()) {
      throw new RewriteException("nothing is known of " + reading.text(all));
    }
  }

  /** A value that stands in place of a column, as in {@code * REPLACE (x + 1 AS x)}. */
  private static String labelled(Reading reading, QueryBlock block, OutputColumn output) {
    return reading.text(output.value()) + " AS " + block.dialect().write(output.name());
  }

  private static String name(QueryBlock block, OutputColumn output) {
    Optional<UseColumn> column = block.column(output.value());
    String plain = block.dialect().write(output.name());
    // What FULL JOIN makes one column goes by its name alone.
    if (column.isEmpty()) {
      return plain;
    }
    boolean named = column.get().use().isNamed();
    if (!named && block.uses().size() > 1) {
      throw new RewriteException(
          "a query in FROM has no name by which its columns could be told; give it one");
    }
    return named ? column.get().written() : plain;
  }
}
