package io.lantrel.probe;

import io.lantrel.catalog.Column;
import io.lantrel.catalog.Table;
import io.lantrel.catalog.TypeFamily;
import io.lantrel.engine.SampleData;
import io.lantrel.resolve.Binding;
import io.lantrel.resolve.Conjunct;
import io.lantrel.resolve.JoinStep;
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.ColumnReplacer;
import io.lantrel.sql.tree.Alias;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.CommonTable;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value.ColumnName;
import java.util.ArrayList;
import java.util.IdentityHashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/**
 * The joined rows of a block, step by step, as common table expressions.
 *
 * <p>Every table use becomes a relation of its rows, numbered ({@code n}). Every join step becomes
 * two: its <em>pairs</em>, the rows so far each with the number of its partner ({@code l}, {@code
 * r}), or with none; and the rows that go on, numbered anew. A relation behind a join carries the
 * row number of each table use ({@code u0}, {@code u1}…; NULL where an outer join filled in) and
 * the columns that anything asks for ({@code u0_c2}).
 */
public final class Chain {

  /** Reserved for Lantrel: no table of a user has such a name. */
  public static final String PREFIX = SampleData.RESERVED;

  private static final String ROW = "n";
  private static final String LEFT_ROW = "l";
  private static final String RIGHT_ROW = "r";
  private static final String FAILED = "failed";
  private static final String FLAGGED = PREFIX + "flagged";
  private static final String KEPT = PREFIX + "kept";

  private final QueryBlock block;
  private final Set<UseColumn> carried = new LinkedHashSet<>();
  private final List<CommonTable> tables = new ArrayList<>();
  private final Map<FromItem, String> relations = new IdentityHashMap<>();

  private Chain(QueryBlock block) {
    this.block = block;
  }

  /**
   * The chain of a block, with the columns by which rows are named.
   *
   * @throws IllegalArgumentException if the block has no FROM, or uses columns of a block around
   *     it: its rows then depend on rows that are not there
   */
  public static Chain of(QueryBlock block) {
    return of(block, true);
  }

  /** The same for counts alone: rows of it cannot be named, and are narrower. */
  public static Chain forFigures(QueryBlock block) {
    return of(block, false);
  }

  private static Chain of(QueryBlock block, boolean names) {
    FromItem from = block.select().from();
    if (from == null || !block.standsAlone()) {
      throw new IllegalArgumentException("this block has no rows of its own");
    }
    Chain chain = new Chain(block);
    chain.collectColumns(names);
    chain.add(from);
    chain.addFilters(chain.relation(from));
    return chain;
  }

  private void collectColumns(boolean names) {
    block.conjuncts().forEach(each -> carried.addAll(block.columnsIn(each.condition())));
    block.grouping().forEach(each -> carried.addAll(block.columnsIn(each)));
    if (block.isGrouped() || block.select().distinct()) {
      block.outputs().forEach(each -> carried.addAll(block.columnsIn(each.value())));
    }
    if (block.select().having() != null) {
      carried.addAll(block.columnsIn(block.select().having()));
    }
    if (names) {
      block.uses().forEach(use -> carried.addAll(telling(use)));
    }
  }

  /** The columns by which a row of a table use is named. */
  public static List<UseColumn> telling(TableUse use) {
    List<UseColumn> columns =
        use.table()
            .map(
                table ->
                    table.telling().stream()
                        .map(Column::name)
                        .map(use::column)
                        .flatMap(Optional::stream)
                        .toList())
            .orElse(List.of());
    return columns.isEmpty() ? use.columns().stream().limit(3).toList() : columns;
  }

  private void add(FromItem item) {
    if (item instanceof FromItem.Join join) {
      add(join.left());
      add(join.right());
      addStep(block.step(join).orElseThrow());
    } else {
      addUse(block.use(item).orElseThrow());
    }
  }

  private void addUse(TableUse use) {
    String name = PREFIX + "t" + use.index();
    List<SelectItem> items = new ArrayList<>(List.of(Sql.as(rowNumber(orderOf(use)), ROW)));
    for (UseColumn column : carriedOf(List.of(use))) {
      items.add(Sql.as(source(column), carriedName(column)));
    }
    define(name, Sql.select(items, named(use), null));
    relations.put(use.item(), name);
  }

  /** The item of FROM under the name of its use, which a query without an alias lacks. */
  private FromItem named(TableUse use) {
    return use.item() instanceof FromItem.DerivedTable derived && derived.alias() == null
        ? new FromItem.DerivedTable(
            Span.NOWHERE, derived.query(), new Alias(Span.NOWHERE, exact(use.name()), List.of()))
        : use.item();
  }

