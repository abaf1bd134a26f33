package io.lantrel.claim.kinds;

import io.lantrel.engine.SampleData;
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.ResolvedQuery;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value.ColumnName;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * The columns of the rows that are asked about claims. What the result does not show, and could, is
 * added to it for Lantrel's own questions; where rows are put together, a key may still be known of
 * the joined rows.
 */
public final class AskedColumns {

  private static final String HIDDEN = SampleData.RESERVED + "k";

  private final ResolvedQuery result;
  private final Dialect dialect;
  private final List<Expression> hidden = new ArrayList<>();
  private final List<UseColumn> hiddenColumns = new ArrayList<>();
  private final List<UseColumn> joined = new ArrayList<>();

  AskedColumns(ResolvedQuery result, Dialect dialect) {
    this.result = result;
    this.dialect = dialect;
  }

  /** How many columns the result has by itself. */
  int width() {
    return result.outputs().size();
  }

  /** What a column of the rows that are asked is called. */
  String heading(int position) {
    return position < width()
        ? result.outputs().get(position).name()
        : hiddenColumns.get(position - width()).words();
  }

  /** The query with the columns that are shown besides. */
  public Query extended() {
    Query query = result.query();
    if (hidden.isEmpty() || !(query.body() instanceof QueryBody.Select select)) {
      return query;
    }
    List<SelectItem> items = new ArrayList<>(select.items());
    hidden.forEach(value -> items.add(SelectItem.Output.of(value, HIDDEN + items.size())));
    return query.withBody(select.withItems(items));
  }

  /** The keys that are wanted of the joined rows; empty if none are. */
  public Optional<Query> joinedRows() {
    Query query = result.query();
    if (joined.isEmpty() || !(query.body() instanceof QueryBody.Select select)) {
      return Optional.empty();
    }
    List<SelectItem> items = new ArrayList<>();
    joined.forEach(column -> items.add(SelectItem.Output.of(name(column), HIDDEN + items.size())));
    return Optional.of(
        new Query(
            Span.NOWHERE,
            query.recursive(),
            query.with(),
            QueryBody.Select.of(items, select.from(), select.where()),
            List.of(),
            null));
  }

  /** How many columns {@link #extended} has. */
  public int extendedWidth() {
    return width() + hidden.size();
  }

  /** How many columns {@link #joinedRows} has. */
  public int joinedWidth() {
    return joined.size();
  }

  // ---- where columns stand ----

  /** Where a column stands in the result, or can stand; empty if it cannot. */
  Optional<Integer> place(UseColumn column) {
    QueryBlock block = result.block().orElseThrow();
    Optional<Integer> shown =
        block.outputs().stream()
            .filter(output -> shows(block, output.value(), column))
            .map(OutputColumn::position)
            .findFirst();
    return shown.isPresent() ? shown : hide(block, column);
  }

  private static boolean shows(QueryBlock block, Expression value, UseColumn column) {
    return block.column(value).filter(block.equalTo(column)::contains).isPresent();
  }

  private Optional<Integer> hide(QueryBlock block, UseColumn column) {
    if (hiddenColumns.contains(column)) {
      return Optional.of(width() + hiddenColumns.indexOf(column));
    }
    QueryBody.Select select = block.select();
    if (select.distinct() || !select.distinctOn().isEmpty()) {
      return Optional.empty();
    }
    Optional<Expression> value =
        block.isGrouped()
            ? block.grouping().stream().filter(each -> shows(block, each, column)).findFirst()
            : Optional.of(name(column));
    if (value.isPresent()) {
      hidden.add(value.get());
      hiddenColumns.add(column);
    }
    return value.map(any -> width() + hidden.size() - 1);
  }

  private Expression name(UseColumn column) {
    return new ColumnName(
        Span.NOWHERE, List.of(dialect.exact(column.use().name())), dialect.exact(column.name()));
  }

  /** Where a column of a table stands in {@link #joinedRows}. */
  int ofJoined(TableUse use, String tableColumn) {
    UseColumn column =
        use.columns().stream()
            .filter(each -> each.tableColumn().equals(tableColumn))
            .findFirst()
            .orElseThrow();
    if (!joined.contains(column)) {
      joined.add(column);
    }
    return joined.indexOf(column);
  }
}
