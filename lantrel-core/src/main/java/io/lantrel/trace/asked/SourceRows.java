package io.lantrel.trace.asked;

import io.lantrel.engine.Database;
import io.lantrel.engine.DatabaseException;
import io.lantrel.engine.Rows;
import io.lantrel.engine.ValueText;
import io.lantrel.probe.Counting;
import io.lantrel.probe.RowNames;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.Aggregates;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.ResolvedQuery;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.tree.Call;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.CommonTable;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value;
import io.lantrel.sql.tree.Value.ColumnName;
import io.lantrel.trace.Answer.Source;
import io.lantrel.trace.Answer.TracedValue;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * The rows that a row of a query was put together from. The row that is meant is a member of WITH;
 * the rows of the block, each with what it shows, are joined to it by all columns of the result. So
 * the engine itself puts the sources together again: what is told are rows that give that row.
 */
final class SourceRows {

  /** Deeper queries in FROM are not gone into. */
  private static final int DEEPEST = 16;

  /** So many queries in FROM are gone into at most: each costs a statement. */
  private static final int MOST_WITHIN = 30;

  /** What the row that is meant is called, with the depth. */
  static final String WANTED = "lantrel_wanted";

  private final Database database;
  private final int most;
  private final List<QueryBlock> blocks;

  /** So many rows are looked through where their values cannot be compared by the engine. */
  private static final int LOOKED_THROUGH = 1_000;

  private int within;

  /**
   * @param blocks all of the statement
   * @param most how many rows of each group are told at most
   */
  SourceRows(Database database, List<QueryBlock> blocks, int most) {
    this.database = database;
    this.blocks = blocks;
    this.most = most;
  }

  /**
   * What was found.
   *
   * @param sources the rows
   * @param sentences what else is to be known: what went into an aggregate, how many rows there are
   */
  record Found(List<Source> sources, List<String> sentences) {}

  /**
   * A row of a query: its name in WITH, with columns c0, c1…
   *
   * @param constants its values, each empty if it cannot be written; none to go by the name. With
   *     them an engine need not work out the row once more, and can look at few rows only
   */
  record Wanted(
      List<CommonTable> with,
      boolean recursive,
      String name,
      List<Optional<Expression>> constants) {

    boolean isByName() {
      return constants.stream().noneMatch(Optional::isPresent);
    }

    /** The same by its name alone, which means just that row in every engine. */
    Wanted byName() {
      return new Wanted(with, recursive, name, List.of());
    }
  }

  /**
   * The sources of a row of the whole query. They are looked at once more before they are told:
   * what they give must be that row.
   *
   * @param values what the row shows
   */
  Found of(ResolvedQuery query, Wanted wanted, List<TracedValue> values) {
    return of(query, wanted, values.stream().map(TracedValue::value).toList(), 0);
  }

  /**
   * The sources of a row of a query, in each of its parts that gives it.
   *
   * @param values what it shows, to be compared; empty if it is not known
   */
  private Found of(ResolvedQuery query, Wanted wanted, List<@Nullable String> values, int depth) {
    List<Source> sources = new ArrayList<>();
    List<String> sentences = new ArrayList<>();
    for (QueryBlock block : query.parts()) {
      if (block.isCorrelated()) {
        sentences.add("What depends on rows outside is not followed.");
        continue;
      }
      ofBlock(query, block, wanted, values, depth, sources, sentences);
    }
    return new Found(sources, sentences.stream().distinct().toList());
  }

  private void ofBlock(
      ResolvedQuery query,
      QueryBlock block,
      Wanted wanted,
      List<@Nullable String> values,
      int depth,
      List<Source> sources,
      List<String> sentences) {
    if (block.uses().isEmpty()) {
      return;
    }
    Shown shown = new Shown(block, depth);
    Rows all = rows(shown, query.parts().size() > 1 ? wanted.byName() : wanted);
    Rows rows = values.isEmpty() ? all : all.where(row -> shown.gives(row, values));
    if (rows.size() < all.size() && rows.size() == 0) {
      return;
    }
    int count = Math.min(rows.size(), most);
    SubqueryRows subqueries = new SubqueryRows(database, most, blocks);
    for (TableUse use : block.uses()) {
      Set<Source> ofUse = new LinkedHashSet<>();
      for (int i = 0; i < count; i++) {
        ofUse.add(shown.source(use, rows.rows().get(i)));
      }
      for (Source source : ofUse) {
        boolean first = source.equals(ofUse.iterator().next()) && source.filled().isEmpty();
        if (!first) {
          sources.add(source);
        } else if (use.isDependent()) {
          Found found = subqueries.ofLateral(block, use, shown.row(rows));
          sentences.addAll(found.sentences());
          sources.add(source.withSources(found.sources()));
        } else {
          Wanted inner = shown.wanted(wanted, use, depth, rows);
          sources.add(within(source, use, query, inner, depth, sentences));
        }
      }
    }
    if (count > 0) {
      Found found = subqueries.of(block, shown.row(rows));
      sources.addAll(found.sources());
      sentences.addAll(found.sentences());
    }
    if (rows.size() > most) {
      sentences.add(
          "It was put together from more than "
              + most
              + " rows; the first "
              + most
              + " are shown.");
    }
    if (count > 0 && rows.size() <= most) {
      sentences.addAll(shown.aggregates(rows));
    }
  }

