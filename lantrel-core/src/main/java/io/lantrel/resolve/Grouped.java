package io.lantrel.resolve;

import io.lantrel.catalog.Key;
import io.lantrel.sql.ColumnReplacer;
import io.lantrel.sql.Dialect.Rule;
import io.lantrel.sql.SqlPrinter;
import io.lantrel.sql.tree.Call;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.JoinCondition;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.Value;
import io.lantrel.sql.tree.Value.ColumnName;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.stream.Stream;

/**
 * What can be shown of groups: what they are grouped by, aggregates, and what these determine
 * (ISO/IEC 9075-2, 7.16, syntax rules on grouped columns; 4.26). And where aggregates cannot stand:
 * in WHERE, in ON and in GROUP BY (10.9, syntax rules).
 */
final class Grouped {

  /** Aggregates in every product, so that a name of a user's own function is not taken for one. */
  private static final Set<String> CERTAIN =
      Set.of(
          "count",
          "sum",
          "avg",
          "min",
          "max",
          "string_agg",
          "array_agg",
          "group_concat",
          "listagg",
          "bool_and",
          "bool_or",
          "every",
          "stddev",
          "variance");

  private final QueryBlock block;
  private final Resolver resolver;
  private final Set<UseColumn> columns = new HashSet<>();
  private final Set<String> values = new HashSet<>();
  private final List<ColumnName> names = new ArrayList<>();
  private final List<UseColumn> loose = new ArrayList<>();

  private Grouped(QueryBlock block, Resolver resolver) {
    this.block = block;
    this.resolver = resolver;
  }

  static void check(QueryBlock block, Resolver resolver) {
    misplaced(block, resolver);
    if (block.isGrouped()) {
      new Grouped(block, resolver).check();
    }
  }

  // ---- aggregates before there are groups ----

  private static void misplaced(QueryBlock block, Resolver resolver) {
    Expression where = block.select().where();
    if (where != null) {
      misplaced(where, "WHERE", block, resolver);
    }
    Stream.ofNullable(block.select().from())
        .flatMap(Aggregates::withoutQueries)
        .filter(JoinCondition.On.class::isInstance)
        .forEach(on -> misplaced(on, "ON", block, resolver));
    Stream.ofNullable(block.select().from())
        .flatMap(Aggregates::withoutQueries)
        .filter(FromItem.TableFunction.class::isInstance)
        .forEach(function -> misplaced(function, "FROM", block, resolver));
    // With what labels and positions mean, so that none is grouped by its own aggregate.
    block.grouping().forEach(item -> misplaced(item, "GROUP BY", block, resolver));
    block.outputs().forEach(output -> nested(output.value(), block, resolver));
    Expression having = block.select().having();
    if (having != null) {
      nested(having, block, resolver);
    }
    block.query().orderBy().forEach(item -> nested(item.value(), block, resolver));
  }

  /** An aggregate within an aggregate, or within the condition that says of which rows. */
  private static void nested(Expression value, QueryBlock block, Resolver resolver) {
    Aggregates.in(value)
        .filter(call -> call.name().size() == 1 && CERTAIN.contains(call.key()))
        .forEach(
            call -> {
              String inside = "The inside of " + call.key().toUpperCase(Locale.ROOT);
              call.arguments().forEach(each -> misplaced(each, inside, block, resolver));
              if (call.filter() != null) {
                misplaced(call.filter(), "FILTER", block, resolver);
              }
            });
  }

  /** One over columns of a block around this may be that block's own; over none it is not. */
  private static void misplaced(Node node, String clause, QueryBlock block, Resolver resolver) {
    Stream<FunctionCall> own =
        Aggregates.in(node)
            .filter(
                call ->
                    block.outer().isEmpty()
                        || !block.columnsIn(call).isEmpty()
                        || call.preorder().noneMatch(Value.ColumnName.class::isInstance));
    Stream.concat(own, block.aggregatesWithin(node))
        .filter(call -> call.name().size() == 1 && CERTAIN.contains(call.key()))
        .forEach(call -> resolver.report(new NameProblem.MisplacedAggregate(block, call, clause)));
  }

  // ---- columns that are not grouped ----

  private void check() {
    if (block.select().groupBy().stream().anyMatch(Grouped::isStrange)) {
      return;
    }
    block.grouping().forEach(this::group);
    block.outputs().forEach(output -> look(output.value()));
    Expression having = block.select().having();
    if (having != null) {
      look(having);
    }
    block.query().orderBy().forEach(item -> look(item.value()));
    if (having != null && block.dialect().has(Rule.HAVING_SEES_WHAT_IS_SHOWN)) {
      notShown(having);
    }
    if (!names.isEmpty()) {
      NameProblem.UngroupedColumns found = new NameProblem.UngroupedColumns(block, names, loose);
      if (block.dialect().has(Rule.ANY_UNGROUPED_COLUMN)) {
        block.pick(found);
      } else {
        resolver.report(found);
      }
    }
  }

