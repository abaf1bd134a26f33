package io.lantrel.draft;

import io.lantrel.edit.QueryEdits;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.SourceText;
import io.lantrel.sql.tree.Call;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;

/** What is put into the text of a query, in the way in which that text is written. */
final class QueryExtension implements AggregateQuery.Style {

  private final SourceText source;
  private final QueryBlock block;
  private final QueryEdits edits;
  private final List<Edit> made = new ArrayList<>();
  private final List<String> groups = new ArrayList<>();
  private boolean joins;

  QueryExtension(SourceText source, QueryBlock block) {
    this.source = source;
    this.block = block;
    this.edits = new QueryEdits(source, block);
  }

  @Override
  public String keyword(String word) {
    return edits.keyword(word);
  }

  /** Without an alias, if it goes by its own name. */
  @Override
  public String table(Use use) {
    String plain = use.inFrom().substring(0, use.inFrom().length() - use.alias().length() - 1);
    boolean own = use.alias().equals(use.dialect().write(use.table().name()));
    return own ? plain : plain + edits.beforeAlias() + use.alias();
  }

  @Override
  public String join(JoinAlongReference join, String word) {
    return keyword(word) + " " + table(join.to()) + edits.beforeOn() + join.condition();
  }

  @Override
  public String gap(int depth) {
    String before = edits.gap();
    return before.equals(" ") ? before : before + " ".repeat(8 + depth * "WHERE EXISTS (".length());
  }

  /** Joins behind a table use, or behind those that are joined to it. */
  void from(TableUse use, List<String> texts) {
    joins = true;
    String gap = edits.beforeJoin();
    made.add(Edit.insert(edits.behind(use), gap + String.join(gap, texts)));
  }

  /** One more output column behind the others. */
  void show(String value, String heading) {
    List<SelectItem> items = block.select().items();
    SelectItem last = items.get(items.size() - 1);
    String between = ", ";
    if (items.size() > 1) {
      Span gap = Span.between(items.get(items.size() - 2).span(), last.span());
      String text = source.at(gap);
      between = text.matches("\\s*,\\s*") ? text : between;
    }
    String label = heading.isEmpty() ? "" : edits.beforeLabel() + block.dialect().write(heading);
    made.add(Edit.insert(last.span().end(), between + value + label));
  }

  /**
   * Into GROUP BY, if there is one.
   *
   * @param by what the value depends on: columns of the query's own tables
   * @throws WishException if it is not the same for all rows of a group
   */
  void group(String value, Set<UseColumn> by, String asked) {
    if (isGroupedByAll(by, asked) && !isGrouped(value)) {
      groups.add(value);
    }
  }

  /** The same for a column that a query of its own uses; it may be grouped by already. */
  void groupOnce(UseColumn column, String asked) {
    if (isGroupedByAll(Set.of(column), asked) && !grouped().contains(column)) {
      groups.add(column.written());
    }
  }

  private boolean isGroupedByAll(Set<UseColumn> by, String asked) {
    if (!block.isGrouped()) {
      return false;
    }
    boolean plain = block.grouping().stream().noneMatch(Call.Grouping.class::isInstance);
    Set<UseColumn> grouped = grouped();
    boolean same = by.stream().allMatch(each -> block.determines(grouped, each));
    if (block.select().groupBy().isEmpty() || !plain || !same) {
      throw new WishException(
          asked
              + (block.select().groupBy().isEmpty()
                  ? " cannot stand beside figures over all rows; group the query first"
                  : " is not the same for all rows of a group; group the query by what it belongs"
                      + " to first, or ask for a figure"));
    }
    return true;
  }

  private boolean isGrouped(String value) {
    return grouped().stream().anyMatch(each -> each.written().equals(value));
  }

  private Set<UseColumn> grouped() {
    Set<UseColumn> columns = new LinkedHashSet<>();
    block.grouping().forEach(each -> block.column(each).ifPresent(columns::add));
    return columns;
  }

  Draft draft(Item item, List<String> reasons) {
    if (!groups.isEmpty()) {
      made.add(edits.addGrouping(String.join(", ", groups)));
    }
    if (joins) {
      block.select().items().stream().forEach(this::keepStar);
    }
    String sql = Edit.apply(source.text(), made);
    List<String> all = new ArrayList<>(reasons);
    if (block.select().distinct()) {
      all.add("DISTINCT minds " + item.text() + " too, so that rows that were one may be several");
    }
    return new Draft(sql, "The query, and " + item.text() + " besides", all);
  }

  /** {@code *} goes on showing the tables that it showed. */
  private void keepStar(SelectItem item) {
    if (item instanceof SelectItem.AllColumns all && all.qualifier().isEmpty()) {
      if (!source.at(all.span()).equals("*")) {
        throw new WishException("\"" + source.at(all.span()) + "\" is to be written out first");
      }
      List<String> stars = block.uses().stream().map(use -> use.written() + ".*").toList();
      made.add(new Edit(all.span(), String.join(", ", stars)));
    }
  }
}
