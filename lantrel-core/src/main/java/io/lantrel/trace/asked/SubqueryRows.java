package io.lantrel.trace.asked;

import io.lantrel.engine.Database;
import io.lantrel.engine.DatabaseException;
import io.lantrel.engine.Rows;
import io.lantrel.engine.ValueText;
import io.lantrel.probe.RowNames;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.Aggregates;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.Subquery;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.ColumnReplacer;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Limit;
import io.lantrel.sql.tree.OrderItem;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value.ColumnName;
import io.lantrel.sql.tree.Value.Literal;
import io.lantrel.sql.tree.Value.ScalarQuery;
import io.lantrel.trace.Answer.Source;
import io.lantrel.trace.Answer.TracedValue;
import io.lantrel.trace.asked.SourceRows.Found;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * The rows that the subqueries of a block, and LATERAL, found for one of its rows: the values of
 * that row stand in the place of its columns, so that each is a query by itself.
 */
final class SubqueryRows {

  /** So many statements are sent for those of a block at most: one for each part of a UNION. */
  private static final int MOST_STATEMENTS = 8;

  private final Database database;
  private final int most;
  private final List<QueryBlock> blocks;

  /** What stands for a column of the row outside; empty if no constant does. */
  interface Outside {
    Optional<Expression> value(UseColumn column);
  }

  /**
   * @param most how many rows of each are told at most
   * @param blocks all of the statement
   */
  SubqueryRows(Database database, int most, List<QueryBlock> blocks) {
    this.database = database;
    this.most = most;
    this.blocks = blocks;
  }

  /**
   * What a subquery found.
   *
   * @param values what it gives, if it gives one value
   * @param sources the rows
   * @param sentences what else is to be known
   */
  private record InSubquery(
      List<TracedValue> values, List<Source> sources, List<String> sentences) {
    static InSubquery untold(String sentence) {
      return new InSubquery(List.of(), List.of(), List.of(sentence));
    }
  }

  /** The rows of each subquery, below its name. */
  Found of(QueryBlock block, Outside row) {
    List<Source> sources = new ArrayList<>();
    List<String> sentences = new ArrayList<>();
    List<Subquery> all = Subquery.of(block);
    int asked = 0;
    for (int at = 0; at < all.size(); at++) {
      Subquery each = all.get(at);
      asked += Math.max(1, parts(each.query()).size());
      if (asked > MOST_STATEMENTS) {
        sentences.add("Of the subqueries only the first " + at + " were gone into.");
        break;
      }
      String words = each.words(all);
      InSubquery found = rows(block, words, each.query(), row);
      sentences.addAll(found.sentences());
      if (!found.sources().isEmpty()) {
        sources.add(new Source(words, "", "", found.values(), found.sources()));
      }
    }
    return new Found(sources, sentences);
  }

  /** The rows of a query behind LATERAL. */
  Found ofLateral(QueryBlock block, TableUse use, Outside row) {
    return use.queryOfText()
        .map(query -> rows(block, use.words(), query.query(), row))
        .map(found -> new Found(found.sources(), found.sentences()))
        .orElseGet(() -> new Found(List.of(), List.of()));
  }

  private InSubquery rows(QueryBlock outer, String words, Query query, Outside outside) {
    Values values = new Values(outer, outside);
    List<Looked> looked = new ArrayList<>();
    List<QueryBody> parts = parts(query);
    for (QueryBody part : parts) {
      blocks.stream()
          .filter(each -> each.select().span().equals(part.span()))
          .filter(each -> each.select().from() != null)
          .findFirst()
          .flatMap(inner -> Looked.of(values, inner, part, query, most))
          .ifPresent(looked::add);
    }
    if (looked.isEmpty() || looked.size() < parts.size()) {
      return InSubquery.untold("What " + words + " found is not followed.");
    }
    List<TracedValue> value = new ArrayList<>();
    List<Source> sources = new ArrayList<>();
    List<String> sentences = new ArrayList<>();
    try {
      for (Looked each : looked) {
        InSubquery found = each.found(words, database.ask(each.query()));
        if (value.isEmpty()) {
          value.addAll(found.values());
        }
        sources.addAll(found.sources());
        sentences.addAll(found.sentences());
      }
    } catch (DatabaseException failure) {
      if (failure.isFatal()) {
        throw failure;
      }
      return InSubquery.untold("What " + words + " found was not got: " + failure.getMessage());
    }
    if (sources.isEmpty()) {
      sentences.add("No row was found by " + words + ".");
    }
    return new InSubquery(value, sources, sentences);
  }

