package io.lantrel.resolve;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.ColumnType;
import io.lantrel.catalog.Key;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.tree.Call;
import io.lantrel.sql.tree.CommonTable;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.OrderItem;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.Value;
import io.lantrel.sql.tree.Value.ColumnName;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.IdentityHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** One SELECT, understood. Filled by the {@link Resolver}, immutable once it is handed out. */
public final class QueryBlock {

  private final Catalog catalog;
  private final Query query;
  private final QueryBody.Select select;
  private final @Nullable QueryBlock outer;
  private final Map<ColumnName, Binding> bindings;
  private final Optional<List<CommonTable>> commonTables;
  private final boolean recursiveTables;
  private final List<TableUse> uses = new ArrayList<>();
  private final Map<String, List<TableUse>> usesByName = new HashMap<>();
  private final Map<String, List<UseColumn>> columnsByName = new HashMap<>();
  private final List<JoinStep> steps = new ArrayList<>();
  private final List<JoinStep> writtenSteps = new ArrayList<>();
  private final IdentityHashMap<FromItem, TableUse> useOfItem = new IdentityHashMap<>();
  private final IdentityHashMap<FromItem, JoinStep> stepOfItem = new IdentityHashMap<>();
  private final List<Conjunct> filters = new ArrayList<>();
  private final List<OutputColumn> outputs = new ArrayList<>();
  private final List<Expression> grouping = new ArrayList<>();
  private final Facts facts = new Facts(this);
  private NameProblem.@Nullable UngroupedColumns picked;
  private @Nullable FromItem joinedFrom;
  private boolean allOutputs = true;
  private boolean correlated;
  private boolean recursive;

  QueryBlock(
      Catalog catalog,
      Query query,
      QueryBody.Select select,
      @Nullable QueryBlock outer,
      Map<ColumnName, Binding> bindings,
      Optional<List<CommonTable>> commonTables,
      boolean recursiveTables) {
    this.catalog = catalog;
    this.query = query;
    this.select = select;
    this.outer = outer;
    this.bindings = bindings;
    this.commonTables = commonTables;
    this.recursiveTables = recursiveTables;
  }

  void add(TableUse use) {
    uses.add(use);
    useOfItem.put(use.item(), use);
    usesByName.computeIfAbsent(catalog.tableKey(use.name()), key -> new ArrayList<>()).add(use);
    for (UseColumn column : use.columns()) {
      columnsByName
          .computeIfAbsent(dialect().key(column.name()), key -> new ArrayList<>())
          .add(column);
    }
  }

  List<TableUse> usesNamed(String key) {
    return usesByName.getOrDefault(key, List.of());
  }

  List<UseColumn> columnsNamed(String key) {
    return columnsByName.getOrDefault(key, List.of());
  }

  /**
   * @param ordered the steps in the order in which they are carried out
   * @param written in the order of the text
   * @param tree the joins of the former
   */
  void addSteps(List<JoinStep> ordered, List<JoinStep> written, FromItem tree) {
    writtenSteps.addAll(written);
    steps.addAll(ordered);
    written.forEach(step -> stepOfItem.put(step.join(), step));
    ordered.forEach(step -> stepOfItem.put(step.join(), step));
    joinedFrom = tree;
  }

  void addFilters(List<Conjunct> conjuncts) {
    filters.addAll(conjuncts);
  }

  void add(OutputColumn output) {
    outputs.add(output);
  }

  /** Says that {@code *} stands for columns that are not known. */
  void markUnknownOutputs() {
    allOutputs = false;
  }

  void group(Expression expression) {
    grouping.add(expression);
  }

  void markCorrelated() {
    correlated = true;
  }

  void pick(NameProblem.UngroupedColumns columns) {
    picked = columns;
  }

  void markRecursive() {
    recursive = true;
  }

  /** The tables that the query was resolved against. */
  public Catalog catalog() {
    return catalog;
  }

  /** The type of an expression of this block; one that is not known if it cannot be told. */
  public ColumnType type(Expression value) {
    return Types.of(value, this);
  }