  /**
   * First by constants, then by name: a constant need not be equal to the value that it was written
   * for, as in a type of its own, and may be refused beside it.
   */
  private Rows rows(Shown shown, Wanted wanted) {
    if (!wanted.isByName()) {
      try {
        Rows rows = database.ask(shown.query(wanted, most + 1));
        if (rows.size() > 0) {
          return rows;
        }
      } catch (DatabaseException refused) {
        if (refused.isFatal()) {
          throw refused;
        }
      }
    }
    int rows = shown.isCompared() ? most + 1 : LOOKED_THROUGH;
    return database.ask(shown.query(wanted.byName(), rows));
  }

  /** A row of a query in FROM with the rows that it was put together from itself. */
  private Source within(
      Source source,
      TableUse use,
      ResolvedQuery query,
      Wanted wanted,
      int depth,
      List<String> sentences) {
    // The finished recursion stands for its rows so far: the row before is one of its rows too.
    Optional<ResolvedQuery> inner = use.isOwnRecursion() ? Optional.of(query) : use.queryOfText();
    if (inner.isEmpty() || depth >= DEEPEST) {
      return source;
    }
    if (++within > MOST_WITHIN) {
      sentences.add("Of the queries in FROM only the first " + MOST_WITHIN + " were gone into.");
      return source;
    }
    try {
      Found found = of(inner.get(), wanted, List.of(), depth + 1);
      sentences.addAll(found.sentences());
      return source.withSources(found.sources());
    } catch (DatabaseException failure) {
      if (failure.isFatal()) {
        throw failure;
      }
      sentences.add("The rows within " + use.name() + " were not got: " + failure.getMessage());
      return source;
    }
  }

  /** A column as its block writes it. */
  static Expression written(UseColumn column) {
    TableUse use = column.use();
    Identifier name = use.dialect().exact(column.name());
    return new ColumnName(
        Span.NOWHERE, use.isNamed() ? List.of(use.dialect().exact(use.name())) : List.of(), name);
  }

  /** A block, and what is asked of its rows: all columns of its tables, and what it shows. */
  private static final class Shown {
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
      columns.keySet().forEach(column -> values.add(written(column)));
      aggregates.forEach(
          call -> values.add(Counting.withoutLabels(block, call.arguments().get(0))));
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

    /** Whether there is anything by which every engine can find a row. */
    boolean isCompared() {
      return IntStream.range(0, block.outputs().size()).anyMatch(this::isCompared);
    }

    private boolean isCompared(int position) {
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
      List<Optional<Expression>> values = new ArrayList<>();
      for (UseColumn column : use.columns()) {
        int at = Objects.requireNonNull(columns.get(column));
        items.add(Sql.as(Sql.column(shown, "c" + at), "c" + items.size()));
        values.add(Constants.inFirst(rows, at));
      }
      Wanted sure = outer.byName();
      List<CommonTable> with = new ArrayList<>(with(sure));
      String name = WANTED + (depth + 1);
      with.add(Sql.named(name, Sql.first(body(sure, items), order(), 1), items.size()));
      boolean recursive = outer.recursive() || block.hasRecursiveTables();
      return new Wanted(with, recursive, name, values);
    }

    Source source(TableUse use, List<@Nullable Object> row) {
      List<TracedValue> values = new ArrayList<>();
      boolean any = false;
      for (UseColumn column : use.columns()) {
        Object value = row.get(Optional.ofNullable(columns.get(column)).orElseThrow());
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

    /** What stands for a column of the block's tables in the first of its rows. */
    SubqueryRows.Outside row(Rows rows) {
      return column -> {
        Integer at = columns.get(column);
        return at == null ? Optional.empty() : Constants.inFirst(rows, at);
      };
    }
  }
}