  private Identifier exact(String name) {
    return block.dialect().exact(name);
  }

  private ColumnName source(UseColumn column) {
    return new ColumnName(Span.NOWHERE, List.of(exact(column.use().name())), exact(column.name()));
  }

  /** Rows that are alike in all of these are interchangeable: nothing else of them is looked at. */
  private List<Expression> orderOf(TableUse use) {
    Set<UseColumn> columns = new LinkedHashSet<>();
    use.table().flatMap(Table::key).stream()
        .flatMap(key -> key.columns().stream())
        .flatMap(name -> use.column(name).stream())
        .forEach(columns::add);
    columns.addAll(carriedOf(List.of(use)));
    return columns.stream()
        .filter(column -> column.type().family() != TypeFamily.OTHER)
        .<Expression>map(this::source)
        .toList();
  }

  /**
   * The number of a row. Where a relation is worked out anew for each of its uses, as the plan has
   * it that time, the number must not depend on the plan, so the rows are put in order.
   */
  private Expression rowNumber(List<Expression> order) {
    return FunctionCall.rowNumber(block.dialect().plansEachUse() ? order : List.of());
  }

  private void addStep(JoinStep step) {
    String left = relation(step.join().left());
    String right = relation(step.join().right());
    List<SelectItem> items = new ArrayList<>();
    items.add(Sql.as(Sql.column(left, ROW), LEFT_ROW));
    items.add(Sql.as(Sql.column(right, ROW), RIGHT_ROW));
    items.addAll(carry(step.join().left(), step.left()));
    items.addAll(carry(step.join().right(), step.right()));
    FromItem join =
        FromItem.Join.of(
            Sql.table(left),
            JoinKind.LEFT,
            Sql.table(right),
            joining(condition(step.conjuncts(), step)));
    define(pairs(step), Sql.select(items, join, null));
    String rows = PREFIX + "s" + step.number();
    define(rows, goingOn(step, right));
    relations.put(step.join(), rows);
  }

  /**
   * Some engines work a common table out anew for every row that it is joined to, if they can hand
   * the row's values down into it. So they are kept from seeing what the condition compares.
   */
  private Expression joining(Expression condition) {
    return block.dialect().repeatsCommonTables()
        ? Sql.equal(Sql.choose(condition, Sql.number(1), Sql.number(0)), Sql.number(1))
        : condition;
  }

  /** The rows that a step hands on. */
  private QueryBody goingOn(JoinStep step, String right) {
    String pairs = pairs(step);
    List<SelectItem> items = new ArrayList<>();
    allUses(step).forEach(use -> items.addAll(same(pairs, use)));
    Expression matched =
        step.kind().keepsLeft() ? null : Sql.isNotNull(Sql.column(pairs, RIGHT_ROW));
    QueryBody rows = Sql.select(items, Sql.table(pairs), matched);
    if (step.kind().keepsRight()) {
      rows = QueryBody.SetOperation.unionAll(List.of(rows, added(step, right)));
    }
    String alias = PREFIX + "x";
    List<Expression> order =
        allUses(step).stream().map(use -> Sql.column(alias, useRow(use))).toList();
    List<SelectItem> numbered = new ArrayList<>(List.of(Sql.as(rowNumber(order), ROW)));
    allUses(step).forEach(use -> numbered.addAll(same(alias, use)));
    return Sql.select(numbered, Sql.derived(rows, alias), null);
  }

  /** The rows of the right side that found no partner, with NULLs for the left side. */
  private QueryBody added(JoinStep step, String right) {
    List<SelectItem> items = new ArrayList<>();
    for (TableUse use : step.left()) {
      items.add(Sql.as(Sql.nothing(), useRow(use)));
      carriedOf(List.of(use))
          .forEach(column -> items.add(Sql.as(Sql.nothing(), carriedName(column))));
    }
    items.addAll(carry(step.join().right(), step.right()));
    return Sql.select(items, Sql.table(right), withoutPartner(step, right));
  }

  private Expression withoutPartner(JoinStep step, String right) {
    return Sql.not(isPartner(step, Sql.column(right, ROW)));
  }

  /** Whether a row of the right side of a step, given by its number, is somebody's partner. */
  Expression isPartner(JoinStep step, Expression row) {
    if (block.dialect().repeatsCommonTables()) {
      return Sql.isAmong(row, pairs(step), rightRow(step));
    }
    return Sql.exists(
        Sql.select(
            List.of(Sql.as(Sql.number(1), "one")),
            Sql.table(pairs(step)),
            Sql.equal(rightRow(step), row)));
  }