  /** How names are compared, and what else differs between products. */
  public Dialect dialect() {
    return catalog.dialect();
  }

  /** The query whose body this block is; for a part of a UNION or the like, just that part. */
  public Query query() {
    return query;
  }

  /** The tree of this block. */
  public QueryBody.Select select() {
    return select;
  }

  /** The block around this one; empty for the outermost. */
  public Optional<QueryBlock> outer() {
    return Optional.ofNullable(outer);
  }

  /** The blocks around this one, from the nearest. */
  public Stream<QueryBlock> outward() {
    return Stream.iterate(outer(), Optional::isPresent, each -> each.get().outer())
        .map(Optional::get);
  }

  /** Whether it uses columns of a block around it. */
  public boolean isCorrelated() {
    return correlated;
  }

  /** Whether it only matters whether it has a row: it is the query of EXISTS. */
  public boolean isOnlyAskedForARow() {
    return outer != null
        && outer
            .query()
            .preorder()
            .anyMatch(
                node -> node instanceof Condition.Exists exists && exists.query().equals(query));
  }

  /** Whether it is the step of a recursion: its FROM names the query of WITH that it is in. */
  public boolean isRecursive() {
    return recursive;
  }

  /**
   * Whether its rows can be looked at by themselves: it uses nothing of a block around it, is no
   * step of a recursion, has no table whose rows depend on other rows of the same FROM, and no name
   * of WITH means two things.
   */
  public boolean standsAlone() {
    return !correlated
        && !recursive
        && commonTables.isPresent()
        && steps.stream().allMatch(step -> step.join().way() == FromItem.Way.BY_CONDITION)
        && uses.stream().noneMatch(use -> use.isDependent() || use.isSampled());
  }

  /** Whether nothing in the select list gives several rows for one. */
  public boolean showsRowsOnce() {
    return allOutputs
        && outputs.stream().noneMatch(output -> Functions.mayRepeatRows(output.value(), dialect()));
  }

  /** Whether every name of WITH that it can use means one thing. */
  public boolean hasClearCommonTables() {
    return commonTables.isPresent();
  }

  /** Whether every row that it gives is a row of its joins, or a group of them. */
  public boolean isAccountable() {
    boolean cut = query.limit() != null && (query.limit().withTies() || query.limit().percent());
    return select.from() != null
        && standsAlone()
        && select.qualify() == null
        && select.distinctOn().isEmpty()
        && !cut
        && !keepsMoreThanWritten()
        && !usesWholeRows()
        && !repeatsRows();
  }

  /** Whether a function in the select list certainly makes several rows of one, or none. */
  public boolean repeatsRows() {
    return outputs.stream().anyMatch(output -> Functions.repeatsRows(output.value()));
  }

  /**
   * Whether a comma with the old mark (+) keeps its right side although only one of several tables
   * on its left is optional; as one join it would make all of them so.
   */
  public boolean keepsMoreThanWritten() {
    return steps.stream()
        .anyMatch(
            step ->
                step.join().kind() == JoinKind.COMMA
                    && step.kind() == JoinKind.RIGHT
                    && step.left().size() > 1);
  }

  /** Whether a row of a table stands for a value somewhere: then its columns are not told. */
  public boolean usesWholeRows() {
    return Aggregates.withoutQueries(select)
        .anyMatch(
            node ->
                node instanceof Value.WholeRow
                    || (node instanceof ColumnName name
                        && name.qualifier().isEmpty()
                        && binding(name) instanceof Binding.Opaque
                        && usesByName.containsKey(
                            catalog.tableKey(dialect().stored(name.name())))));
  }

  /** The queries of WITH that its FROM can name, the outermost first. */
  public List<CommonTable> commonTables() {
    return commonTables.orElse(List.of());
  }

  /** Whether RECURSIVE is written with one of these. */
  public boolean hasRecursiveTables() {
    return recursiveTables;
  }

  /** The table uses of FROM, in written order. */
  public List<TableUse> uses() {
    return Collections.unmodifiableList(uses);
  }

