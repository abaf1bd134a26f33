package io.lantrel.rewrite.engines;

import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.rewrite.RewriteException;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.Dialect.Rule;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.CommonTable;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.sql.tree.Limit;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/** Clauses that another product writes otherwise. */
record QueryRules(Rendering rendering) implements Rendering.Rules {

  private static final Set<Dialect> KNOW_DISTINCT_ON =
      EnumSet.of(Dialect.DUCKDB, Dialect.POSTGRESQL, Dialect.H2);

  @Override
  public Optional<String> write(Node node) {
    if (node instanceof Query query) {
      return query(query);
    }
    if (node instanceof Limit limit) {
      return limit(limit);
    }
    if (node instanceof FromItem.Join join) {
      return join(join);
    }
    if (node instanceof CommonTable table) {
      return commonTable(table);
    }
    if (node instanceof QueryBody.SetOperation operation) {
      refuseIfOrderMatters(operation);
    }
    if (node instanceof FromItem.DerivedTable derived) {
      return derived(derived);
    }
    if (node instanceof SelectItem.AllColumns all
        && !(all.excluded().isEmpty() && all.replaced().isEmpty())
        && rendering.to() != Dialect.DUCKDB) {
      throw new RewriteException(
          "\"" + rendering.reading().text(all) + "\" is known by few; write the columns out first");
    }
    return node instanceof QueryBody.Select select ? select(select) : Optional.empty();
  }

  /** SQLite works the parts out from left to right; elsewhere INTERSECT comes first (7.17). */
  private void refuseIfOrderMatters(QueryBody.SetOperation operation) {
    boolean inner =
        operation.parts().stream().skip(1).anyMatch(each -> each instanceof QueryBody.SetOperation);
    if (inner && rendering.to() == Dialect.SQLITE) {
      throw new RewriteException(
          "SQLite works UNION and INTERSECT out from left to right; put the INTERSECT into a query"
              + " in FROM first");
    }
  }

  /** MariaDB wants a name for every query in FROM. */
  private Optional<String> derived(FromItem.DerivedTable table) {
    Dialect to = rendering.to();
    if (table.lateral() && (to == Dialect.MARIADB || to == Dialect.SQLITE)) {
      throw new RewriteException(
          "LATERAL has no counterpart there; join to a grouped or numbered query instead");
    }
    if (table.alias() != null || to != Dialect.MARIADB) {
      return Optional.empty();
    }
    String name = rendering.reading().aliases().like("part" + table.span().start());
    return Optional.of(
        rendering.asItWas(table, List.of(Edit.insert(table.span().end(), " AS " + name))));
  }

  // ---- WITH and limits ----

  private Optional<String> query(Query query) {
    List<Edit> edits = new ArrayList<>();
    boolean recursive = query.with().stream().anyMatch(this::namesItself);
    if (recursive && !query.recursive()) {
      edits.add(Edit.insert(query.with().get(0).span().start(), "RECURSIVE "));
    }
    Limit limit = query.limit();
    if (limit != null && isInFront(query, limit)) {
      if (rendering.to() != Dialect.H2 && rendering.to() != Dialect.HSQLDB) {
        edits.add(new Edit(limit.span(), ""));
        edits.add(Edit.insert(query.span().end(), "\n" + limitText(limit)));
        return Optional.of(withoutLimit(query, limit, edits));
      }
    }
    return edits.isEmpty() ? Optional.empty() : Optional.of(rendering.asItWas(query, edits));
  }

  /** TOP stands within the SELECT, so its text goes before that is written. */
  private String withoutLimit(Query query, Limit limit, List<Edit> edits) {
    String whole = rendering.asItWas(query, List.of(edits.get(edits.size() - 1)));
    String old = rendering.reading().text(limit);
    int at = whole.indexOf(old);
    return whole.substring(0, at) + whole.substring(at + old.length()).stripLeading();
  }

  private static boolean isInFront(Query query, Limit limit) {
    return query.body().span().contains(limit.span());
  }

  private boolean namesItself(CommonTable table) {
    return rendering.reading().resolution().blocks().stream()
        .filter(QueryBlock::isRecursive)
        .anyMatch(each -> table.query().span().contains(each.query().span()));
  }

  private Optional<String> limit(Limit limit) {
    Dialect to = rendering.to();
    boolean percent = limit.percent() && to != Dialect.DUCKDB && to != Dialect.H2;
    boolean ties =
        limit.withTies()
            && !EnumSet.of(Dialect.POSTGRESQL, Dialect.H2, Dialect.MARIADB, Dialect.TRINO)
                .contains(to);
    if (percent || ties) {
      throw new RewriteException(
          "the limit has " + (percent ? "PERCENT" : "WITH TIES") + ", which it cannot have there");
    }
    String text = rendering.reading().text(limit).toUpperCase(Locale.ROOT);
    boolean comma = text.startsWith("LIMIT") && text.contains(",");
    boolean pair = comma && to != Dialect.MARIADB && to != Dialect.SQLITE;
    boolean fetch = !text.startsWith("LIMIT") && to == Dialect.SQLITE;
    boolean behind = text.startsWith("LIMIT") && limit.skip() != null && to == Dialect.TRINO;
    boolean all = limit.count() == null && (to == Dialect.SQLITE || to == Dialect.MARIADB);
    boolean front = text.startsWith("TOP");
    return (pair || fetch || behind || all) && !front && !limit.withTies() && !limit.percent()
        ? Optional.of(limitText(limit))
        : Optional.empty();
  }

