package io.lantrel.resolve;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.View;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.Dialect.Rule;
import io.lantrel.sql.SqlPrinter;
import io.lantrel.sql.tree.CommonTable;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value;
import io.lantrel.sql.tree.Value.ColumnName;
import java.util.ArrayList;
import java.util.Collections;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Consumer;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * Finds out what the names of a query mean. This class goes through query expressions (ISO/IEC
 * 9075-2, 7.17): WITH, UNION and the like; {@link BlockResolver} goes through a SELECT.
 */
public final class Resolver {

  private final Catalog catalog;
  private final Map<View, Optional<ResolvedQuery>> views;
  private final List<QueryBlock> blocks = new ArrayList<>();
  private final List<NameProblem> problems = new ArrayList<>();
  private final IdentityHashMap<ColumnName, Binding> bindings = new IdentityHashMap<>();

  private Resolver(Catalog catalog, Map<View, Optional<ResolvedQuery>> views) {
    this.catalog = catalog;
    this.views = views;
  }

  /**
   * Resolves a query against a catalog. Names that mean nothing are no failure: they are in {@link
   * Resolution#problems()}.
   */
  public static Resolution resolve(Query query, Catalog catalog) {
    Resolver resolver = new Resolver(catalog, new IdentityHashMap<>());
    ResolvedQuery result = resolver.query(query, null, CommonTables.NONE);
    if (resolver.problems.isEmpty()) {
      resolver.blocks.forEach(block -> Grouped.check(block, resolver));
    }
    return new Resolution(result, resolver.blocks, resolver.problems, resolver.bindings);
  }

  Catalog catalog() {
    return catalog;
  }

  Dialect dialect() {
    return catalog.dialect();
  }

  void report(NameProblem problem) {
    problems.add(problem);
  }

  List<NameProblem> problems() {
    return problems;
  }

  Map<ColumnName, Binding> bindings() {
    return bindings;
  }

  void add(QueryBlock block) {
    blocks.add(block);
  }

  /**
   * What a view gives; empty if its query is not known, or names the view itself. Its names are
   * places of another text, so its blocks and problems are not this query's.
   */
  Optional<ResolvedQuery> view(View view) {
    Optional<ResolvedQuery> known = views.get(view);
    if (known != null) {
      return known;
    }
    views.put(view, Optional.empty());
    Query query = view.query();
    if (query != null) {
      Resolver inner = new Resolver(catalog, views);
      views.put(view, Optional.of(inner.query(query, null, CommonTables.NONE)));
    }
    return views.getOrDefault(view, Optional.empty());
  }

  // ---- query expressions ----

  /** Resolves a query under the names of a scope around it. */
  ResolvedQuery query(Query query, @Nullable Scope outer, CommonTables tables) {
    return query(query, outer, tables, start -> {});
  }

  /** Resolves a member of WITH; its first part is told as soon as it is known. */
  ResolvedQuery common(
      Query query,
      @Nullable Scope outer,
      CommonTables tables,
      Consumer<ResolvedQuery> start,
      CommonTable member) {
    ResolvedQuery result = query(query, outer, tables, start);
    return member.columns().isEmpty() && member.added().isEmpty()
        ? result
        : CommonColumns.renamed(result, member, dialect());
  }

  private ResolvedQuery query(
      Query query, @Nullable Scope outer, CommonTables around, Consumer<ResolvedQuery> start) {
    CommonTables tables = with(query, outer, around);
    Body body = body(query.body(), query, outer, tables, start);
    if (body.putTogether() && !body.result().parts().isEmpty()) {
      Stream.concat(query.orderBy().stream(), Stream.ofNullable(query.limit()))
          .forEach(
              item ->
                  new BlockResolver(this)
                      .names(item, ordering(item, body.result(), outer, tables)));
      QueryBlock first = body.result().parts().get(0);
      if (body.result().isComplete()) {
        query
            .orderBy()
            .forEach(
                item ->
                    new BlockResolver(this)
                        .position(item.value(), first, "ORDER BY", body.result().outputs()));
      }
    }
    return limited(query, body.result());
  }

  private CommonTables with(Query query, @Nullable Scope outer, CommonTables around) {
    if (query.with().isEmpty()) {
      return around;
    }
    boolean recursive = query.recursive() || dialect().has(Rule.WITH_MAY_RECUR);
    CommonTables tables = around.within();
    if (query.recursive()) {
      tables.markRecursive();
    }
    List<CommonTables.Member> members = new ArrayList<>();
    for (CommonTable table : query.with()) {
      CommonTables visible = recursive ? tables : tables.within();
      CommonTables.Member member = new CommonTables.Member(table, this, outer, visible);
      if (!recursive) {
        // Without RECURSIVE a member sees those before it, and not itself.
        member.result();
      }
      tables.add(member);
      members.add(member);
    }
    members.forEach(CommonTables.Member::result);
    return tables;
  }

  /** A body with the scope of the order of all its rows. */
  /**
   * @param putTogether whether it is no SELECT, whose order is its own
   */
  private record Body(ResolvedQuery result, boolean putTogether) {}

  private Body body(
      QueryBody body,
      Query query,
      @Nullable Scope outer,
      CommonTables tables,
      Consumer<ResolvedQuery> start) {
    if (body instanceof QueryBody.Select select) {
      return new Body(new BlockResolver(this).resolve(query, select, outer, tables), false);
    }
    if (body instanceof QueryBody.Nested nested) {
      ResolvedQuery inner = query(nested.query(), outer, tables, start);
      return new Body(as(query, inner), true);
    }
    if (body instanceof QueryBody.Values values) {
      ResolvedQuery rows = values(query, values, outer, tables);
      return new Body(rows, true);
    }
    ResolvedQuery all = setOperation(query, (QueryBody.SetOperation) body, outer, tables, start);
    return new Body(all, true);
  }

