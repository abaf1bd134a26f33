package io.lantrel.trace.asked;

import io.lantrel.engine.Database;
import io.lantrel.engine.Rows;
import io.lantrel.engine.ValueText;
import io.lantrel.probe.Counting;
import io.lantrel.probe.RowNames;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.Aggregates;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.tree.Call;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.CommonTable;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value;
import io.lantrel.sql.tree.Value.ColumnName;
import io.lantrel.trace.Answer.Source;
import io.lantrel.trace.Answer.TracedValue;
import io.lantrel.trace.asked.SourceRows.Wanted;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.function.IntPredicate;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** A block, and what is asked of its rows: all columns of its tables, and what it shows. */
final class Shown {
  private final QueryBlock block;
  private final Map<UseColumn, Integer> columns = new LinkedHashMap<>();
  private final List<FunctionCall> aggregates = new ArrayList<>();
  private final Set<UseColumn> told = new LinkedHashSet<>();
  private final String shown;
  private final String groups;
  private int width;

  /**
   * @param depth by which its members of WITH are told from those of other depths
   */
  Shown(QueryBlock block, int depth) {
    this.block = block;
    this.shown = "lantrel_shown" + depth;
    this.groups = "lantrel_groups" + depth;
    for (TableUse use : block.uses()) {
      for (UseColumn column : use.columns()) {
        columns.put(column, width++);
      }
      told.addAll(RowNames.identifyingColumns(use));
    }
    block
        .select()
        .preorder()
        .forEach(
            node -> {
              if (node instanceof ColumnName name) {
                block.column(name).filter(block::isOwn).ifPresent(told::add);
              }
            });
    for (OutputColumn output : block.outputs()) {
      Aggregates.in(output.value())
          .filter(call -> call.arguments().size() == 1 && call.over() == null)
          .forEach(aggregates::add);
    }
  }

  private boolean isGrouped() {
    return block.isGrouped();
  }

  /** The values of the table uses, then of the aggregates' arguments. */
  private List<Expression> values() {
    List<Expression> values = new ArrayList<>();
    columns.keySet().forEach(column -> values.add(Sql.column(column)));
    aggregates.forEach(call -> values.add(Counting.withoutLabels(block, call.arguments().get(0))));
    return values;
  }

  private List<Expression> outputs() {
    return block.outputs().stream()
        .map(output -> Counting.withoutLabels(block, output.value()))
        .toList();
  }

  private List<Expression> grouping() {
    return Counting.grouping(block);
  }

  /** What a group has in common, by whichever of several ways it is one. */
  private List<Expression> keys() {
    return grouping().stream().flatMap(this::keys).distinct().toList();
  }

  private Stream<Expression> keys(Expression each) {
    if (each instanceof Call.Grouping all && all.kind() == Call.GroupingKind.ALL) {
      return outputs().stream().filter(value -> Aggregates.in(value).findAny().isEmpty());
    }
    if (each instanceof Call.Grouping ways) {
      return ways.items().stream().flatMap(this::keys);
    }
    return each instanceof Value.RowValue row
        ? row.values().stream().flatMap(this::keys)
        : Stream.of(each);
  }

  /** Whether there are groups that leave some of the keys out. */
  private boolean hasSeveralWays() {
    return grouping().stream()
        .flatMap(Expression::preorder)
        .anyMatch(
            node ->
                node instanceof Call.Grouping ways
                    && ways.kind() != Call.GroupingKind.ALL
                    && ways.kind() != Call.GroupingKind.DISTINCT);
  }

  /** What is 1 where a group leaves a key out. */
  private Expression isLeftOut(Expression key) {
    return block.dialect().has(Dialect.Rule.GROUPING_TELLS_WAYS)
        ? FunctionCall.of("GROUPING", key)
        : Sql.choose(Sql.isNull(key), Sql.number(1), Sql.number(0));
  }

