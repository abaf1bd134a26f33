package io.lantrel.resolve;

import io.lantrel.catalog.Column;
import io.lantrel.catalog.ColumnType;
import io.lantrel.catalog.Table;
import io.lantrel.catalog.View;
import io.lantrel.resolve.TableUse.Source;
import io.lantrel.sql.Dialect.Rule;
import io.lantrel.sql.tree.Alias;
import io.lantrel.sql.tree.Call;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value.ColumnName;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * Understands the FROM of one block: first its table uses, so that a condition can tell a table
 * that comes later from one that does not come at all; then, with {@link JoinResolver}, the joins
 * and what is visible behind each.
 */
final class FromResolver {

  /** Functions that give rows of one value each. */
  private static final Set<String> ONE_COLUMN =
      Set.of(
          "generate_series",
          "generate_subscripts",
          "range",
          "unnest",
          "string_to_table",
          "regexp_split_to_table",
          "regexp_matches",
          "json_array_elements",
          "json_array_elements_text",
          "jsonb_array_elements",
          "jsonb_array_elements_text",
          "json_object_keys",
          "jsonb_object_keys",
          "jsonb_path_query");

  /** Tables that products keep about themselves, and that no schema file defines. */
  private static final Set<String> SYSTEM_SCHEMAS =
      Set.of(
          "information_schema",
          "pg_catalog",
          "pg_temp",
          "mysql",
          "performance_schema",
          "sys",
          "system_lobs",
          "temp");

  private static final Pattern SYSTEM_TABLES =
      Pattern.compile("(pg|sqlite|duckdb|pragma|svv)_.*|dual|seq_\\d+_to_\\d+.*");

  private final Resolver resolver;
  private final QueryBlock block;
  private final @Nullable Scope outer;
  private final CommonTables tables;
  private final JoinResolver joins;

  FromResolver(Resolver resolver, QueryBlock block, @Nullable Scope outer, CommonTables tables) {
    this.resolver = resolver;
    this.block = block;
    this.outer = outer;
    this.tables = tables;
    this.joins = new JoinResolver(resolver, block, outer, tables);
  }

  /** The columns that the rest of the block can name. */
  Columns resolve(@Nullable FromItem from) {
    if (from == null) {
      return Columns.of(block, 0, 0);
    }
    addUses(from);
    return joins.visible(from);
  }

  /** Puts the join steps together, now that the condition of WHERE is resolved. */
  void finish(io.lantrel.sql.tree.@Nullable Expression where) {
    joins.finish(where);
  }

  private void addUses(FromItem item) {
    JoinResolver.leaves(item).forEach(this::addUse);
  }

  private void addUse(FromItem item) {
    TableUse use = item.accept(new UseMaker());
    block.usesNamed(resolver.catalog().tableKey(use.name())).stream()
        .filter(each -> !isInOtherSchema(each, use))
        .findFirst()
        .ifPresent(first -> resolver.report(new NameProblem.RepeatedAlias(block, first, use)));
    block.add(use);
    if (dependsOnEarlier(item)) {
      use.markDependent();
    }
  }

  /** {@code FROM a.t, b.t}: two tables of one name are told apart by their schemas. */
  private static boolean isInOtherSchema(TableUse one, TableUse other) {
    return one.item() instanceof FromItem.TableName first
        && other.item() instanceof FromItem.TableName second
        && first.alias() == null
        && second.alias() == null
        && first.name().size() > 1
        && second.name().size() > 1
        && !first.name().get(0).key().equals(second.name().get(0).key());
  }

  /** Whether the rows of an item of FROM use columns of the items before it. */
  private boolean dependsOnEarlier(FromItem item) {
    return !(item instanceof FromItem.TableName)
        && item.preorder()
            .anyMatch(
                node ->
                    node instanceof ColumnName name
                        && block.binding(name) instanceof Binding.ToColumn bound
                        && block.isOwn(bound.column()));
  }

  /** What the items of FROM before this one let it name (7.6, LATERAL). */
  private Scope before() {
    Columns earlier = Columns.of(block, 0, block.uses().size());
    return new Scope(block, earlier, tables, Scope.Labels.NONE, outer);
  }

  private final class UseMaker implements FromItem.Visitor<TableUse> {
    @Override
    public TableUse join(FromItem.Join join) {
      throw new IllegalArgumentException("a join is no table: " + join.keyword());
    }

    @Override
    public TableUse table(FromItem.TableName item) {
      if (item.name().size() == 1) {
        Optional<CommonTables.Member> member = tables.find(item.last(), resolver);
        if (member.isPresent()) {
          return commonTable(item, member.get());
        }
      }
      Optional<Table> table = resolver.catalog().table(item.name());
      if (table.isPresent()) {
        return baseTable(item, table.get());
      }
      Optional<View> view = resolver.catalog().view(item.name());
      if (view.isPresent()) {
        return view(item, view.get());
      }
      if (!isOfSystem(item) && !resolver.catalog().isElsewhere(item.name())) {
        resolver.report(new NameProblem.UnknownTable(block, item));
      }
      return use(item, item.last(), item.alias(), Source.UNKNOWN, null, null);
    }

