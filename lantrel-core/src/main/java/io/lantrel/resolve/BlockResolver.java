package io.lantrel.resolve;

import io.lantrel.resolve.Columns.Visible;
import io.lantrel.resolve.Scope.Labels;
import io.lantrel.sql.Dialect.Rule;
import io.lantrel.sql.SqlPrinter;
import io.lantrel.sql.tree.Call;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.JoinCondition;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Value;
import io.lantrel.sql.tree.Value.ColumnName;
import io.lantrel.sql.tree.Window;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Set;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** Finds out what the names of one SELECT mean, clause by clause (ISO/IEC 9075-2, 7.16). */
final class BlockResolver {

  /** Words that functions on dates take as an argument, and that are no columns there. */
  private static final Set<String> UNITS =
      Set.of(
          "year",
          "quarter",
          "month",
          "week",
          "day",
          "hour",
          "minute",
          "second",
          "millisecond",
          "microsecond",
          "years",
          "months",
          "days",
          "hours",
          "minutes",
          "seconds",
          "yy",
          "mm",
          "dd",
          "hh",
          "mi",
          "ss",
          "dow",
          "doy",
          "epoch",
          "sql_tsi_day",
          "sql_tsi_month",
          "sql_tsi_year",
          "sql_tsi_hour",
          "sql_tsi_minute",
          "sql_tsi_second",
          "sql_tsi_week",
          "sql_tsi_quarter",
          "day_of_week",
          "date",
          "time",
          "datetime",
          "timestamp",
          "day_of_year",
          "day_of_month",
          "iso_week",
          "nfc",
          "nfd",
          "nfkc",
          "nfkd");

  /** Their argument is the name of a sequence. */
  private static final Set<String> SEQUENCES = Set.of("nextval", "currval", "lastval", "setval");

  private final Resolver resolver;

  BlockResolver(Resolver resolver) {
    this.resolver = resolver;
  }

  ResolvedQuery resolve(
      Query query, QueryBody.Select select, @Nullable Scope outer, CommonTables tables) {
    QueryBlock around = outer == null ? null : outer.block();
    QueryBlock block =
        new QueryBlock(
            resolver.catalog(),
            query,
            select,
            around,
            resolver.bindings(),
            tables.all(resolver),
            tables.isRecursive());
    resolver.add(block);
    FromResolver from = new FromResolver(resolver, block, outer, tables);
    Columns columns = from.resolve(select.from());
    Scope shown = new Scope(block, columns, tables, labels(Rule.LABELS_IN_SELECT), outer);
    select.items().forEach(item -> outputs(item, shown));
    where(select, shown, from);
    boolean labelled = labels(Rule.LABELS_IN_HAVING) != Labels.NONE;
    Scope having = scope(shown, labelled ? Labels.EITHER : Labels.NONE);
    if (select.having() != null) {
      names(select.having(), having);
    }
    Scope behind = scope(shown, Labels.BEHIND_COLUMNS);
    select.windows().stream()
        .filter(
            window ->
                !resolver.dialect().has(Rule.UNUSED_WINDOWS_ARE_NOT_READ) || isUsed(window, select))
        .forEach(window -> names(window, behind));
    if (select.qualify() != null) {
      names(select.qualify(), behind);
    }
    Scope ordering = scope(shown, Labels.FIRST);
    select.distinctOn().forEach(item -> names(item, ordering));
    query.orderBy().forEach(item -> order(item.value(), ordering));
    query.orderBy().forEach(item -> position(item.value(), block, "ORDER BY", block.outputs()));
    if (query.limit() != null) {
      names(query.limit(), shown);
    }
    if (resolver.dialect().has(Rule.NAMES_ARE_MET_WHEN_USED)) {
      resolver.problems().removeIf(problem -> isNeverMet(problem, block));
    }
    return new ResolvedQuery(
        query,
        List.of(block),
        block.outputs(),
        block.hasAllOutputs(),
        false,
        position -> block.isNullable(block.outputs().get(position)),
        () -> BlockKeys.of(block));
  }

  /** In some products a label cannot be a part of something larger. */
  private void order(Expression item, Scope ordering) {
    boolean alone =
        item instanceof ColumnName || !resolver.dialect().has(Rule.LABELS_STAND_ALONE_IN_ORDER_BY);
    names(item, alone ? ordering : scope(ordering, Labels.NONE));
  }