  /** The members of WITH: the block's rows with what they show, or with their group. */
  private List<CommonTable> members() {
    List<Expression> all = new ArrayList<>(values());
    List<CommonTable> members = new ArrayList<>();
    QueryBody.Select select = block.select();
    Expression where = Counting.withoutLabelsIfPresent(block, select.where());
    if (isGrouped()) {
      all.addAll(keys());
      List<Expression> ofGroups = new ArrayList<>(outputs());
      ofGroups.addAll(keys());
      if (hasSeveralWays()) {
        keys().forEach(key -> ofGroups.add(isLeftOut(key)));
      }
      members.add(
          named(
              groups,
              new QueryBody.Select(
                  Span.NOWHERE,
                  false,
                  List.of(),
                  items(ofGroups),
                  select.from(),
                  where,
                  grouping(),
                  Counting.withoutLabelsIfPresent(block, select.having()),
                  select.windows(),
                  null),
              ofGroups.size()));
    } else {
      all.addAll(outputs());
    }
    members.add(
        named(
            shown,
            new QueryBody.Select(
                Span.NOWHERE,
                false,
                List.of(),
                items(all),
                select.from(),
                where,
                List.of(),
                null,
                isGrouped() ? List.of() : select.windows(),
                null),
            all.size()));
    return members;
  }

  private static List<SelectItem> items(List<Expression> values) {
    List<SelectItem> items = new ArrayList<>();
    values.forEach(value -> items.add(Sql.as(value, "c" + items.size())));
    return items;
  }

  private static CommonTable named(String name, QueryBody body, int width) {
    return Sql.named(name, Query.of(body), width);
  }

  /** The rows that show what is wanted. */
  private QueryBody body(Wanted wanted, List<SelectItem> items) {
    int known = width + aggregates.size();
    int outputs = block.outputs().size();
    List<Expression> ofGroup = new ArrayList<>();
    int keys = isGrouped() ? keys().size() : 0;
    for (int i = 0; i < keys; i++) {
      Expression key = Sql.column(groups, "c" + (outputs + i));
      Expression same = Sql.same(Sql.column(shown, "c" + (known + i)), key);
      Expression leftOut = Sql.column(groups, "c" + (outputs + keys + i));
      ofGroup.add(
          hasSeveralWays() ? Sql.any(List.of(same, Sql.equal(leftOut, Sql.number(1)))) : same);
    }
    List<Expression> equal = new ArrayList<>();
    for (int i = 0; i < outputs; i++) {
      Expression value = output(i);
      if (!wanted.isByName()) {
        wanted.constants().get(i).ifPresent(each -> equal.add(Constants.isEqual(value, each)));
      } else if (isCompared(i)) {
        equal.add(Sql.same(value, Sql.column(wanted.name(), "c" + i)));
      }
    }
    FromItem from = Sql.table(isGrouped() ? groups : shown);
    if (wanted.isByName()) {
      from = FromItem.Join.of(Sql.table(wanted.name()), JoinKind.INNER, from, Sql.all(equal));
    }
    if (isGrouped()) {
      from = FromItem.Join.of(from, JoinKind.INNER, Sql.table(shown), Sql.all(ofGroup));
    }
    return Sql.select(items, from, wanted.isByName() ? null : Sql.all(equal));
  }

  /** Whether every engine can find a row by what it shows there. */
  boolean isCompared(int position) {
    return !isUnordered(block.outputs().get(position).value());
  }

  private boolean isUnordered(Expression value) {
    return block.column(value).filter(column -> column.type().isUnordered()).isPresent();
  }

  /** All that is told of the tables, but what not every engine can put in order. */
  private List<Expression> order() {
    List<Expression> order = new ArrayList<>();
    columns.forEach(
        (column, at) -> {
          if (!column.type().isUnordered()) {
            order.add(Sql.column(shown, "c" + at));
          }
        });
    for (int i = 0; i < aggregates.size(); i++) {
      if (!isUnordered(aggregates.get(i).arguments().get(0))) {
        order.add(Sql.column(shown, "c" + (width + i)));
      }
    }
    return order;
  }

  /** What the block shows. */
  private Expression output(int position) {
    return isGrouped()
        ? Sql.column(groups, "c" + position)
        : Sql.column(shown, "c" + (width + aggregates.size() + position));
  }

  private List<CommonTable> with(Wanted wanted) {
    List<CommonTable> with = new ArrayList<>(wanted.isByName() ? wanted.with() : List.of());
    Set<String> known = with.stream().map(each -> each.name().key()).collect(Collectors.toSet());
    block.commonTables().stream()
        .filter(each -> !known.contains(each.name().key()))
        .forEach(with::add);
    with.addAll(members());
    return with;
  }

  /** Whether a source row shows these values. */
  boolean gives(List<@Nullable Object> row, List<@Nullable String> values) {
    int first = width + aggregates.size();
    for (int i = 0; i < values.size(); i++) {
      Object value = row.get(first + i);
      if (!Objects.equals(value == null ? null : ValueText.of(value), values.get(i))) {
        return false;
      }
    }
    return true;
  }

