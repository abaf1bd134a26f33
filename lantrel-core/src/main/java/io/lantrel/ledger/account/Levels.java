package io.lantrel.ledger.account;

import io.lantrel.engine.Rows;
import io.lantrel.engine.SampleData;
import io.lantrel.probe.Counting;
import io.lantrel.probe.Question;
import io.lantrel.probe.Relation;
import io.lantrel.probe.ResultLines;
import io.lantrel.probe.ResultLines.Heading;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.Dialect.Rule;
import io.lantrel.sql.tree.Alias;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.CommonTable;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value;
import io.lantrel.sql.tree.Value.ColumnName;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * A recursion with a column more, which says at which level a row was found. Where the recursion
 * takes each row once, a row can be found again at later levels; its level is the first.
 */
final class Levels {

  /** Beyond it no level is looked for where rows in a circle would be found for ever. */
  private static final int MOST = 100;

  private static final Identifier LEVEL = Identifier.of(SampleData.RESERVED + "level");

  private final CommonTable table;
  private final List<QueryBlock> blocks;
  private final QueryBody.SetOperation body;
  private final QueryBlock step;
  private final TableUse own;

  private Levels(CommonTable table, List<QueryBlock> blocks, QueryBlock step, TableUse own) {
    this.table = table;
    this.blocks = blocks;
    this.body = (QueryBody.SetOperation) table.query().body();
    this.step = step;
    this.own = own;
  }

  /** Empty if another column would change the recursion, or does not fit into it. */
  static Optional<Levels> of(CommonTable table, List<QueryBlock> blocks) {
    List<QueryBlock> steps = blocks.stream().filter(QueryBlock::isRecursive).toList();
    boolean plain =
        table.walk() == null
            && table.query().limit() == null
            && table.query().with().isEmpty()
            && table.query().orderBy().isEmpty()
            && steps.size() == 1
            && table.query().body() instanceof QueryBody.SetOperation operation
            && operation.operator() == QueryBody.SetOperator.UNION
            && operation.matching() == null
            && operation.parts().stream().noneMatch(QueryBody.Nested.class::isInstance)
            && operation.parts().stream().noneMatch(QueryBody.SetOperation.class::isInstance)
            && blocks.stream().allMatch(Levels::isPlain);
    if (!plain) {
      return Optional.empty();
    }
    List<TableUse> uses = steps.get(0).uses().stream().filter(TableUse::isOwnRecursion).toList();
    return uses.size() == 1 && uses.get(0).isKnown() && hasPlainNames(uses.get(0))
        ? Optional.of(new Levels(table, blocks, steps.get(0), uses.get(0)))
        : Optional.empty();
  }

  private static boolean hasPlainNames(TableUse use) {
    return use.item() instanceof FromItem.TableName name
        && (name.alias() == null || name.alias().columns().isEmpty());
  }

  private static boolean isPlain(QueryBlock block) {
    return block.hasAllOutputs()
        && !block.isGrouped()
        && !block.repeatsRows()
        && !block.select().distinct()
        && block.select().distinctOn().isEmpty()
        && block.select().qualify() == null
        && block.select().windows().isEmpty();
  }

  /** Whether a row that is found again is not taken. */
  boolean isMerging() {
    return !body.all() && !dialect().has(Rule.RECURSION_REPEATS_ROWS);
  }

  private Dialect dialect() {
    return step.dialect();
  }

  /** How many rows were found for the first time at each level; the start is level 0. */
  Question<Map<Long, Long>> rows() {
    Identifier rows = isMerging() ? first() : levels();
    return byLevel(FromItem.TableName.of(rows.text()), Sql.column(rows.text(), LEVEL.text()), null);
  }

  /** How many rows each level finds from those that the level before found first. */
  Question<Map<Long, Long>> found() {
    return byLevel(
        replaced(Objects.requireNonNull(step.select().from()), first()),
        next(),
        step.select().where());
  }

  /** The rows that these levels find although they were found before. */
  ResultLines again(long from, long to) {
    String all = SampleData.RESERVED + "all";
    String times = "times";
    List<SelectItem> found = new ArrayList<>();
    List<SelectItem> taken = new ArrayList<>();
    List<SelectItem> told = new ArrayList<>();
    List<Expression> groups = new ArrayList<>();
    List<Heading> headings = new ArrayList<>();
    List<OutputColumn> outputs = step.outputs();
    for (int i = 0; i < outputs.size(); i++) {
      UseColumn column = own.columns().get(i);
      found.add(Sql.as(Counting.withoutLabels(step, outputs.get(i).value()), "c" + i));
      taken.add(
          Sql.as(
              new ColumnName(Span.NOWHERE, List.of(first()), dialect().exact(column.name())),
              "c" + i));
      groups.add(Sql.column(all, "c" + i));
      told.add(Sql.as(groups.get(i), "c" + i));
      headings.add(new Heading(column.name(), column.type()));
    }
    found.add(Sql.as(Sql.number(1), times));
    taken.add(Sql.as(Sql.number(-1), times));
    List<Expression> conditions = new ArrayList<>(between(next(), from, to));
    Optional.ofNullable(step.select().where()).ifPresent(conditions::add);
    QueryBody both =
        QueryBody.SetOperation.unionAll(
            List.of(
                Sql.select(
                    found,
                    replaced(Objects.requireNonNull(step.select().from()), first()),
                    Sql.all(conditions)),
                Sql.select(
                    taken,
                    FromItem.TableName.of(first().text()),
                    Sql.all(between(Sql.column(first().text(), LEVEL.text()), from, to)))));
    Expression more = Sql.greater(FunctionCall.of("SUM", Sql.column(all, times)), Sql.number(0));
    QueryBody again = Sql.grouped(told, Sql.derived(both, all), groups, more);
    return new ResultLines(new Query(Span.NOWHERE, true, with(), again, List.of(), null), headings);
  }