  private void where(QueryBody.Select select, Scope shown, FromResolver from) {
    if (select.where() != null) {
      names(select.where(), scope(shown, labels(Rule.LABELS_IN_WHERE)));
    }
    from.finish(select.where());
    Scope grouping = scope(shown, labels(Rule.LABELS_IN_GROUP_BY));
    select.groupBy().forEach(item -> group(item, grouping));
  }

  /** DuckDB does not look at a window that nothing uses. */
  private boolean isUsed(Window.Named window, QueryBody.Select select) {
    return select
        .preorder()
        .anyMatch(
            node ->
                node instanceof Window used
                    && used.base() != null
                    && resolver
                        .dialect()
                        .key(used.base())
                        .equals(resolver.dialect().key(window.name())));
  }

  /** DuckDB minds two tables of one name only where one of them is named. */
  private boolean isNeverMet(NameProblem problem, QueryBlock block) {
    return problem instanceof NameProblem.RepeatedAlias repeated
        && repeated.block() == block
        && block
            .query()
            .preorder()
            .noneMatch(
                node ->
                    node instanceof SelectItem.AllColumns
                        || (node instanceof ColumnName name
                            && concerns(name, repeated)
                            && !isOfOneJoin(name, repeated)));
  }

  /** In ON of a join in parentheses that has just one of the two: that one is meant. */
  private static boolean isOfOneJoin(ColumnName name, NameProblem.RepeatedAlias repeated) {
    return Stream.ofNullable(repeated.block().select().from())
        .flatMap(Node::preorder)
        .anyMatch(
            node ->
                node instanceof FromItem.Join join
                    && join.condition() instanceof JoinCondition.On on
                    && on.span().contains(name.span())
                    && isBelow(join, repeated.first()) != isBelow(join, repeated.second()));
  }

  private static boolean isBelow(FromItem.Join join, TableUse use) {
    return join.preorder().anyMatch(node -> node == use.item());
  }

  private boolean concerns(ColumnName name, NameProblem.RepeatedAlias repeated) {
    Binding binding = resolver.bindings().get(name);
    return binding instanceof Binding.Nothing
        || (binding instanceof Binding.ToColumn bound
            && (bound.column().use() == repeated.first()
                || bound.column().use() == repeated.second()));
  }

  private Labels labels(Rule rule) {
    return resolver.dialect().has(rule) ? Labels.BEHIND_COLUMNS : Labels.NONE;
  }

  private static Scope scope(Scope like, Labels labels) {
    return new Scope(like.block(), like.columns(), like.tables(), labels, like.outer());
  }

  // ---- names ----

  /** Gives every column name below a node its meaning; a subquery is a block of its own. */
  void names(Node node, Scope scope) {
    if (node instanceof ColumnName column) {
      resolver.bindings().put(column, scope.bind(column, resolver.problems()));
    } else if (node instanceof Query query) {
      resolver.query(query, scope, scope.tables());
    } else if (node instanceof Call.FunctionCall call) {
      if (!SEQUENCES.contains(call.key())) {
        call.children().forEach(child -> argument(child, scope));
      }
    } else if (node instanceof Call.Lambda lambda) {
      names(lambda.body(), scope.withLocals(keys(lambda.names())));
    } else if (node instanceof Value.Operation operation && operation.sign().equals("->")) {
      arrow(operation, scope);
    } else if (node instanceof Value.WholeRow row) {
      wholeRow(row, scope);
    } else {
      node.children().forEach(child -> names(child, scope));
    }
  }

  private Set<String> keys(List<Identifier> names) {
    Set<String> keys = new HashSet<>();
    names.forEach(name -> keys.add(resolver.dialect().key(name)));
    return keys;
  }

  private void argument(Node node, Scope scope) {
    boolean unit =
        node instanceof ColumnName name
            && name.qualifier().isEmpty()
            && UNITS.contains(name.name().key())
            && !scope.knows(name.name());
    if (unit) {
      resolver.bindings().put((ColumnName) node, new Binding.Opaque());
    } else {
      names(node, scope);
    }
  }