  /**
   * FROM as its joins are carried out: the items of a comma list stand in an order in which
   * conditions connect them. Empty if there is no FROM.
   */
  public Optional<FromItem> joinedFrom() {
    return Optional.ofNullable(joinedFrom);
  }

  /** The joins in the order of the text, each with what connects it to the tables before it. */
  public List<JoinStep> writtenSteps() {
    return Collections.unmodifiableList(writtenSteps);
  }

  /** The joins, in the order in which they are carried out; see {@link #joinedFrom}. */
  public List<JoinStep> steps() {
    return Collections.unmodifiableList(steps);
  }

  /** The conditions of WHERE, without those that belong to a comma join. */
  public List<Conjunct> filters() {
    return Collections.unmodifiableList(filters);
  }

  /** All conditions of joins and of WHERE. */
  public List<Conjunct> conjuncts() {
    List<Conjunct> all = new ArrayList<>();
    steps.forEach(step -> all.addAll(step.conjuncts()));
    all.addAll(filters);
    return all;
  }

  /** The columns of the result. */
  public List<OutputColumn> outputs() {
    return Collections.unmodifiableList(outputs);
  }

  /** The own column that the output at a position shows; empty if it shows anything else. */
  public Optional<UseColumn> shownAt(int position) {
    return outputs.stream()
        .filter(output -> output.position() == position)
        .findFirst()
        .flatMap(output -> column(output.value()))
        .filter(this::isOwn);
  }

  /** Whether these are all; not so if {@code *} stands for columns that are not known. */
  public boolean hasAllOutputs() {
    return allOutputs;
  }

  /** What rows are grouped by, with labels and positions replaced by what they stand for. */
  public List<Expression> grouping() {
    return Collections.unmodifiableList(grouping);
  }

  /** The values that tell the smallest groups apart: those of all sets that ROLLUP makes. */
  public List<Expression> groupedBy() {
    return grouping.stream().flatMap(QueryBlock::grouped).distinct().toList();
  }

  /** Those of {@link #groupedBy} that are columns as they are, of this block or of one outside. */
  public Set<UseColumn> groupColumns() {
    Set<UseColumn> columns = new LinkedHashSet<>();
    groupedBy().forEach(each -> column(each).ifPresent(columns::add));
    return columns;
  }

  private static Stream<Expression> grouped(Expression item) {
    if (item instanceof Call.Grouping sets) {
      return sets.items().stream().flatMap(QueryBlock::grouped);
    }
    return item instanceof Value.RowValue row
        ? row.values().stream().flatMap(QueryBlock::grouped)
        : Stream.of(item);
  }

  /** Whether rows are put together: by GROUP BY, HAVING, or an aggregate in the select list. */
  public boolean isGrouped() {
    return isGroupedByItself() || aggregatesInSubqueries().findAny().isPresent();
  }

  private boolean isGroupedByItself() {
    return !select.groupBy().isEmpty()
        || select.having() != null
        || shownAndOrdered().flatMap(Aggregates::in).anyMatch(call -> !isOfOuter(call));
  }

  private Stream<Expression> shownAndOrdered() {
    return Stream.concat(
        outputs.stream().map(OutputColumn::value), query.orderBy().stream().map(OrderItem::value));
  }

  private Stream<Call.FunctionCall> aggregatesInSubqueries() {
    return shownAndOrdered().flatMap(this::aggregatesWithin);
  }

  /**
   * The first aggregate in a subquery that alone puts the rows here together, since it is over
   * columns of this block; empty if there is none, or if they are grouped anyway.
   */
  public Optional<Call.FunctionCall> groupingSubquery() {
    return isGroupedByItself() ? Optional.empty() : aggregatesInSubqueries().findFirst();
  }

  /** One over nothing but columns of a block around this is that block's. */
  private boolean isOfOuter(Call.FunctionCall call) {
    return outer != null
        && !boundIn(call).isEmpty()
        && boundIn(call).stream().noneMatch(this::isOwn);
  }