  private static List<TableUse> allUses(JoinStep step) {
    List<TableUse> uses = new ArrayList<>(step.left());
    uses.addAll(step.right());
    return uses;
  }

  private List<UseColumn> carriedOf(List<TableUse> uses) {
    return carried.stream().filter(column -> uses.contains(column.use())).toList();
  }

  /** A relation's row numbers and columns under the names that they have behind a join. */
  private List<SelectItem> carry(FromItem item, List<TableUse> uses) {
    String relation = relation(item);
    List<SelectItem> items = new ArrayList<>();
    for (TableUse use : uses) {
      String row = item instanceof FromItem.Join ? useRow(use) : ROW;
      items.add(Sql.as(Sql.column(relation, row), useRow(use)));
      carriedOf(List.of(use))
          .forEach(
              column ->
                  items.add(
                      Sql.as(Sql.column(relation, carriedName(column)), carriedName(column))));
    }
    return items;
  }

  private List<SelectItem> same(String relation, TableUse use) {
    List<SelectItem> items = new ArrayList<>();
    items.add(Sql.as(Sql.column(relation, useRow(use)), useRow(use)));
    carriedOf(List.of(use))
        .forEach(
            column ->
                items.add(Sql.as(Sql.column(relation, carriedName(column)), carriedName(column))));
    return items;
  }

  /**
   * Each row with the first condition of WHERE that it fails, counted from 1; 0 if it meets all.
   */
  private void addFilters(String rows) {
    List<SelectItem> items = new ArrayList<>();
    boolean joined = !block.steps().isEmpty();
    for (TableUse use : block.uses()) {
      items.add(Sql.as(Sql.column(rows, joined ? useRow(use) : ROW), useRow(use)));
      carriedOf(List.of(use))
          .forEach(
              column ->
                  items.add(Sql.as(Sql.column(rows, carriedName(column)), carriedName(column))));
    }
    Expression failed = Sql.number(0);
    for (int i = block.filters().size() - 1; i >= 0; i--) {
      Expression condition = over(rows, block.filters().get(i).condition());
      failed = Sql.choose(condition, failed, Sql.number(i + 1L));
    }
    List<SelectItem> flagged = new ArrayList<>(items);
    flagged.add(Sql.as(failed, FAILED));
    define(FLAGGED, Sql.select(flagged, Sql.table(rows), null));
    // The conditions again, and not the rows whose flag is 0: HSQLDB 2.7 loses that comparison when
    // such rows are grouped.
    List<Expression> conditions =
        block.filters().stream().map(each -> over(rows, each.condition())).toList();
    define(
        KEPT,
        Sql.select(items, Sql.table(rows), conditions.isEmpty() ? null : Sql.all(conditions)));
  }

  private void define(String name, QueryBody body) {
    tables.add(CommonTable.once(name, body));
  }

  // ---- what probes are built with ----

  /** The block whose rows these are. */
  public QueryBlock block() {
    return block;
  }

  /** The relation of an item of FROM. */
  public String relation(FromItem item) {
    return Optional.ofNullable(relations.get(item)).orElseThrow();
  }

  /** The relation of a step's pairs: one row for each pair, and one for a row without a partner. */
  public String pairs(JoinStep step) {
    return PREFIX + "p" + step.number();
  }

  /** The relation of all joined rows, each with the condition of WHERE that it fails. */
  public String flagged() {
    return FLAGGED;
  }

  /** The relation of the rows that meet WHERE. */
  public String kept() {
    return KEPT;
  }

  /** The row number in a relation of a table use or behind a step. */
  public Expression row(String relation) {
    return Sql.column(relation, ROW);
  }

  /** In a step's pairs: the number of the row of the left side. */
  public Expression leftRow(JoinStep step) {
    return Sql.column(pairs(step), LEFT_ROW);
  }

  /** In a step's pairs: the number of the partner; NULL if there is none. */
  public Expression rightRow(JoinStep step) {
    return Sql.column(pairs(step), RIGHT_ROW);
  }

  /** The rows of the left side of a step that have more than one partner, by their numbers. */
  public QueryBody severalPartners(JoinStep step) {
    Expression moreThanOne =
        new Condition.Comparison(
            Span.NOWHERE,
            Condition.ComparisonOperator.GREATER,
            Sql.count(rightRow(step)),
            Sql.number(1));
    return Sql.grouped(
        List.of(Sql.as(leftRow(step), LEFT_ROW)),
        Sql.table(pairs(step)),
        List.of(leftRow(step)),
        moreThanOne);
  }