  /** {@code x -> x + 1} is a function written in place if x means nothing else. */
  private void arrow(Value.Operation operation, Scope scope) {
    List<Expression> left =
        operation.left() instanceof Value.RowValue row
            ? row.values()
            : Stream.ofNullable(operation.left()).toList();
    List<Identifier> names =
        left.stream()
            .filter(each -> each instanceof ColumnName name && name.qualifier().isEmpty())
            .map(each -> ((ColumnName) each).name())
            .toList();
    boolean inPlace = names.size() == left.size() && names.stream().noneMatch(scope::knows);
    Scope inner = inPlace ? scope.withLocals(keys(names)) : scope;
    operation.children().forEach(child -> names(child, inner));
  }

  private void wholeRow(Value.WholeRow row, Scope scope) {
    if (!row.qualifier().isEmpty()) {
      ColumnName star = new ColumnName(row.span(), row.qualifier(), Identifier.of("rowid"));
      resolver.bindings().put(star, scope.bind(star, resolver.problems()));
    }
  }

  // ---- output columns ----

  private void outputs(SelectItem item, Scope scope) {
    QueryBlock block = scope.block();
    if (item instanceof SelectItem.Output output) {
      names(output.value(), scope);
      Identifier label = output.label();
      String name = label == null ? heading(output.value()) : resolver.dialect().stored(label);
      add(block, name, output.value());
      boolean several =
          output.value() instanceof Value.FieldOf field && field.field().text().equals("*");
      if (several || isManyColumns(output.value())) {
        block.markUnknownOutputs();
      }
      return;
    }
    SelectItem.AllColumns all = (SelectItem.AllColumns) item;
    all.replaced().forEach(each -> names(each.value(), scope));
    if (all.qualifier().isEmpty()) {
      if (scope.columns().uses().stream().anyMatch(use -> !use.isKnown())) {
        block.markUnknownOutputs();
      }
      scope.columns().all().forEach(each -> star(each, all, block));
      return;
    }
    Identifier qualifier = all.qualifier().get(all.qualifier().size() - 1);
    Optional<List<Visible>> join = scope.columns().join(qualifier);
    if (join.isPresent()) {
      join.get().forEach(each -> star(each, all, block));
      return;
    }
    scope
        .columns()
        .use(qualifier)
        .or(() -> outside(qualifier, scope))
        .ifPresentOrElse(use -> allOf(use, all, block), () -> noSuchTable(all, scope));
  }

  /** A table around a subquery can be shown as a whole, too. */
  private static Optional<TableUse> outside(Identifier qualifier, Scope scope) {
    for (Scope each = scope.outer(); each != null; each = each.outer()) {
      Optional<TableUse> use = each.columns().use(qualifier);
      if (use.isPresent()) {
        scope.block().markCorrelated();
        return use;
      }
    }
    return Optional.empty();
  }

  /** DuckDB's COLUMNS stands for columns by a pattern. */
  private static boolean isManyColumns(Expression value) {
    return value
        .preorder()
        .anyMatch(
            node ->
                node instanceof Call.FunctionCall call
                    && Set.of("columns", "unnest").contains(call.key()));
  }

  private void star(Visible column, SelectItem.AllColumns all, QueryBlock block) {
    boolean excluded =
        all.excluded().stream().anyMatch(name -> resolver.dialect().means(name, column.name()));
    if (excluded) {
      return;
    }
    Optional<SelectItem.Output> replaced =
        all.replaced().stream()
            .filter(
                each ->
                    each.label() != null && resolver.dialect().means(each.label(), column.name()))
            .findFirst();
    add(
        block,
        column.name(),
        replaced
            .map(SelectItem.Output::value)
            .orElseGet(() -> resolver.synthetic(all.span(), column.binding(), column.columns())));
  }

  private void allOf(TableUse use, SelectItem.AllColumns all, QueryBlock block) {
    if (!use.isKnown()) {
      block.markUnknownOutputs();
    }
    use.columns().forEach(column -> star(Visible.of(column), all, block));
  }

  private void noSuchTable(SelectItem.AllColumns all, Scope scope) {
    ColumnName star = new ColumnName(all.span(), all.qualifier(), Identifier.of("*"));
    resolver.bindings().put(star, scope.bind(star, resolver.problems()));
    scope.block().markUnknownOutputs();
  }