  /**
   * The aggregates in subqueries of a node that are over columns of this block alone: they are this
   * block's (ISO/IEC 9075-2, 6.9, the aggregation query of a set function).
   */
  Stream<Call.FunctionCall> aggregatesWithin(Node node) {
    if (!dialect().has(Dialect.Rule.AGGREGATES_BELONG_TO_THEIR_COLUMNS)) {
      return Stream.of();
    }
    return Aggregates.withoutQueries(node)
        .filter(Query.class::isInstance)
        .flatMap(Node::preorder)
        .filter(Call.FunctionCall.class::isInstance)
        .map(Call.FunctionCall.class::cast)
        .filter(Aggregates::isOne)
        .filter(call -> !boundIn(call).isEmpty() && boundIn(call).stream().allMatch(this::isOwn));
  }

  private Set<UseColumn> boundIn(Node node) {
    Set<UseColumn> found = new LinkedHashSet<>();
    node.preorder()
        .filter(ColumnName.class::isInstance)
        .forEach(name -> collect(binding((ColumnName) name), found));
    return found;
  }

  /**
   * The columns that are shown of groups that need not agree in them, where the product lets this
   * through and takes them from any row of the group.
   */
  public Optional<NameProblem.UngroupedColumns> pickedColumns() {
    return Optional.ofNullable(picked);
  }

  /** The table use of an item of FROM. */
  public Optional<TableUse> use(FromItem item) {
    return Optional.ofNullable(useOfItem.get(item));
  }

  /** The step of a join in FROM. */
  public Optional<JoinStep> step(FromItem item) {
    return Optional.ofNullable(stepOfItem.get(item));
  }

  /** What a column name of this block, or of a subquery in it, stands for. */
  public Binding binding(ColumnName column) {
    return bindings.getOrDefault(column, new Binding.Opaque());
  }

  /** The column that an expression is, if it is just the name of one. */
  public Optional<UseColumn> column(Expression expression) {
    Expression value = expression instanceof Value.OuterMark mark ? mark.column() : expression;
    return value instanceof ColumnName name && binding(name) instanceof Binding.ToColumn bound
        ? Optional.of(bound.column())
        : Optional.empty();
  }

  /**
   * The column whose values an expression keeps apart: the column itself, or casts of it that make
   * different texts or numbers of different values.
   */
  public Optional<UseColumn> kept(Expression expression) {
    return KeptColumn.of(expression, this, Set.of());
  }

  /** The column that an expression makes its value of, perhaps one value of different ones. */
  public Optional<UseColumn> meant(Expression expression) {
    return KeptColumn.meant(expression, this);
  }

  /**
   * The two columns, of this block or of blocks outside, that a condition sets equal, as they are
   * or both under casts that keep their values apart; empty if it is something else.
   */
  public Optional<Conjunct.Equated> equated(Expression condition) {
    return KeptColumn.equated(condition, this, Set.of());
  }

  /**
   * The two columns, of this block or of blocks outside, that a condition sets equal or alike: also
   * where it makes one of values that differ in case, in blanks or in type, as {@code LOWER(a.code)
   * = LOWER(b.code)} does. It tells which columns are meant, and promises nothing of the rows.
   */
  public Optional<Conjunct.Equated> alike(Expression condition) {
    return KeptColumn.alike(condition, this);
  }

  /** The table uses of this block that a node mentions, in subqueries too. */
  public Set<TableUse> mentioned(Node node) {
    return columnsIn(node).stream()
        .map(UseColumn::use)
        .collect(Collectors.toCollection(LinkedHashSet::new));
  }

  /**
   * The columns of the result that an item of ORDER BY stands for (ISO/IEC 9075-2, 7.17): by
   * number, by label, or because they show the same column; empty if it is something else.
   */
  public List<OutputColumn> outputsOf(Expression item) {
    if (item instanceof Value.Literal number) {
      return number.kind() == Value.LiteralKind.NUMBER
          ? outputs.stream()
              .filter(output -> number.text().equals(String.valueOf(output.position() + 1)))
              .toList()
          : List.of();
    }
    if (item instanceof ColumnName name
        && binding(name) instanceof Binding.ToOutput label
        && outputs.contains(label.output())) {
      return List.of(label.output());
    }
    Optional<UseColumn> column = column(item);
    return outputs.stream()
        .filter(output -> column.isPresent() && column.equals(column(output.value())))
        .toList();
  }