  private void notShown(Expression having) {
    Set<UseColumn> seen = new HashSet<>(columns);
    block.outputs().forEach(output -> block.column(output.value()).ifPresent(seen::add));
    List<ColumnName> unseen = new ArrayList<>();
    List<UseColumn> theirs = new ArrayList<>();
    Set<Node> within = new HashSet<>();
    Aggregates.in(having).flatMap(Node::preorder).forEach(within::add);
    Aggregates.withoutQueries(having)
        .filter(node -> node instanceof ColumnName && !within.contains(node))
        .map(ColumnName.class::cast)
        .forEach(
            name ->
                meant(name).stream()
                    .filter(column -> block.isOwn(column) && !seen.contains(column))
                    .forEach(
                        column -> {
                          unseen.add(name);
                          theirs.add(column);
                        }));
    if (!unseen.isEmpty()) {
      resolver.report(new NameProblem.UngroupedColumns(block, unseen, theirs));
    }
  }

  /** Grouped by a table's name as a row, in whatever way a product means it. */
  private static boolean isStrange(Expression item) {
    return item.preorder().anyMatch(Value.WholeRow.class::isInstance);
  }

  private void group(Expression item) {
    if (item instanceof Call.Grouping grouping) {
      grouping.items().forEach(this::group);
    } else if (item instanceof Value.RowValue row) {
      row.values().forEach(this::group);
    } else {
      values.add(shape(item));
      if (item instanceof ColumnName name) {
        columns.addAll(meant(name));
      }
    }
  }

  private Set<UseColumn> meant(ColumnName name) {
    Binding binding = block.binding(name);
    if (binding instanceof Binding.ToColumn bound) {
      return Set.of(bound.column());
    }
    return binding instanceof Binding.ToMerged merged ? Set.copyOf(merged.columns()) : Set.of();
  }

  /** The text of a value in which each column stands for itself, however it is written. */
  private String shape(Expression value) {
    Expression plain =
        new ColumnReplacer(
                name ->
                    block.binding(name) instanceof Binding.ToColumn bound
                        ? ColumnName.of(
                            "u" + System.identityHashCode(bound.column().use()),
                            "c" + bound.column().position())
                        : name)
            .apply(value);
    return Identifier.key(SqlPrinter.print(plain, block.dialect()));
  }

  private void look(Node node) {
    if (node instanceof Call.FunctionCall call && (Aggregates.isOne(call) || isPerhapsOne(call))) {
      return;
    }
    if (node instanceof ColumnName name) {
      look(name);
    } else if (node instanceof Query query) {
      query
          .preorder()
          .filter(ColumnName.class::isInstance)
          .map(ColumnName.class::cast)
          .filter(name -> block.binding(name) instanceof Binding.ToColumn)
          .filter(name -> !isInAggregate(name, query))
          .forEach(this::look);
    } else if (!(node instanceof Expression value) || !isGrouped(value)) {
      node.children().forEach(this::look);
    }
  }

  private boolean isGrouped(Expression value) {
    return values.size() > columns.size() && values.contains(shape(value));
  }

  /** A function that nothing is known of may be an aggregate. */
  private static boolean isPerhapsOne(Call.FunctionCall call) {
    return call.over() == null && !Functions.isOfOneRow(call.key());
  }

  /** An aggregate in a subquery over columns of this block is this block's own. */
  private static boolean isInAggregate(ColumnName name, Query query) {
    return query
        .preorder()
        .anyMatch(
            node ->
                node instanceof Call.FunctionCall call
                    && (Aggregates.isOne(call) || isPerhapsOne(call))
                    && call.preorder().anyMatch(each -> each == name));
  }

  private void look(ColumnName name) {
    if (block.binding(name) instanceof Binding.ToColumn bound
        && block.isOwn(bound.column())
        && !columns.contains(bound.column())
        && !loose.contains(bound.column())
        && !isDetermined(bound.column())) {
      names.add(name);
      loose.add(bound.column());
    }
  }

  private boolean isDetermined(UseColumn column) {
    if (!block.dialect().has(Rule.KEY_GROUPS_ITS_TABLE)) {
      return false;
    }
    if (!block.dialect().has(Rule.ONLY_PRIMARY_KEY_GROUPS)) {
      return block.determines(columns, column);
    }
    List<Key> keys = column.use().table().map(table -> column.use().keys()).orElse(List.of());
    return keys.stream()
        .filter(Key::primary)
        .anyMatch(key -> columns.containsAll(Dependencies.columns(column.use(), key)));
  }
}
