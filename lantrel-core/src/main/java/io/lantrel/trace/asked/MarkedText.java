package io.lantrel.trace.asked;

import io.lantrel.edit.OneQuery;
import io.lantrel.edit.Stars;
import io.lantrel.engine.SampleData;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.ResolvedQuery;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.Dialect.Rule;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Alias;
import io.lantrel.sql.tree.CommonTable;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.trace.TraceException;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * The text of a query in which some rows of a table have a mark: a column more, which is 1 for what
 * comes of them, at the end of the SELECT list of the block that uses the table and of every one
 * from there outwards. FROM stays as it is, so that the keys of the table still say what its groups
 * determine.
 */
final class MarkedText {

  private static final String NAME = SampleData.RESERVED + "mark";

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
   * @throws TraceException if a column more would change what the query means, or not fit into it
   */
  static String of(OneQuery query, Way way, String condition) {
    MarkedText text = new MarkedText(query, way);
    for (int at = way.steps().size() - 1; at >= 0; at--) {
      text.show(at, condition);
    }
    return Edit.apply(query.source().text(), text.edits);
  }

  /**
   * What the column is called in a block.
   *
   * @param at the place of the block on the way, from 0 for the whole query
   */
  static String name(int at) {
    return NAME + at;
  }

  /** Whether a heading is that of a mark, which a star shows of a query in FROM. */
  static boolean isName(String heading) {
    return Identifier.key(heading).startsWith(NAME);
  }

  /** Adds the mark to what a block shows, and a constant to those that it is put together with. */
  private void show(int at, String condition) {
    Way.Step step = way.steps().get(at);
    boolean first = at == way.steps().size() - 1;
    String inner = (step.use().isNamed() ? step.use().written() + "." : "") + name(at + 1);
    String mark =
        first ? "CASE WHEN " + condition + " THEN 1 ELSE 0 END" : "COALESCE(" + inner + ", 0)";
    ResolvedQuery whole =
        at == 0
            ? query.resolution().result()
            : way.steps().get(at - 1).use().queryOfText().orElseThrow();
    if (whole.query().body() instanceof QueryBody.SetOperation operation) {
      refuseUnlessAllAreJoined(operation, step, first);
    }
    for (int part = 0; part < whole.parts().size(); part++) {
      QueryBlock block = whole.parts().get(part);
      String shown = part != step.part() ? "0" : block.isGrouped() ? "MAX(" + mark + ")" : mark;
      List<SelectItem> items = block.select().items();
      boolean alone = block.dialect().has(Rule.STAR_STANDS_ALONE);
      if (alone && Stars.ofAllTables(block.select()).isPresent()) {
        edits.add(
            Stars.tableByTable(block)
                .orElseThrow(() -> refusal(step, "write out the columns of its * first")));
      }
      if (!items.isEmpty()) {
        int end = items.get(items.size() - 1).span().end();
        edits.add(Edit.insert(end, ", " + shown + " AS " + name(at)));
      }
    }
    if (at > 0) {
      widen(way.steps().get(at - 1).use(), at);
    }
  }

  /**
   * Rows with a mark and rows without are not equal, so that only UNION keeps its rows with one.
   */
  private static void refuseUnlessAllAreJoined(
      QueryBody.SetOperation operation, Way.Step step, boolean first) {
    for (Node node : (Iterable<Node>) operation.preorder()::iterator) {
      if (node instanceof QueryBody.SetOperation each
          && each.operator() != QueryBody.SetOperator.UNION) {
        throw refusal(step, "it has EXCEPT or INTERSECT, which compares whole rows");
      }
    }
    boolean star =
        !first
            && step.block().select().items().stream()
                .anyMatch(SelectItem.AllColumns.class::isInstance);
    if (star) {
      throw refusal(step, "write out the columns of its * first, which UNION counts");
    }
    if (operation.parts().stream().anyMatch(QueryBody.Values.class::isInstance)) {
      throw refusal(step, "it has VALUES beside a SELECT");
    }
  }

  private static TraceException refusal(Way.Step step, String why) {
    return new TraceException(
        "rows of " + step.use().words() + " cannot be followed through this query: " + why);
  }

  /** Where the columns of a query are named one by one, the mark is named as well. */
  private void widen(TableUse use, int at) {
    if (use.item() instanceof FromItem.DerivedTable derived) {
      widen(derived.alias(), at);
      return;
    }
    if (use.item() instanceof FromItem.TableName table) {
      widen(table.alias(), at);
    }
    Span inner = use.queryOfText().orElseThrow().query().span();
    query
        .query()
        .preorder()
        .filter(CommonTable.class::isInstance)
        .map(CommonTable.class::cast)
        .filter(table -> table.query().span().equals(inner))
        .forEach(table -> widen(table.columns(), at));
  }

  private void widen(@Nullable Alias alias, int at) {
    if (alias != null) {
      widen(alias.columns(), at);
    }
  }

  private void widen(List<Identifier> columns, int at) {
    if (!columns.isEmpty()) {
      Node last = columns.get(columns.size() - 1);
      if (widened.add(last.span())) {
        edits.add(Edit.insert(last.span().end(), ", " + name(at)));
      }
    }
  }
}