    @Override
    public TableUse derived(FromItem.DerivedTable item) {
      boolean seesEarlier = item.lateral() || resolver.dialect().has(Rule.LATERAL_BY_ITSELF);
      ResolvedQuery inner = resolver.query(item.query(), seesEarlier ? before() : outer, tables);
      Identifier unnamed = new Identifier(item.span(), "query " + (block.uses().size() + 1), true);
      TableUse use = use(item, unnamed, item.alias(), Source.DERIVED_TABLE, null, inner);
      addColumns(use, inner, renamed(item.alias()), List.of());
      return use;
    }

    @Override
    public TableUse function(FromItem.TableFunction item) {
      Scope scope = before();
      item.calls().forEach(call -> new BlockResolver(resolver).names(call, scope));
      Identifier name =
          item.calls().get(0) instanceof Call.FunctionCall call
              ? call.name().get(call.name().size() - 1)
              : new Identifier(item.span(), "function " + (block.uses().size() + 1), true);
      TableUse use = use(item, name, item.alias(), Source.FUNCTION, null, null);
      List<String> columns = renamed(item.alias());
      if (columns.isEmpty() && isOneColumn(item)) {
        columns = List.of(use.name());
      }
      for (String column : columns) {
        use.add(new UseColumn(use, use.columns().size(), column, ColumnType.UNKNOWN, true));
      }
      return use;
    }

    private boolean isOneColumn(FromItem.TableFunction item) {
      return resolver.dialect().has(Rule.FUNCTION_NAMES_ITS_COLUMN)
          && item.calls().size() == 1
          && !item.ordinality()
          && item.calls().get(0) instanceof Call.FunctionCall call
          && ONE_COLUMN.contains(call.key())
          && !(call.key().equals("unnest") && call.arguments().size() > 1);
    }
  }

  private TableUse use(
      FromItem item,
      Identifier own,
      @Nullable Alias alias,
      Source source,
      @Nullable Table table,
      @Nullable ResolvedQuery query) {
    Identifier called = alias == null ? own : alias.name();
    Span place = called.span();
    String name = resolver.dialect().stored(called);
    return new TableUse(
        block.uses().size(), name, item, place, source, table, query, resolver.dialect());
  }

  private TableUse baseTable(FromItem.TableName item, Table table) {
    TableUse use = use(item, item.last(), item.alias(), Source.TABLE, table, null);
    List<String> renamed = renamed(item.alias());
    for (int i = 0; i < table.columns().size(); i++) {
      Column column = table.columns().get(i);
      String shown = i < renamed.size() ? renamed.get(i) : column.name();
      use.add(new UseColumn(use, i, shown, column.type(), column.nullable()));
    }
    return use;
  }

  private TableUse view(FromItem.TableName item, View view) {
    ResolvedQuery query = resolver.view(view).orElse(null);
    TableUse use = use(item, item.last(), item.alias(), Source.VIEW, null, query);
    if (query != null) {
      addColumns(use, query, renamed(item.alias()), view.columns());
    } else {
      view.columns()
          .forEach(
              column ->
                  use.add(
                      new UseColumn(use, use.columns().size(), column, ColumnType.UNKNOWN, true)));
    }
    return use;
  }

  private TableUse commonTable(FromItem.TableName item, CommonTables.Member member) {
    boolean own = member.isOpen();
    ResolvedQuery query = member.result().orElse(null);
    Source source = own ? Source.OWN_RECURSION : Source.COMMON_TABLE;
    TableUse use = use(item, item.last(), item.alias(), source, null, query);
    if (own) {
      for (QueryBlock each = block; each != null && each != member.around(); ) {
        each.markRecursive();
        each = each.outer().orElse(null);
      }
    }
    if (query != null) {
      List<String> names =
          own
              ? member.table().columns().stream().map(resolver.dialect()::stored).toList()
              : List.of();
      addColumns(use, query, renamed(item.alias()), names);
    }
    return use;
  }

  private List<String> renamed(@Nullable Alias alias) {
    return alias == null
        ? List.of()
        : alias.columns().stream().map(resolver.dialect()::stored).toList();
  }

  /** The columns of a query under the names of an alias, or else under those of its definition. */
  private static void addColumns(
      TableUse use, ResolvedQuery query, List<String> alias, List<String> definition) {
    for (OutputColumn output : query.outputs()) {
      int at = output.position();
      String name = at < definition.size() ? definition.get(at) : output.name();
      use.add(
          new UseColumn(
              use,
              at,
              at < alias.size() ? alias.get(at) : name,
              output.type(),
              query.isNullable(output)));
    }
  }

  private boolean isOfSystem(FromItem.TableName item) {
    boolean schema =
        item.name().size() > 1
            && SYSTEM_SCHEMAS.contains(item.name().get(item.name().size() - 2).key());
    return schema || SYSTEM_TABLES.matcher(item.last().key()).matches();
  }
}