  /** The SELECTs whose rows a query gives one after the other; none if they are not just that. */
  private static List<QueryBody> parts(Query query) {
    List<QueryBody> parts = new ArrayList<>();
    boolean isUnion = isUnion(query.body(), parts) && parts.size() <= MOST_STATEMENTS;
    return isUnion && (parts.size() == 1 || query.limit() == null) ? parts : List.of();
  }

  private static boolean isUnion(QueryBody body, List<QueryBody> parts) {
    if (body instanceof QueryBody.SetOperation operation) {
      return operation.operator() == QueryBody.SetOperator.UNION
          && operation.parts().stream().allMatch(each -> isUnion(each, parts));
    }
    parts.add(body);
    return true;
  }

  /** One of them, with the values of the row outside. */
  private static final class Looked {
    private final QueryBlock inner;
    private final int most;
    private final List<UseColumn> columns = new ArrayList<>();
    private final List<FunctionCall> aggregates;
    private final boolean isScalar;
    private final Query query;

    /**
     * @param part the SELECT whose rows are looked at
     * @param bound the whole query
     */
    private Looked(
        QueryBlock inner,
        QueryBody.Select part,
        Query bound,
        boolean isScalar,
        @Nullable Expression wanted,
        int most) {
      this.inner = inner;
      this.most = most;
      this.isScalar = isScalar;
      for (TableUse use : inner.uses()) {
        columns.addAll(told(use));
      }
      this.aggregates =
          inner.outputs().stream()
              .flatMap(output -> Aggregates.in(output.value()))
              .filter(call -> call.arguments().size() == 1 && call.over() == null)
              .toList();
      List<SelectItem> items = new ArrayList<>();
      columns.forEach(column -> items.add(Sql.as(Sql.column(column), "c" + items.size())));
      aggregates.forEach(call -> items.add(Sql.as(call.arguments().get(0), "c" + items.size())));
      if (isScalar) {
        items.add(Sql.as(new ScalarQuery(Span.NOWHERE, bound), "c" + items.size()));
      }
      List<Expression> conditions = new ArrayList<>();
      Optional.ofNullable(part.where()).ifPresent(conditions::add);
      Optional.ofNullable(wanted).ifPresent(conditions::add);
      QueryBody body =
          Sql.select(items, part.from(), conditions.isEmpty() ? null : Sql.all(conditions));
      boolean keepsRows = !inner.isGrouped() && !part.distinct() && part.distinctOn().isEmpty();
      this.query =
          new Query(
              Span.NOWHERE,
              inner.hasRecursiveTables(),
              inner.commonTables(),
              body,
              keepsRows && bound.limit() != null ? bound.orderBy() : order(),
              keepsRows && isFew(bound.limit()) ? bound.limit() : Limit.of(most + 1L));
    }

    private boolean isFew(@Nullable Limit limit) {
      return limit != null
          && limit.count() instanceof Literal count
          && count.text().matches("[0-9]{1,6}")
          && Integer.parseInt(count.text()) <= most;
    }

    private List<OrderItem> order() {
      List<OrderItem> order = new ArrayList<>();
      columns.forEach(column -> order.add(OrderItem.by(Sql.column(column))));
      return order;
    }

    /** What tells a row from others, and what the query names of it. */
    private Set<UseColumn> told(TableUse use) {
      Set<UseColumn> told = new LinkedHashSet<>(RowNames.identifyingColumns(use));
      inner
          .select()
          .preorder()
          .filter(ColumnName.class::isInstance)
          .map(ColumnName.class::cast)
          .flatMap(name -> inner.column(name).stream())
          .filter(column -> column.use().equals(use))
          .forEach(told::add);
      return told;
    }