  private String heading(Expression value) {
    if (resolver.dialect().has(Rule.CASTS_KEEP_NAMES)) {
      if (value instanceof Value.Cast cast && cast.value() instanceof ColumnName column) {
        return heading(column);
      }
      if (value instanceof Value.Collated collated) {
        return heading(collated.value());
      }
    }
    return value instanceof ColumnName column
        ? resolver.dialect().stored(column.name())
        : SqlPrinter.print(value, resolver.dialect());
  }

  private static void add(QueryBlock block, String name, Expression value) {
    block.add(new OutputColumn(block.outputs().size(), name, value, Types.of(value, block)));
  }

  // ---- GROUP BY ----

  /** A whole number in GROUP BY is the position of an output column. */
  private void group(Expression item, Scope scope) {
    QueryBlock block = scope.block();
    List<OutputColumn> outputs = block.outputs();
    if (item instanceof Call.Grouping grouping) {
      if (grouping.kind() == Call.GroupingKind.ALL) {
        outputs.stream()
            .filter(output -> !Aggregates.containsOne(output.value()))
            .forEach(output -> block.group(output.value()));
      } else {
        names(grouping, scope);
        groupPosition(grouping, block);
        block.group(atPositions(grouping, outputs));
      }
      return;
    }
    if (item instanceof Value.RowValue row && !row.word()) {
      row.values().forEach(each -> group(each, scope));
      return;
    }
    groupPosition(item, block);
    Expression shown = atPosition(item, outputs);
    if (!shown.equals(item)) {
      block.group(shown);
      return;
    }
    names(item, scope);
    Expression meant =
        item instanceof ColumnName name
                && resolver.bindings().get(name) instanceof Binding.ToOutput label
            ? label.output().value()
            : item;
    block.group(meant);
  }

  private void groupPosition(Expression item, QueryBlock block) {
    if (item instanceof Call.Grouping grouping) {
      grouping.items().forEach(each -> groupPosition(each, block));
    } else if (item instanceof Value.RowValue row) {
      row.values().forEach(each -> groupPosition(each, block));
    } else if (resolver.dialect().has(Rule.POSITIONS_IN_GROUP_BY)) {
      position(item, block, "GROUP BY", block.outputs());
    }
  }

  /** A whole number in ORDER BY is a position everywhere (ISO/IEC 9075-2:1992, 20.2). */
  void position(Expression item, QueryBlock block, String clause, List<OutputColumn> outputs) {
    OptionalInt position = position(item);
    boolean there =
        position.isEmpty()
            || (position.getAsInt() >= 1 && position.getAsInt() <= outputs.size())
            || !block.hasAllOutputs();
    if (item instanceof Value.Literal literal && !there) {
      resolver.report(new NameProblem.NoSuchPosition(block, clause, literal, outputs.size()));
    }
  }

  /** The whole number that an item is, if it is short enough to be a position. */
  private static OptionalInt position(Expression item) {
    return item instanceof Value.Literal literal
            && literal.kind() == Value.LiteralKind.NUMBER
            && literal.text().matches("[0-9]{1,4}")
        ? OptionalInt.of(Integer.parseInt(literal.text()))
        : OptionalInt.empty();
  }

  private Expression atPosition(Expression item, List<OutputColumn> outputs) {
    if (item instanceof ColumnName name
        && resolver.bindings().get(name) instanceof Binding.ToOutput label) {
      return label.output().value();
    }
    int position =
        resolver.dialect().has(Rule.POSITIONS_IN_GROUP_BY) ? position(item).orElse(0) : 0;
    return position >= 1 && position <= outputs.size() ? outputs.get(position - 1).value() : item;
  }

  /** The same with output columns in place of their positions and labels, however deep. */
  private Call.Grouping atPositions(Call.Grouping grouping, List<OutputColumn> outputs) {
    List<Expression> items =
        grouping.items().stream()
            .map(
                item -> {
                  if (item instanceof Call.Grouping inner) {
                    return (Expression) atPositions(inner, outputs);
                  }
                  return item instanceof Value.RowValue row
                      ? new Value.RowValue(
                          row.span(),
                          row.word(),
                          row.values().stream().map(each -> atPosition(each, outputs)).toList())
                      : atPosition(item, outputs);
                })
            .toList();
    return new Call.Grouping(grouping.span(), grouping.kind(), items);
  }
}
