package io.lantrel.probe;

import io.lantrel.catalog.Table;
import io.lantrel.engine.SampleData;
import io.lantrel.resolve.Binding;
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.ResolvedQuery;
import io.lantrel.sql.ColumnReplacer;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.tree.Call;
import io.lantrel.sql.tree.CommonTable;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.Limit;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.OrderItem;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value;
import io.lantrel.sql.tree.Value.ColumnName;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** Counts what a user's query itself gives, without any of Lantrel's own reckoning. */
public final class Counting {

  private static final String QUERY = SampleData.RESERVED + "query";
  private static final int MOST_PRODUCED = 300;

  private Counting() {}

  /**
   * The number of rows of a block's query. Headings are replaced by ones that differ, since a query
   * in FROM must not have two alike, and labels by what they stand for; its order does not matter.
   */
  public static Query rows(QueryBlock block) {
    Limit limit = block.query().limit();
    return limit != null && limit.withTies()
        ? ofSelect(block, block.select(), limit, block.query().orderBy())
        : rows(block, limit);
  }

  /** The same without LIMIT. */
  public static Query rowsBeforeLimit(QueryBlock block) {
    return rows(block, null);
  }

  /** The same without LIMIT and DISTINCT. */
  public static Query rowsBeforeDistinct(QueryBlock block) {
    return ofSelect(block, relabelled(block, false, List.of()), null, List.of());
  }

  /** The same without LIMIT and DISTINCT, before any row is shown several times or never. */
  public static Query rowsBehindQualify(QueryBlock block) {
    List<SelectItem> one = List.of(Sql.as(Sql.number(1), "one"));
    return ofSelect(block, relabelled(block, false, one), null, List.of());
  }

  /**
   * The number of rows of a block's query, and besides how many of them have a value in each
   * column: an engine that only counts need not work out what is shown, and would not tell that it
   * cannot. The first column of the answer is the number of rows.
   */
  public static Query producedRows(QueryBlock block) {
    Query rows = rows(block);
    if (!isNameable(block) || block.outputs().size() > MOST_PRODUCED) {
      return rows;
    }
    QueryBody.Select counting = (QueryBody.Select) rows.body();
    List<SelectItem> items = new ArrayList<>(counting.items());
    block.outputs().stream()
        .filter(output -> output.value().preorder().anyMatch(Counting::canFail))
        .forEach(
            output ->
                items.add(
                    Sql.as(
                        Sql.count(Sql.column(QUERY, "o" + output.position())),
                        "c" + items.size())));
    return Query.of(Sql.select(items, counting.from(), null));
  }

  /** A column by itself, or a constant, cannot fail. */
  private static boolean canFail(Node node) {
    return node instanceof Expression
        && !(node instanceof ColumnName)
        && !(node instanceof Value.Literal);
  }

  private static Query rows(QueryBlock block, @Nullable Limit limit) {
    return ofSelect(block, relabelled(block, true, List.of()), limit, List.of());
  }

  /**
   * @param items what is shown; empty for what the block itself shows
   */
  static QueryBody.Select relabelled(QueryBlock block, boolean distinct, List<SelectItem> items) {
    QueryBody.Select select = block.select();
    return new QueryBody.Select(
        select.span(),
        distinct && select.distinct(),
        distinct ? distinctOn(block) : List.of(),
        items.isEmpty() ? items(block) : items,
        select.from(),
        withoutLabelsIfPresent(block, select.where()),
        grouping(block),
        withoutLabelsIfPresent(block, select.having()),
        select.windows(),
        withoutLabelsIfPresent(block, select.qualify()));
  }

  private static List<SelectItem> items(QueryBlock block) {
    QueryBody.Select select = block.select();
    return isNameable(block)
        ? block.outputs().stream()
            .map(output -> Sql.as(withoutLabels(block, output.value()), "o" + output.position()))
            .toList()
        : isPlain(select) ? List.of(Sql.as(Sql.number(1), "one")) : select.items();
  }

  /** A number among them is the position of a column. */
  static List<Expression> distinctOn(QueryBlock block) {
    return block.select().distinctOn().stream()
        .map(
            each ->
                each instanceof Value.Literal literal
                        && literal.kind() == Value.LiteralKind.NUMBER
                        && literal.text().matches("[1-9][0-9]{0,3}")
                        && Integer.parseInt(literal.text()) <= block.outputs().size()
                    ? block.outputs().get(Integer.parseInt(literal.text()) - 1).value()
                    : each)
        .map(each -> withoutLabels(block, each))
        .toList();
  }

  /** What {@link #producedRows(QueryBlock)} counts; of a query of several blocks its rows alone. */
  public static Query producedRows(ResolvedQuery result) {
    return result
        .block()
        .map(Counting::producedRows)
        .orElseGet(
            () -> rows(result.query(), result.outputs().stream().map(OutputColumn::name).toList()));
  }

  private static Query rows(Query query) {
    return Query.of(
        Sql.select(List.of(Sql.as(Sql.count(), "c0")), Sql.derived(query, QUERY), null));
  }

  /**
   * The number of rows that a query gives which is not one block, as UNION does.
   *
   * @param headings of its columns; if two are alike they get names of their own, with which not
   *     every product keeps its order
   */
  public static Query rows(Query query, List<String> headings) {
    long different = headings.stream().map(Identifier::key).distinct().count();
    if (different == headings.size()) {
      return rows(query);
    }
    return rows(query, headings.size());
  }

  /** Whether the number of rows does not depend on what is shown of them. */
  private static boolean isPlain(QueryBody.Select select) {
    return select.items().stream().allMatch(SelectItem.AllColumns.class::isInstance)
        && !select.distinct()
        && select.groupBy().isEmpty()
        && select.having() == null
        && select.qualify() == null;
  }