  private String limitText(Limit limit) {
    String all = rendering.to() == Dialect.MARIADB ? "18446744073709551615" : "-1";
    String count = limit.count() == null ? all : rendering.write(limit.count());
    String skip = limit.skip() == null ? "" : " OFFSET " + rendering.write(limit.skip());
    return rendering.to() == Dialect.TRINO
        ? (skip + " LIMIT " + count).strip()
        : "LIMIT " + count + skip;
  }

  private Optional<String> commonTable(CommonTable table) {
    List<Edit> edits = new ArrayList<>();
    Dialect to = rendering.to();
    boolean names = to == Dialect.H2 || to == Dialect.HSQLDB || to == Dialect.TRINO;
    if (names && table.columns().isEmpty() && namesItself(table)) {
      // What a recursion gives is to be named there.
      List<String> columns =
          rendering.reading().outputs(table.query()).stream()
              .map(each -> to.write(each.name()))
              .toList();
      edits.add(Edit.insert(table.name().span().end(), " (" + String.join(", ", columns) + ")"));
    }
    if (table.materialized() != null && !to.knowsMaterialized()) {
      edits.add(withoutHint(table));
    }
    return edits.isEmpty() ? Optional.empty() : Optional.of(rendering.asItWas(table, edits));
  }

  /** MATERIALIZED is a hint to the engine, which only some take. */
  private Edit withoutHint(CommonTable table) {
    Node before =
        table.columns().isEmpty() ? table.name() : table.columns().get(table.columns().size() - 1);
    Span gap = Span.between(before.span(), table.query().span());
    String text = rendering.reading().source().at(gap);
    return new Edit(gap, text.replaceFirst("(?i)(NOT\\s+)?MATERIALIZED\\s*", ""));
  }

  // ---- FROM, GROUP BY ----

  private Optional<String> join(FromItem.Join join) {
    if (join.kind() == JoinKind.COMMA
        && !rendering.to().has(Rule.ON_SEES_BEYOND_COMMA)
        && isReachedOver(join)) {
      return Optional.of(rendering.asItWas(join, List.of(new Edit(join.keyword(), " CROSS JOIN"))));
    }
    if (join.way() != FromItem.Way.BY_CONDITION && rendering.to() != Dialect.DUCKDB) {
      throw new RewriteException(
          join.way().words() + "JOIN is known by DuckDB only; write it another way first");
    }
    if (!join.isBare() || rendering.to().has(Rule.JOINS_WITHOUT_CONDITION)) {
      return Optional.empty();
    }
    return Optional.of(rendering.asItWas(join, List.of(new Edit(join.keyword(), "CROSS JOIN"))));
  }

  /** Whether a join behind the comma sees what stands before it: it has the comma on its left. */
  private boolean isReachedOver(FromItem.Join comma) {
    return rendering
        .reading()
        .query()
        .preorder()
        .anyMatch(
            node ->
                node instanceof FromItem.Join join
                    && join.kind() != JoinKind.COMMA
                    && join.left() == comma);
  }

  private Optional<String> select(QueryBody.Select select) {
    Dialect to = rendering.to();
    if (!select.distinctOn().isEmpty() && !KNOW_DISTINCT_ON.contains(to)) {
      throw new RewriteException("DISTINCT ON has no counterpart there; number the rows instead");
    }
    if (select.qualify() != null && to != Dialect.DUCKDB && to != Dialect.H2) {
      throw new RewriteException(
          "QUALIFY has no counterpart there; number the rows in a query in FROM and filter those");
    }
    if (select.from() == null && to == Dialect.HSQLDB && !select.items().isEmpty()) {
      int end = select.items().get(select.items().size() - 1).span().end();
      return Optional.of(
          rendering.asItWas(select, List.of(Edit.insert(end, " FROM (VALUES (0)) AS one"))));
    }
    if (!rendering.from().has(Rule.POSITIONS_IN_GROUP_BY) || to.has(Rule.POSITIONS_IN_GROUP_BY)) {
      return Optional.empty();
    }
    return positions(select);
  }

  /** {@code GROUP BY 1} means the first column in some products, and the number 1 in others. */
  private Optional<String> positions(QueryBody.Select select) {
    List<OutputColumn> outputs = rendering.block(select).outputs();
    Map<Span, String> values = new LinkedHashMap<>();
    for (Expression each : select.groupBy()) {
      if (each instanceof Value.Literal number && number.text().matches("\\d{1,4}")) {
        int at = Integer.parseInt(number.text()) - 1;
        if (at >= 0 && at < outputs.size() && outputs.get(at).value().span().length() > 0) {
          values.put(number.span(), rendering.write(outputs.get(at).value()));
        }
      }
    }
    if (values.isEmpty()) {
      return Optional.empty();
    }
    List<Edit> edits = new ArrayList<>();
    values.forEach((span, text) -> edits.add(new Edit(span, text)));
    return Optional.of(rendering.asItWas(select, edits));
  }
}