    /**
     * @param body the SELECT whose rows are looked at
     * @param query the whole subquery
     */
    static Optional<Looked> of(
        Values values, QueryBlock inner, QueryBody body, Query query, int most) {
      Query bound = values.in(query);
      Query part = values.in(Query.of(body));
      Expression wanted = values.wanted(inner, query);
      boolean renamed = inner.steps().stream().anyMatch(step -> step.join().alias() != null);
      boolean plain = !renamed && query.with().isEmpty() && inner.hasClearCommonTables();
      return values.all && plain && part.body() instanceof QueryBody.Select select
          ? Optional.of(new Looked(inner, select, bound, values.isScalar(query), wanted, most))
          : Optional.empty();
    }

    Query query() {
      return query;
    }

    InSubquery found(String words, Rows rows) {
      List<String> sentences = new ArrayList<>();
      List<Source> sources = new ArrayList<>();
      int count = Math.min(rows.size(), most);
      for (TableUse use : inner.uses()) {
        Set<Source> ofUse = new LinkedHashSet<>();
        for (List<@Nullable Object> row : rows.rows().subList(0, count)) {
          ofUse.add(source(use, row));
        }
        sources.addAll(ofUse);
      }
      if (rows.size() > most) {
        sentences.add(
            "Of the rows that " + words + " found only the first " + most + " are shown.");
      } else if (count > 0) {
        for (int i = 0; i < aggregates.size(); i++) {
          int at = columns.size() + i;
          List<@Nullable Object> values = new ArrayList<>();
          rows.rows().forEach(row -> values.add(row.get(at)));
          sentences.add(WentIn.words(aggregates.get(i), values, inner.dialect()));
        }
      }
      return new InSubquery(values(rows), sources, sentences);
    }

    /** What it gives, if that is one value. */
    private List<TracedValue> values(Rows rows) {
      if (!isScalar || rows.size() == 0) {
        return List.of();
      }
      Object value = rows.rows().get(0).get(columns.size() + aggregates.size());
      return List.of(new TracedValue("value", value == null ? null : ValueText.of(value)));
    }

    private Source source(TableUse use, List<@Nullable Object> row) {
      List<TracedValue> values = new ArrayList<>();
      for (int i = 0; i < columns.size(); i++) {
        UseColumn column = columns.get(i);
        if (column.use().equals(use)) {
          values.add(new TracedValue(column.name(), ValueText.of(row.get(i), column.type())));
        }
      }
      return new Source(use.name(), use.tableName(), "", values, List.of());
    }
  }

  /** The values of the row outside in the place of its columns. */
  private static final class Values {
    private final QueryBlock outer;
    private final ColumnReplacer replacer;
    private boolean all = true;

    Values(QueryBlock outer, Outside outside) {
      this.outer = outer;
      this.replacer =
          new ColumnReplacer(
              name -> {
                Optional<UseColumn> column = outer.column(name).filter(outer::isOwn);
                Optional<Expression> value = column.flatMap(outside::value);
                all &= column.isEmpty() || value.isPresent();
                return value.orElse(name);
              });
    }

    Query in(Query query) {
      return replacer.apply(query);
    }

    /** Whether it stands for one value. */
    boolean isScalar(Query query) {
      return outer
          .select()
          .preorder()
          .anyMatch(node -> node instanceof ScalarQuery scalar && scalar.query().equals(query));
    }

    /** Of IN, only the rows with the value that is looked for; null if it is no IN. */
    @Nullable Expression wanted(QueryBlock inner, Query query) {
      if (inner.isGrouped() || inner.outputs().size() != 1) {
        return null;
      }
      return outer
          .select()
          .preorder()
          .filter(Condition.InQuery.class::isInstance)
          .map(Condition.InQuery.class::cast)
          .filter(in -> in.query().equals(query))
          .findFirst()
          .map(
              in ->
                  Sql.equal(
                      replacer.apply(inner.outputs().get(0).value()), replacer.apply(in.value())))
          .orElse(null);
    }
  }
}