  /** The rows of a block that stand before DISTINCT, showing values of it as c0, c1… */
  public static Query showing(QueryBlock block, List<Expression> values) {
    List<SelectItem> items = new ArrayList<>();
    values.forEach(value -> items.add(Sql.as(withoutLabels(block, value), "c" + items.size())));
    return query(block, relabelled(block, false, items), null, List.of());
  }

  /** A SELECT in the place of a block's own, with the WITH that it needs. */
  static Query query(
      QueryBlock block, QueryBody.Select select, @Nullable Limit limit, List<OrderItem> order) {
    return new Query(
        block.query().span(),
        block.hasRecursiveTables(),
        block.commonTables(),
        select,
        order,
        limit);
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
    return ofSelect(
        block,
        Sql.select(
            List.of(Sql.as(Sql.number(1), "one")),
            block.select().from(),
            withoutLabelsIfPresent(block, block.select().where())),
        null,
        List.of());
  }

  /** The number of rows, or groups, that a block shows if it has no clause behind GROUP BY. */
  public static Query rowsBehindWhere(QueryBlock block) {
    return block.isGrouped()
        ? ofSelect(block, grouped(block, false), null, List.of())
        : joinedRows(block);
  }

  /** The number of rows of any query, its columns under names of their own. */
  public static Query rows(Query query, int width) {
    return overNamed(query, width, Sql.table(QUERY));
  }

  /** The number of rows of any query, of equal ones just one. */
  public static Query differentRows(Query query, int width) {
    List<SelectItem> items = new ArrayList<>();
    for (int i = 0; i < width; i++) {
      items.add(Sql.as(Sql.column(QUERY, "c" + i), "c" + i));
    }
    QueryBody once =
        new QueryBody.Select(Span.NOWHERE, true, items, Sql.table(QUERY), null, List.of(), null);
    return overNamed(query, width, Sql.derived(once, SampleData.RESERVED + "once"));
  }

  private static Query overNamed(Query query, int width, FromItem from) {
    List<CommonTable> with = new ArrayList<>(query.with());
    Query alone =
        new Query(query.span(), false, List.of(), query.body(), query.orderBy(), query.limit());
    with.add(Sql.named(QUERY, alone, width));
    return new Query(
        Span.NOWHERE,
        query.recursive(),
        with,
        Sql.select(List.of(Sql.as(Sql.count(), "c0")), from, null),
        List.of(),
        null);
  }

  /** How many groups there are, and how many rows are in them. */
  public record Grouped(long groups, long rows) {}

  /** The groups before HAVING, and the rows in them. */
  public static Question<Grouped> groups(QueryBlock block) {
    Query counted = ofSelect(block, grouped(block, false), null, List.of());
    QueryBody.Select rows = (QueryBody.Select) counted.body();
    List<SelectItem> items = new ArrayList<>(rows.items());
    items.add(Sql.as(Call.FunctionCall.of("SUM", Sql.column(QUERY, "x")), "c1"));
    return Question.numbers(
        Query.of(Sql.select(items, rows.from(), null)),
        answer -> new Grouped(answer.figure(0), answer.figure(1)));
  }

  /** Whether a row is in several groups, as ROLLUP makes it. */
  public static boolean hasSets(QueryBlock block) {
    return block.select().groupBy().stream().anyMatch(Call.Grouping.class::isInstance);
  }

  /** The number of groups that meet HAVING. */
  public static Query groupsBehindHaving(QueryBlock block) {
    return ofSelect(block, grouped(block, true), null, List.of());
  }

  private static QueryBody.Select grouped(QueryBlock block, boolean having) {
    return new QueryBody.Select(
        Span.NOWHERE,
        false,
        List.of(Sql.as(Sql.count(), "x")),
        block.select().from(),
        withoutLabelsIfPresent(block, block.select().where()),
        grouping(block),
        having ? withoutLabelsIfPresent(block, block.select().having()) : null);
  }

  /** What a block is grouped by, with what labels stand for in their place; empty for one group. */
  public static List<Expression> grouping(QueryBlock block) {
    return block.select().groupBy().isEmpty()
        ? List.of()
        : block.grouping().stream().map(each -> withoutLabels(block, each)).toList();
  }

  private static Query ofSelect(
      QueryBlock block, QueryBody.Select select, @Nullable Limit limit, List<OrderItem> order) {
    Query whole = query(block, select, limit, order);
    return order.isEmpty()
        ? rows(whole)
        : rows(whole, block.outputs().stream().map(OutputColumn::name).toList());
  }

  /** Whether a table has a row. */
  public static Question<Boolean> anyRow(Table table, Dialect dialect) {
    QueryBody one =
        Sql.select(List.of(Sql.as(Sql.number(1), "one")), Sql.table(table, null, dialect), null);
    FromItem first = Sql.derived(Sql.first(one, List.of(), 1), SampleData.RESERVED + "first");
    Relation relation = Relation.of(first, null);
    return Question.figures(relation, List.of(Sql.count()), rows -> rows.figure(0) > 0);
  }

  /** The same as {@link #withoutLabels}, of a clause that need not be there. */
  public static @Nullable Expression withoutLabelsIfPresent(
      QueryBlock block, @Nullable Expression expression) {
    return expression == null ? null : withoutLabels(block, expression);
  }

  /** An expression of a block with what labels of it stand for in their place. */
  public static Expression withoutLabels(QueryBlock block, Expression expression) {
    return new ColumnReplacer(
            name ->
                block.binding(name) instanceof Binding.ToOutput label
                        && block.outputs().contains(label.output())
                    ? withoutLabels(block, label.output().value())
                    : name)
        .apply(expression);
  }
}
