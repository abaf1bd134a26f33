package io.lantrel.probe;

import io.lantrel.catalog.Table;
import io.lantrel.resolve.Binding;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.sql.ColumnReplacer;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value.ColumnName;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** Counts what a user's query itself gives, without any of Lantrel's own reckoning. */
public final class Counting {

  private Counting() {}

  /**
   * The number of rows of a block's query. Headings are replaced by ones that differ, since a query
   * in FROM must not have two alike, and labels by what they stand for; its order does not matter.
   */
  public static Query rows(QueryBlock block) {
    QueryBody.Select select = block.select();
    List<SelectItem> items =
        isNameable(block)
            ? block.outputs().stream()
                .map(
                    output -> Sql.as(withoutLabels(block, output.value()), "o" + output.position()))
                .toList()
            : isPlain(select) ? List.of(Sql.as(Sql.number(1), "one")) : select.items();
    QueryBody.Select relabelled =
        new QueryBody.Select(
            select.span(),
            select.distinct(),
            select.distinctOn(),
            items,
            select.from(),
            withoutLabelsIfPresent(block, select.where()),
            select.groupBy().isEmpty()
                ? List.of()
                : block.grouping().stream().map(each -> withoutLabels(block, each)).toList(),
            withoutLabelsIfPresent(block, select.having()),
            select.windows(),
            withoutLabelsIfPresent(block, select.qualify()));
    Query query =
        new Query(
            block.query().span(),
            block.hasRecursiveTables(),
            block.commonTables(),
            relabelled,
            List.of(),
            block.query().limit());
    return Query.of(
        Sql.select(
            List.of(Sql.as(Sql.count(), "n")), Sql.derived(query, Chain.PREFIX + "query"), null));
  }

  /** The number of rows that a query gives which is not one block. */
  public static Query rows(Query query) {
    return Query.of(
        Sql.select(
            List.of(Sql.as(Sql.count(), "n")), Sql.derived(query, Chain.PREFIX + "query"), null));
  }

  /** Whether the number of rows does not depend on what is shown of them. */
  private static boolean isPlain(QueryBody.Select select) {
    return select.items().stream().allMatch(SelectItem.AllColumns.class::isInstance)
        && !select.distinct()
        && select.groupBy().isEmpty()
        && select.having() == null
        && select.qualify() == null;
  }

  /** A name that could be a label must keep what it could name. */
  private static boolean mayNameLabels(QueryBlock block, Expression having) {
    return having
        .preorder()
        .anyMatch(
            node ->
                node instanceof ColumnName name
                    && name.qualifier().isEmpty()
                    && block.binding(name) instanceof Binding.Opaque);
  }

  /** Of a query without an alias beside other tables, columns cannot be named one by one. */
  private static boolean isNameable(QueryBlock block) {
    Expression having = block.select().having();
    boolean renamed = block.steps().stream().anyMatch(step -> step.join().alias() != null);
    if (renamed || !block.hasAllOutputs() || (having != null && mayNameLabels(block, having))) {
      return false;
    }
    return block.uses().size() == 1
        || block.uses().stream()
            .noneMatch(
                use ->
                    use.item() instanceof FromItem.DerivedTable derived && derived.alias() == null);
  }

  /** The number of rows that a block's FROM and WHERE give, before anything is put together. */
  public static Query joinedRows(QueryBlock block) {
    QueryBody.Select select = block.select();
    QueryBody counted =
        Sql.select(
            List.of(Sql.as(Sql.count(), "n")),
            select.from(),
            withoutLabelsIfPresent(block, select.where()));
    return new Query(
        Span.NOWHERE, block.hasRecursiveTables(), block.commonTables(), counted, List.of(), null);
  }

  /**
   * Which tables are empty: a row for each of them, with its position in the list and 1 if it has a
   * row, 0 if it has none.
   *
   * @param tables at least one
   */
  public static Query anyRows(List<Table> tables, Dialect dialect) {
    List<QueryBody> bodies = new ArrayList<>();
    for (Table table : tables) {
      QueryBody one =
          Sql.select(List.of(Sql.as(Sql.number(1), "one")), Sql.table(table, null, dialect), null);
      bodies.add(
          Sql.select(
              List.of(Sql.as(Sql.number(bodies.size()), "place"), Sql.as(Sql.count(), "n")),
              Sql.derived(Sql.first(one, List.of(), 1), Chain.PREFIX + "first"),
              null));
    }
    return Query.of(bodies.size() == 1 ? bodies.get(0) : QueryBody.SetOperation.unionAll(bodies));
  }

  private static @Nullable Expression withoutLabelsIfPresent(
      QueryBlock block, @Nullable Expression expression) {
    return expression == null ? null : withoutLabels(block, expression);
  }

  private static Expression withoutLabels(QueryBlock block, Expression expression) {
    return new ColumnReplacer(
            name ->
                block.binding(name) instanceof Binding.ToOutput label
                        && block.outputs().contains(label.output())
                    ? withoutLabels(block, label.output().value())
                    : name)
        .apply(expression);
  }
}
