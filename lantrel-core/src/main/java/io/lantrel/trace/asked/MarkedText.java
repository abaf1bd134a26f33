package io.lantrel.trace.asked;

import io.lantrel.edit.OneQuery;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.ResolvedQuery;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Alias;
import io.lantrel.sql.tree.CommonTable;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * The text of a query in which some rows of a table have a mark: a column more, which is 1 for what
 * comes of them, in the SELECT list of the block that uses the table and in every one from there
 * outwards. FROM stays as it is, so that the keys of the table still say what its groups determine.
 */
final class MarkedText {

  /** What the column is called. */
  static final String MARK = "lantrel_mark";

  private final OneQuery query;
  private final Way way;
  private final List<Edit> edits = new ArrayList<>();
  private final Set<Span> widened = new HashSet<>();

  private MarkedText(OneQuery query, Way way) {
    this.query = query;
    this.way = way;
  }

  /**
   * The text.
   *
   * @param way to the table use
   * @param condition which of its rows, by what the table goes by there
   */
  static String of(OneQuery query, Way way, String condition) {
    MarkedText text = new MarkedText(query, way);
    for (int i = way.steps().size() - 1; i >= 0; i--) {
      text.show(i, condition);
    }
    return Edit.apply(query.source().text(), text.edits);
  }

  /** Adds the mark to what a block shows, and a constant to those that it is put together with. */
  private void show(int at, String condition) {
    Way.Step step = way.steps().get(at);
    boolean first = at == way.steps().size() - 1;
    String name = (step.use().isNamed() ? step.use().written() + "." : "") + MARK;
    String mark =
        first ? "CASE WHEN " + condition + " THEN 1 ELSE 0 END" : "COALESCE(" + name + ", 0)";
    ResolvedQuery whole =
        at == 0
            ? query.resolution().result()
            : way.steps().get(at - 1).use().queryOfText().orElseThrow();
    for (int part = 0; part < whole.parts().size(); part++) {
      QueryBlock block = whole.parts().get(part);
      String shown = part != step.part() ? "0" : block.isGrouped() ? "MAX(" + mark + ")" : mark;
      List<SelectItem> items = block.select().items();
      if (!items.isEmpty() && !isShownByStar(block, part == step.part() && !first, step.use())) {
        int end = items.get(items.size() - 1).span().end();
        edits.add(Edit.insert(end, ", " + shown + " AS " + MARK));
      }
    }
    if (at > 0) {
      widen(way.steps().get(at - 1).use());
    }
  }

  /** A star shows the mark with all else. */
  private static boolean isShownByStar(QueryBlock block, boolean own, TableUse use) {
    return own
        && !block.isGrouped()
        && block.select().items().stream()
            .filter(SelectItem.AllColumns.class::isInstance)
            .map(SelectItem.AllColumns.class::cast)
            .anyMatch(
                all ->
                    all.qualifier().isEmpty()
                        || all.qualifier()
                            .get(all.qualifier().size() - 1)
                            .text()
                            .equalsIgnoreCase(use.name()));
  }

  /** Where the columns of a query are named one by one, the mark is named as well. */
  private void widen(TableUse use) {
    if (use.item() instanceof FromItem.DerivedTable derived) {
      widen(derived.alias());
      return;
    }
    if (use.item() instanceof FromItem.TableName table) {
      widen(table.alias());
    }
    Span inner = use.queryOfText().orElseThrow().query().span();
    query
        .query()
        .preorder()
        .filter(CommonTable.class::isInstance)
        .map(CommonTable.class::cast)
        .filter(table -> table.query().span().equals(inner))
        .forEach(table -> widen(table.columns()));
  }

  private void widen(@Nullable Alias alias) {
    if (alias != null) {
      widen(alias.columns());
    }
  }

  private void widen(List<Identifier> columns) {
    if (!columns.isEmpty()) {
      Node last = columns.get(columns.size() - 1);
      if (widened.add(last.span())) {
        edits.add(Edit.insert(last.span().end(), ", " + MARK));
      }
    }
  }
}