  private static ResolvedQuery as(Query query, ResolvedQuery inner) {
    return new ResolvedQuery(
        query,
        inner.parts(),
        inner.outputs(),
        inner.isComplete(),
        false,
        position -> inner.isNullable(inner.outputs().get(position)),
        inner::keys);
  }

  /**
   * The order of a UNION or the like can name its output columns only; in some products also by the
   * table that they come from.
   */
  private Scope ordering(
      Node item, ResolvedQuery result, @Nullable Scope outer, CommonTables tables) {
    QueryBlock first = result.parts().get(0);
    boolean byTable =
        dialect().has(Rule.UNION_ORDERED_BY_TABLES)
            && item.preorder()
                .anyMatch(node -> node instanceof ColumnName name && !name.qualifier().isEmpty());
    int uses = byTable || !result.isComplete() ? first.uses().size() : 0;
    return new Scope(first, Columns.of(first, 0, uses), tables, Scope.Labels.FIRST, outer);
  }

  // ---- UNION, EXCEPT, INTERSECT ----

  private ResolvedQuery setOperation(
      Query query,
      QueryBody.SetOperation operation,
      @Nullable Scope outer,
      CommonTables tables,
      Consumer<ResolvedQuery> start) {
    List<ResolvedQuery> parts = new ArrayList<>();
    for (QueryBody part : operation.parts()) {
      Query own = new Query(part.span(), false, List.of(), part, List.of(), null);
      ResolvedQuery result = body(part, own, outer, tables, start).result();
      if (parts.isEmpty()) {
        start.accept(result.asStart());
      }
      parts.add(result);
    }
    boolean recursive =
        parts.stream().flatMap(part -> part.parts().stream()).anyMatch(QueryBlock::isRecursive);
    boolean merged = !recursive || !dialect().has(Rule.RECURSION_REPEATS_ROWS);
    return SetResults.of(query, operation, parts, merged);
  }

  // ---- VALUES ----

  /** The rows as a block without FROM that shows the first of them. */
  private ResolvedQuery values(
      Query query, QueryBody.Values values, @Nullable Scope outer, CommonTables tables) {
    List<SelectItem> items = new ArrayList<>();
    List<Value.RowValue> rows = values.rows();
    for (int i = 0; i < rows.get(0).values().size(); i++) {
      Identifier label = dialect().exact(valuesColumn(i, values), values.span());
      items.add(
          new SelectItem.Output(
              rows.get(0).values().get(i).span(), rows.get(0).values().get(i), label));
    }
    QueryBody.Select first =
        new QueryBody.Select(values.span(), false, items, null, null, List.of(), null);
    Query own = new Query(values.span(), false, List.of(), first, List.of(), null);
    ResolvedQuery shown = new BlockResolver(this).resolve(own, first, outer, tables);
    QueryBlock block = shown.parts().get(0);
    Scope scope = new Scope(block, Columns.of(block, 0, 0), tables, Scope.Labels.NONE, outer);
    rows.stream().skip(1).forEach(row -> new BlockResolver(this).names(row, scope));
    return new ResolvedQuery(
        query,
        List.of(block),
        shown.outputs(),
        true,
        false,
        position ->
            rows.stream()
                .anyMatch(
                    row ->
                        position >= row.values().size()
                            || NullRejection.canBeNull(row.values().get(position), block)),
        rows.size() == 1 ? shown::keys : Collections::emptyList);
  }

  /** What products call the columns of VALUES. */
  private String valuesColumn(int position, QueryBody.Values values) {
    return dialect()
        .valuesColumn(position)
        .orElseGet(() -> text(values.rows().get(0).values().get(position)));
  }

  private String text(Expression value) {
    return value instanceof Value.Literal text && text.kind() == Value.LiteralKind.STRING
        ? text.text().substring(1, text.text().length() - 1)
        : SqlPrinter.print(value, dialect());
  }

  // ---- LIMIT ----

  /** No more rows than one: then nothing can repeat. */
  private static ResolvedQuery limited(Query query, ResolvedQuery result) {
    boolean one =
        query.limit() != null
            && !query.limit().withTies()
            && !query.limit().percent()
            && query.limit().count() instanceof Value.Literal literal
            && Set.of("0", "1").contains(literal.text());
    return !one
        ? result
        : new ResolvedQuery(
            query,
            result.parts(),
            result.outputs(),
            result.isComplete(),
            false,
            position -> result.isNullable(result.outputs().get(position)),
            () -> List.<Set<Integer>>of(new TreeSet<>()));
  }

  /** A name that stands for known columns, for conditions and outputs that are not written out. */
  ColumnName synthetic(Span span, Binding binding, List<UseColumn> columns) {
    UseColumn first = columns.get(0);
    boolean unnamed =
        first.use().item() instanceof FromItem.DerivedTable derived && derived.alias() == null;
    List<Identifier> qualifier =
        unnamed || binding instanceof Binding.ToMerged
            ? List.of()
            : List.of(dialect().exact(first.use().name(), span));
    ColumnName name = new ColumnName(span, qualifier, dialect().exact(first.name(), span));
    bindings.put(name, binding);
    return name;
  }
}