  /** The columns of this block's table uses that a node mentions, in subqueries too. */
  public Set<UseColumn> columnsIn(Node node) {
    Set<UseColumn> found = boundIn(node);
    found.removeIf(column -> !isOwn(column));
    return found;
  }

  /** The columns that any part of the query speaks of: those that a {@code *} shows are of them. */
  public Set<UseColumn> columnsSpokenOf() {
    Set<UseColumn> columns = new LinkedHashSet<>(columnsIn(query()));
    outputs.forEach(each -> columns.addAll(columnsIn(each.value())));
    return columns;
  }

  /** Whether a column belongs to a table use of this block. */
  public boolean isOwn(UseColumn column) {
    return useOfItem.get(column.use().item()) == column.use();
  }

  private void collect(Binding binding, Set<UseColumn> found) {
    if (binding instanceof Binding.ToColumn bound) {
      found.add(bound.column());
    } else if (binding instanceof Binding.ToMerged merged) {
      found.addAll(merged.columns());
    } else if (binding instanceof Binding.ToOutput label && outputs.contains(label.output())) {
      found.addAll(columnsIn(label.output().value()));
    }
  }

  // ---- what is known of the rows ----

  /** The outer joins that may fill a table use with NULLs. */
  public List<JoinStep> stepsThatFill(TableUse use) {
    return facts.stepsThatFill(use);
  }

  /** Whether a column can be NULL in the joined rows: in the table, or filled by an outer join. */
  public boolean isNullable(UseColumn column) {
    return column.nullable() || !stepsThatFill(column.use()).isEmpty();
  }

  /** Whether a column is never NULL in the rows that meet all conditions. */
  public boolean isNeverNull(UseColumn column) {
    return facts.isNeverNull(column);
  }

  /** Whether an output column can be NULL; true if that is not known. */
  public boolean isNullable(OutputColumn output) {
    return isNullable(output.value());
  }

  /** Whether a value can be NULL in the rows of the result; true if that is not known. */
  public boolean isNullable(Expression value) {
    return facts.isNullable(value);
  }

  /** The columns that are equal to this one in every row that meets all conditions; itself too. */
  public Set<UseColumn> equalTo(UseColumn column) {
    return facts.equalTo(column);
  }

  /**
   * The table uses whose row is fixed as soon as the values of these columns are: any two rows that
   * meet all conditions and agree in the columns agree in the rows of these table uses.
   */
  public Set<TableUse> determinedBy(Set<UseColumn> columns) {
    return facts.determinedBy(columns);
  }

  /** Whether any two rows that agree in the columns agree in this one as well. */
  public boolean determines(Set<UseColumn> columns, UseColumn column) {
    return facts.determines(columns, column);
  }

  /** The keys of the result, in the names of its columns. */
  public List<Key> keys() {
    return BlockKeys.of(this).stream()
        .map(key -> key.stream().sorted().map(each -> outputs.get(each).name()).toList())
        .map(names -> new Key(names, false))
        .toList();
  }

  /** The references that could join two table uses, either way round. */
  public List<Link> linksBetween(TableUse one, TableUse other) {
    return Link.between(catalog, one, other);
  }

  /** The references that an equality follows; it need only be a part of a composite one. */
  public List<Link> linksAlong(Conjunct.Equated equated) {
    return Link.along(catalog, equated);
  }

  /** How many partners a row of the left side can have at a step. */
  public Multiplicity partnersOnTheRight(JoinStep step) {
    return Multiplicities.of(this, step, step.left(), step.right());
  }

  /** How many partners a row of the right side can have at a step. */
  public Multiplicity partnersOnTheLeft(JoinStep step) {
    return Multiplicities.of(this, step, step.right(), step.left());
  }
}