  /** Whether a source row shows the values at those places that are looked at. */
  boolean tells(List<@Nullable Object> row, Map<Integer, String> told, IntPredicate isLookedAt) {
    int first = width + aggregates.size();
    return told.entrySet().stream()
        .filter(each -> isLookedAt.test(each.getKey()))
        .allMatch(
            each -> {
              Object value = row.get(first + each.getKey());
              return value != null && ValueText.of(value).equals(each.getValue());
            });
  }

  /** The values of the source rows, the least first, and what they show. */
  Query query(Wanted wanted, int rows) {
    List<SelectItem> items = new ArrayList<>();
    for (int i = 0; i < width + aggregates.size(); i++) {
      items.add(Sql.as(Sql.column(shown, "c" + i), "c" + i));
    }
    for (int i = 0; i < block.outputs().size(); i++) {
      items.add(Sql.as(output(i), "c" + items.size()));
    }
    Query first = Sql.first(body(wanted, items), order(), rows);
    return new Query(
        Span.NOWHERE,
        (wanted.recursive() && wanted.isByName()) || block.hasRecursiveTables(),
        with(wanted),
        first.body(),
        first.orderBy(),
        first.limit());
  }

  /**
   * The row of a query in FROM that the first source row has.
   *
   * @param rows the source rows
   */
  Wanted wanted(Wanted outer, TableUse use, int depth, Rows rows) {
    List<SelectItem> items = new ArrayList<>();
    List<Integer> places = new ArrayList<>();
    for (UseColumn column : use.columns()) {
      int at = Objects.requireNonNull(columns.get(column));
      items.add(Sql.as(Sql.column(shown, "c" + at), "c" + items.size()));
      places.add(at);
    }
    Wanted sure = outer.byName();
    List<CommonTable> with = new ArrayList<>(with(sure));
    String name = SourceRows.WANTED + (depth + 1);
    with.add(Sql.named(name, Sql.first(body(sure, items), order(), 1), items.size()));
    boolean recursive = outer.recursive() || block.hasRecursiveTables();
    return Wanted.of(with, recursive, name, rows, places);
  }

  Source source(TableUse use, List<@Nullable Object> row) {
    List<TracedValue> values = new ArrayList<>();
    boolean any = false;
    for (UseColumn column : use.columns()) {
      Object value = value(row, column);
      any |= value != null;
      if (told.contains(column)) {
        values.add(new TracedValue(column.name(), ValueText.of(value, column.type())));
      }
    }
    List<JoinStep> filling = block.stepsThatFill(use);
    String filled = any || filling.isEmpty() ? "" : "none at " + filling.get(0).words();
    return new Source(
        use.name(), use.tableName(), filled, filled.isEmpty() ? values : List.of(), List.of());
  }

  /** What went into each aggregate. */
  List<String> aggregates(Rows rows) {
    List<String> sentences = new ArrayList<>();
    for (int i = 0; i < aggregates.size(); i++) {
      int column = width + i;
      List<@Nullable Object> values = new ArrayList<>();
      rows.rows().forEach(row -> values.add(row.get(column)));
      sentences.add(WentIn.words(aggregates.get(i), values, block.dialect()));
    }
    return sentences;
  }

  /** Why outer joins found nothing for the first of its rows. */
  List<String> whyFilled(Rows rows, Database database) {
    List<@Nullable Object> first = rows.rows().get(0);
    return new WhyFilled(
            database,
            block,
            row(rows),
            use ->
                !block.stepsThatFill(use).isEmpty()
                    && use.columns().stream().allMatch(each -> value(first, each) == null),
            column ->
                columns.containsKey(column)
                    ? Stream.of(
                        new TracedValue(
                            column.words(), ValueText.of(value(first, column), column.type())))
                    : Stream.empty())
        .sentences();
  }

  private @Nullable Object value(List<@Nullable Object> row, UseColumn column) {
    return row.get(Objects.requireNonNull(columns.get(column)));
  }

  /** What stands for a column of the block's tables in the first of its rows. */
  SubqueryRows.Outside row(Rows rows) {
    return column -> {
      Integer at = columns.get(column);
      return at == null ? Optional.empty() : Constants.inFirst(rows, at);
    };
  }
}
