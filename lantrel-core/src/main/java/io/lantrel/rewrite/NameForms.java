package io.lantrel.rewrite;

import io.lantrel.resolve.Binding;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.Edit;
import io.lantrel.sql.SourceText;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Value.ColumnName;
import java.util.ArrayList;
import java.util.List;

/** Columns under their full names, and all of them in place of {@code *}. */
final class NameForms {

  private NameForms() {}

  /** Every column of the block's own table uses gets the name of its use. */
  static List<Edit> qualified(QueryBlock block) {
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
                  && bound.column().use().isNamed()) {
                edits.add(Edit.insert(name.span().start(), bound.column().use().written() + "."));
              }
            });
    // BETWEEN SYMMETRIC has its values twice in the tree.
    return edits.stream().distinct().toList();
  }

  /** The first {@code *} of the block, written out. */
  static List<Edit> columns(SourceText source, QueryBlock block) {
    for (SelectItem item : block.select().items()) {
      if (item instanceof SelectItem.AllColumns all) {
        return List.of(new Edit(item.span(), columns(source, block, all)));
      }
    }
    return List.of();
  }

  private static String columns(SourceText source, QueryBlock block, SelectItem.AllColumns all) {
    String words = source.at(all.span());
    List<TableUse> uses = block.uses();
    boolean own = all.qualifier().isEmpty();
    if (!words.endsWith("*")) {
      throw new RewriteException(
          "\"" + words + "\" leaves columns out or changes them; write them out");
    }
    if (own && block.steps().stream().anyMatch(JoinStep::mergesColumns)) {
      throw new RewriteException(
          "* shows a column of USING or NATURAL once, at the front; write ON first");
    }
    if (!own) {
      String name = words.substring(0, words.lastIndexOf('.')).strip();
      uses =
          uses.stream()
              .filter(
                  use -> use.written().equalsIgnoreCase(name) || use.name().equalsIgnoreCase(name))
              .toList();
    }
    List<String> columns = new ArrayList<>();
    for (TableUse use : uses) {
      if (!use.isKnown()) {
        throw new RewriteException("the columns of " + use.name() + " are not all known");
      }
      if (!use.isNamed() && block.uses().size() > 1) {
        throw new RewriteException(
            "a query in FROM has no name by which its columns could be told; give it one");
      }
      use.columns().stream()
          .map(each -> use.isNamed() ? each.written() : block.dialect().write(each.name()))
          .forEach(columns::add);
    }
    if (columns.isEmpty()) {
      throw new RewriteException("nothing is known of " + words);
    }
    return String.join(", ", columns);
  }
}