  /** In a step's pairs: whether the row of the left side has more than one partner. */
  public Expression hasSeveralPartners(JoinStep step) {
    String several = PREFIX + "several";
    return Sql.exists(
        Sql.select(
            List.of(Sql.as(Sql.number(1), "one")),
            Sql.derived(severalPartners(step), several),
            Sql.equal(Sql.column(several, LEFT_ROW), leftRow(step))));
  }

  /** In the flagged relation: which condition fails, from 1; 0 for none. */
  public Expression failed() {
    return Sql.column(FLAGGED, FAILED);
  }

  /** The number of the row of a table use; NULL where an outer join filled in. */
  public Expression rowOf(String relation, TableUse use) {
    boolean own = relation.equals(relations.get(use.item()));
    return Sql.column(relation, own ? ROW : useRow(use));
  }

  /** A column in a relation. */
  public Expression column(String relation, UseColumn column) {
    return Sql.column(relation, carriedName(column));
  }

  /** An expression of the block over the columns of a relation. */
  public Expression over(String relation, Expression expression) {
    return over(use -> relation, expression);
  }

  /** The condition of a step over the relations of its two sides. */
  public Expression condition(List<Conjunct> conjuncts, JoinStep step) {
    String left = relation(step.join().left());
    String right = relation(step.join().right());
    return Sql.all(
        conjuncts.stream()
            .map(each -> over(use -> step.right().contains(use) ? right : left, each.condition()))
            .toList());
  }

  private Expression over(Function<TableUse, String> relation, Expression expression) {
    return new ColumnReplacer(name -> replaced(relation, name)).apply(expression);
  }

  private Expression replaced(Function<TableUse, String> relation, ColumnName name) {
    Binding binding = block.binding(name);
    if (binding instanceof Binding.ToColumn bound && isOurs(bound.column())) {
      return column(relation.apply(bound.column().use()), bound.column());
    }
    if (binding instanceof Binding.ToMerged merged && isOurs(merged.columns().get(0))) {
      return FunctionCall.of(
          "COALESCE",
          merged.columns().stream()
              .map(column -> column(relation.apply(column.use()), column))
              .toArray(Expression[]::new));
    }
    if (binding instanceof Binding.ToOutput label && block.outputs().contains(label.output())) {
      return over(relation, label.output().value());
    }
    return name;
  }

  private boolean isOurs(UseColumn column) {
    return block.uses().contains(column.use());
  }

  /** A probe over the relations of this chain. */
  public Query probe(QueryBody body) {
    return probe(Query.of(body));
  }

  /** A probe over the relations of this chain; only those that it needs are defined. */
  public Query probe(Query query) {
    Map<String, CommonTable> known = new LinkedHashMap<>();
    block.commonTables().forEach(table -> known.put(table.name().key(), table));
    tables.forEach(table -> known.put(table.name().key(), table));
    Set<String> needed = new LinkedHashSet<>();
    need(query, known, needed);
    List<CommonTable> with =
        known.values().stream().filter(table -> needed.contains(table.name().key())).toList();
    return new Query(
        query.span(),
        block.hasRecursiveTables(),
        with,
        query.body(),
        query.orderBy(),
        query.limit());
  }

  private static void need(Query query, Map<String, CommonTable> known, Set<String> needed) {
    query
        .preorder()
        .filter(FromItem.TableName.class::isInstance)
        .map(node -> known.get(((FromItem.TableName) node).last().key()))
        .filter(Objects::nonNull)
        .filter(table -> needed.add(table.name().key()))
        .forEach(table -> need(table.query(), known, needed));
  }

  /** The output columns over a relation, under labels that differ. */
  public List<SelectItem> outputsOver(String relation) {
    return block.outputs().stream()
        .map(output -> Sql.as(over(relation, output.value()), outputName(output)))
        .toList();
  }

  /** The grouping expressions over a relation. */
  public List<Expression> groupingOver(String relation) {
    return block.grouping().stream().map(each -> over(relation, each)).toList();
  }

  /** The condition of HAVING over a relation; null if there is none. */
  public @Nullable Expression havingOver(String relation) {
    Expression having = block.select().having();
    return having == null ? null : over(relation, having);
  }

  private static String outputName(OutputColumn output) {
    return "o" + output.position();
  }

  private static String useRow(TableUse use) {
    return "u" + use.index();
  }

  private static String carriedName(UseColumn column) {
    return "u" + column.use().index() + "_c" + column.position();
  }
}