  private static List<Expression> between(Expression level, long from, long to) {
    return List.of(
        Sql.greater(level, Sql.number(from - 1)), Sql.greater(Sql.number(to + 1), level));
  }

  private Question<Map<Long, Long>> byLevel(
      FromItem from, Expression level, @Nullable Expression where) {
    String all = SampleData.RESERVED + "all";
    FromItem each = Sql.derived(Sql.select(List.of(Sql.as(level, "level")), from, where), all);
    Expression of = Sql.column(all, "level");
    QueryBody grouped =
        Sql.grouped(List.of(Sql.as(of, "c0"), Sql.as(Sql.count(), "c1")), each, List.of(of), null);
    return Question.numbers(
        Relation.of(FromItem.TableName.of(levels().text()), with(), true),
        Query.of(grouped),
        2,
        Levels::figures);
  }

  private static Map<Long, Long> figures(Rows answer) {
    Map<Long, Long> figures = new LinkedHashMap<>();
    for (int row = 0; row < answer.size(); row++) {
      figures.put(answer.figure(row, 0), answer.figure(row, 1));
    }
    return figures;
  }

  // ---- the recursion with its levels ----

  /** Two recursions in one query are told apart by their places. */
  private Identifier levels() {
    return Identifier.of(SampleData.RESERVED + "levels" + table.span().start());
  }

  private Identifier first() {
    return Identifier.of(SampleData.RESERVED + "first" + table.span().start());
  }

  private List<CommonTable> with() {
    List<CommonTable> with = new ArrayList<>();
    step.commonTables().stream().filter(each -> !each.equals(table)).forEach(with::add);
    List<Identifier> columns = new ArrayList<>();
    own.columns().forEach(column -> columns.add(dialect().exact(column.name())));
    columns.add(LEVEL);
    with.add(member(levels(), columns, Query.of(widened())));
    if (isMerging()) {
      with.add(member(first(), columns, Query.of(firstOfEach(columns))));
    }
    return with;
  }

  private static CommonTable member(Identifier name, List<Identifier> columns, Query query) {
    return new CommonTable(Span.NOWHERE, name, columns, null, query, null, List.of());
  }

  private QueryBody firstOfEach(List<Identifier> columns) {
    List<SelectItem> items = new ArrayList<>();
    List<Expression> groups = new ArrayList<>();
    for (Identifier column : columns.subList(0, columns.size() - 1)) {
      Expression value = new ColumnName(Span.NOWHERE, List.of(levels()), column);
      groups.add(value);
      items.add(Sql.as(value, "c" + items.size()));
    }
    Expression level = Sql.column(levels().text(), LEVEL.text());
    items.add(Sql.as(FunctionCall.of("MIN", level), "c" + items.size()));
    return Sql.grouped(items, FromItem.TableName.of(levels().text()), groups, null);
  }

  private QueryBody widened() {
    List<QueryBody> parts = body.parts().stream().map(this::widened).toList();
    return new QueryBody.SetOperation(
        Span.NOWHERE, QueryBody.SetOperator.UNION, body.all(), null, parts);
  }

  private QueryBody widened(QueryBody part) {
    if (part instanceof QueryBody.Values values) {
      return new QueryBody.Values(
          Span.NOWHERE, values.rows().stream().map(Levels::withStart).toList());
    }
    QueryBlock block =
        blocks.stream()
            .filter(each -> each.select().span().equals(part.span()))
            .findFirst()
            .orElseThrow();
    List<SelectItem> items = new ArrayList<>();
    block.outputs().stream()
        .map(output -> Counting.withoutLabels(block, output.value()))
        .forEach(value -> items.add(Sql.as(value, "c" + items.size())));
    items.add(Sql.as(block.equals(step) ? next() : Sql.number(0), "c" + items.size()));
    FromItem from = block.select().from();
    List<Expression> conditions = new ArrayList<>();
    Optional.ofNullable(block.select().where()).ifPresent(conditions::add);
    if (block.equals(step) && isMerging()) {
      conditions.add(Sql.greater(Sql.number(MOST), level()));
    }
    return Sql.select(
        items,
        from == null ? null : replaced(from, levels()),
        conditions.isEmpty() ? null : Sql.all(conditions));
  }

  private static Value.RowValue withStart(Value.RowValue row) {
    List<Expression> values = new ArrayList<>(row.values());
    values.add(Sql.number(0));
    return new Value.RowValue(row.span(), row.word(), values);
  }

  /** The level of the row that a step begins with. */
  private Expression level() {
    return new ColumnName(Span.NOWHERE, List.of(dialect().exact(own.name())), LEVEL);
  }

  private Expression next() {
    return new Value.Arithmetic(
        Span.NOWHERE, Value.ArithmeticOperator.PLUS, level(), Sql.number(1));
  }

  /** The same FROM with another table in the place of the recursion itself. */
  private FromItem replaced(FromItem item, Identifier by) {
    if (item.equals(own.item())) {
      Alias alias = new Alias(Span.NOWHERE, dialect().exact(own.name()), List.of());
      return new FromItem.TableName(Span.NOWHERE, List.of(by), alias);
    }
    return item instanceof FromItem.Join join
        ? new FromItem.Join(
            join.span(),
            replaced(join.left(), by),
            join.kind(),
            join.natural(),
            replaced(join.right(), by),
            join.condition(),
            join.keyword(),
            join.inParentheses(),
            join.alias(),
            join.way())
        : item;
  }
}
