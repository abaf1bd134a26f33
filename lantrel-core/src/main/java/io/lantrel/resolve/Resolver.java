package io.lantrel.resolve;

import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.ColumnType;
import io.lantrel.catalog.TypeFamily;
import io.lantrel.sql.SqlPrinter;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Expression.ColumnName;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import java.util.ArrayList;
import java.util.IdentityHashMap;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** Finds out what the names of a query mean. */
public final class Resolver {

  private final Catalog catalog;
  private final List<QueryBlock> blocks = new ArrayList<>();
  private final List<NameProblem> problems = new ArrayList<>();
  private final IdentityHashMap<ColumnName, Binding> bindings = new IdentityHashMap<>();

  private Resolver(Catalog catalog) {
    this.catalog = catalog;
  }

  /**
   * Resolves a query against a catalog. Names that mean nothing are no failure: they are in {@link
   * Resolution#problems()}.
   */
  public static Resolution resolve(Query query, Catalog catalog) {
    Resolver resolver = new Resolver(catalog);
    QueryBlock root = resolver.block(query, null);
    return new Resolution(root, resolver.blocks, resolver.problems, resolver.bindings);
  }

  Catalog catalog() {
    return catalog;
  }

  void report(NameProblem problem) {
    problems.add(problem);
  }

  /** Resolves a query as a block of its own, under the names of a scope around it. */
  QueryBlock block(Query query, @Nullable Scope outer) {
    // A user's text has no other body yet: the reader does not read one.
    QueryBody.Select select = (QueryBody.Select) query.body();
    QueryBlock block =
        new QueryBlock(catalog, query, select, outer == null ? null : outer.block(), bindings);
    blocks.add(block);
    FromResolver from = new FromResolver(this, block, outer);
    List<Scope.Visible> visible = from.resolve(select.from());
    Scope columns = new Scope(block, visible, block.uses(), false, false, outer);
    select.items().forEach(item -> outputs(item, columns));
    Scope all = new Scope(block, visible, block.uses(), true, false, outer);
    if (select.where() != null) {
      names(select.where(), all);
    }
    from.finish(select.where());
    select.groupBy().forEach(item -> group(item, all));
    if (select.having() != null) {
      names(select.having(), all);
    }
    Scope ordering = new Scope(block, visible, block.uses(), true, true, outer);
    query.orderBy().forEach(item -> names(item, ordering));
    if (query.limit() != null) {
      names(query.limit(), columns);
    }
    return block;
  }

  /** Gives every column name below a node its meaning; a subquery is a block of its own. */
  void names(Node node, Scope scope) {
    if (node instanceof ColumnName column) {
      bindings.put(column, scope.bind(column, problems));
    } else if (node instanceof Query query) {
      block(query, scope);
    } else {
      node.children().forEach(child -> names(child, scope));
    }
  }

  /** A name that stands for known columns, for conditions and outputs that are not written out. */
  ColumnName synthetic(Span span, Binding binding, List<UseColumn> columns) {
    UseColumn first = columns.get(0);
    boolean unnamed =
        first.use().item() instanceof FromItem.DerivedTable derived && derived.alias() == null;
    List<Identifier> qualifier =
        unnamed || columns.size() > 1
            ? List.of()
            : List.of(new Identifier(span, first.use().name(), true));
    ColumnName name = new ColumnName(span, qualifier, new Identifier(span, first.name(), true));
    bindings.put(name, binding);
    return name;
  }

  private void outputs(SelectItem item, Scope scope) {
    if (item instanceof SelectItem.Output output) {
      names(output.value(), scope);
      Identifier label = output.label();
      add(scope.block(), label == null ? heading(output.value()) : label.text(), output.value());
      return;
    }
    SelectItem.AllColumns all = (SelectItem.AllColumns) item;
    if (all.qualifier().isEmpty()) {
      for (Scope.Visible each : scope.visible()) {
        add(scope.block(), each.name(), synthetic(all.span(), each.binding(), each.columns()));
      }
      return;
    }
    Identifier qualifier = all.qualifier().get(all.qualifier().size() - 1);
    scope.uses().stream()
        .filter(use -> qualifier.means(use.name()))
        .findFirst()
        .ifPresentOrElse(use -> allOf(use, all, scope), () -> noSuchTable(all, scope));
  }

  private void allOf(TableUse use, SelectItem.AllColumns all, Scope scope) {
    for (UseColumn column : use.columns()) {
      Binding binding = new Binding.ToColumn(column);
      add(scope.block(), column.name(), synthetic(all.span(), binding, List.of(column)));
    }
  }

  private void noSuchTable(SelectItem.AllColumns all, Scope scope) {
    ColumnName star = new ColumnName(all.span(), all.qualifier(), Identifier.of("*"));
    bindings.put(star, scope.bind(star, problems));
  }

  private static String heading(Expression value) {
    return value instanceof ColumnName column ? column.name().text() : SqlPrinter.print(value);
  }

  private static void add(QueryBlock block, String name, Expression value) {
    block.add(new OutputColumn(block.outputs().size(), name, value, type(block, value)));
  }

  private static ColumnType type(QueryBlock block, Expression value) {
    if (value instanceof Expression.Cast cast) {
      return ColumnType.of(cast.type().text());
    }
    if (value instanceof Expression.FunctionCall call && call.key().equals("count")) {
      return new ColumnType("BIGINT", TypeFamily.INTEGER);
    }
    return block.column(value).map(UseColumn::type).orElse(ColumnType.UNKNOWN);
  }

  /** A whole number in GROUP BY is the position of an output column. */
  private void group(Expression item, Scope scope) {
    List<OutputColumn> outputs = scope.block().outputs();
    if (item instanceof Expression.Literal literal
        && literal.kind() == Expression.LiteralKind.NUMBER
        && literal.text().matches("[0-9]{1,4}")) {
      int position = Integer.parseInt(literal.text());
      if (position >= 1 && position <= outputs.size()) {
        scope.block().group(outputs.get(position - 1).value());
        return;
      }
    }
    names(item, scope);
    Expression meant =
        item instanceof ColumnName name && bindings.get(name) instanceof Binding.ToOutput label
            ? label.output().value()
            : item;
    scope.block().group(meant);
  }
}
