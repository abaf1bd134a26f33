package io.lantrel.portability;

import static io.lantrel.sql.Dialect.DUCKDB;
import static io.lantrel.sql.Dialect.H2;
import static io.lantrel.sql.Dialect.HSQLDB;
import static io.lantrel.sql.Dialect.MARIADB;
import static io.lantrel.sql.Dialect.POSTGRESQL;
import static io.lantrel.sql.Dialect.SQLITE;
import static io.lantrel.sql.Dialect.TRINO;

import io.lantrel.edit.Stars;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.sql.Dialect.Rule;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Call;
import io.lantrel.sql.tree.CommonTable;
import io.lantrel.sql.tree.Limit;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import io.lantrel.sql.tree.SelectItem;
import io.lantrel.sql.tree.Value;
import io.lantrel.sql.tree.Window;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;

/** Clauses of a query: WITH, set operations, groups, limits. */
final class QueryConstructs {

  static final List<Construct> ALL =
      List.of(
          // ---- WITH
          Construct.lacking(
              Construct.without(Rule.WITH_MAY_RECUR),
              "recursion without the word RECURSIVE",
              "WITH RECURSIVE",
              CommonTable.class,
              (table, passage) -> isRecursive(table, passage) && !saysRecursive(table, passage)),
          Construct.lacking(
              Set.of(H2, HSQLDB, TRINO),
              "recursion whose columns have no names",
              "the names of the columns in parentheses behind its own",
              CommonTable.class,
              (table, passage) -> table.columns().isEmpty() && isRecursive(table, passage)),
          Construct.lacking(
              Set.of(MARIADB, H2, HSQLDB, TRINO),
              "MATERIALIZED",
              "the query without it: the rows are the same",
              CommonTable.class,
              (table, passage) -> table.materialized() != null),

          // ---- set operations
          Construct.lacking(
              Set.of(SQLITE, H2),
              "EXCEPT ALL and no INTERSECT ALL",
              "ROW_NUMBER() over the equal rows on both sides, compared as well",
              QueryBody.SetOperation.class,
              (operation, passage) ->
                  operation.all() && operation.operator() != QueryBody.SetOperator.UNION),
          Construct.differing(
              "INTERSECT beside another set operation",
              "is worked out first",
              Set.of(SQLITE),
              "is worked out in the order that is written",
              "the INTERSECT as a query in FROM",
              QueryBody.SetOperation.class,
              (operation, passage) ->
                  operation.operator() != QueryBody.SetOperator.INTERSECT
                      && operation.parts().stream().anyMatch(QueryConstructs::isIntersect)),

          // ---- SELECT
          Construct.lacking(
              Set.of(MARIADB, SQLITE, HSQLDB, TRINO),
              "DISTINCT ON",
              "ROW_NUMBER() in a query in FROM, and of each group the row with 1",
              QueryBody.Select.class,
              (select, passage) -> !select.distinctOn().isEmpty()),
          Construct.lacking(
              Set.of(POSTGRESQL, MARIADB, SQLITE, HSQLDB, TRINO),
              "QUALIFY",
              "the window in a query in FROM, and WHERE around it",
              QueryBody.Select.class,
              (select, passage) -> select.qualify() != null),
          Construct.lacking(
              Set.of(HSQLDB),
              "SELECT without FROM",
              "FROM (VALUES (0)) AS one",
              QueryBody.Select.class,
              (select, passage) -> select.from() == null && !select.items().isEmpty()),
          Construct.lacking(
              Set.of(POSTGRESQL, MARIADB, SQLITE, H2, HSQLDB, TRINO),
              "* without some columns, or with others in their place",
              "the columns one by one",
              SelectItem.AllColumns.class,
              (all, passage) -> !(all.excluded().isEmpty() && all.replaced().isEmpty())),
          Construct.lacking(
                  Construct.having(Rule.STAR_STANDS_ALONE),
                  "* beside other columns",
                  "one * for each table: t.*",
                  (node, passage) ->
                      node instanceof QueryBody.Select select
                          ? Stars.besideOthers(select).map(SelectItem.AllColumns::span)
                          : Optional.empty())
              .mendedBy(QueryConstructs::starForEachTable),
          Construct.lacking(
                  Set.of(MARIADB),
                  "* behind other columns",
                  "one * for each table: t.*",
                  (node, passage) ->
                      node instanceof QueryBody.Select select
                          ? Stars.besideOthers(select)
                              .filter(all -> !all.equals(select.items().get(0)))
                              .map(SelectItem.AllColumns::span)
                          : Optional.empty())
              .mendedBy(QueryConstructs::starForEachTable),
          Construct.lacking(
              Construct.without(Rule.POSITIONS_IN_GROUP_BY),
              "GROUP BY the position of a column",
              "the column itself",
              QueryBody.Select.class,
              (select, passage) ->
                  select.groupBy().stream()
                      .anyMatch(
                          each ->
                              each instanceof Value.Literal literal
                                  && literal.kind() == Value.LiteralKind.NUMBER)),
          Construct.lacking(
              Set.of(MARIADB, SQLITE, H2),
              "ROLLUP, CUBE or GROUPING SETS",
              "one grouped query for each set, put together by UNION ALL",
              Call.Grouping.class,
              (grouping, passage) -> grouping.kind() != Call.GroupingKind.ALL),
          Construct.only(
              Set.of(DUCKDB),
              "GROUP BY ALL",
              "the columns one by one",
              Call.Grouping.class,
              (grouping, passage) -> grouping.kind() == Call.GroupingKind.ALL),
          Construct.lacking(
              Set.of(HSQLDB),
              "order or parts of a window",
              "a join to the query that counts the rows before each",
              Window.class,
              (window, passage) -> !window.orderBy().isEmpty() || !window.partitionBy().isEmpty()),

          // ---- limits
          Construct.lacking(
              Set.of(DUCKDB, POSTGRESQL, TRINO),
              "LIMIT with a comma",
              "LIMIT … OFFSET …",
              Limit.class,
              (limit, passage) -> begins(limit, "LIMIT", passage) && hasComma(limit, passage)),
          Construct.lacking(
              Set.of(TRINO),
              "OFFSET behind LIMIT",
              "OFFSET … LIMIT …",
              Limit.class,
              (limit, passage) ->
                  begins(limit, "LIMIT", passage)
                      && limit.skip() != null
                      && limit.count() != null
                      && !hasComma(limit, passage)),
          Construct.only(
              Set.of(DUCKDB, POSTGRESQL, HSQLDB, TRINO),
              "OFFSET before LIMIT",
              "LIMIT … OFFSET …",
              Limit.class,
              (limit, passage) ->
                  begins(limit, "OFFSET", passage)
                      && limit.count() != null
                      && passage.text(limit).matches("(?is).*\\bLIMIT\\b.*")),
          Construct.lacking(
              Set.of(SQLITE),
              "FETCH FIRST",
              "LIMIT … OFFSET …",
              Limit.class,
              (limit, passage) -> isFetch(limit, passage) && !limit.withTies()),
          Construct.lacking(
              Set.of(DUCKDB, SQLITE, HSQLDB),
              "WITH TIES",
              "RANK() in a query in FROM, and a condition on that",
              Limit.class,
              (limit, passage) -> limit.withTies()),
          Construct.lacking(
              Set.of(DUCKDB, POSTGRESQL, MARIADB, SQLITE, TRINO),
              "TOP",
              "LIMIT at the end",
              Limit.class,
              (limit, passage) -> begins(limit, "TOP", passage)));

  private QueryConstructs() {}

  private static List<Edit> starForEachTable(Node select, Passage passage) {
    return passage.block(select).flatMap(Stars::tableByTable).map(List::of).orElse(List.of());
  }

  private static boolean isRecursive(CommonTable table, Passage passage) {
    return passage.resolution().blocks().stream()
        .filter(QueryBlock::isRecursive)
        .anyMatch(each -> table.query().span().contains(each.query().span()));
  }

  private static boolean saysRecursive(CommonTable table, Passage passage) {
    Optional<Query> around = passage.around(table);
    return around.isEmpty() || around.get().recursive();
  }

  private static boolean isIntersect(QueryBody part) {
    return part instanceof QueryBody.SetOperation operation
        && operation.operator() == QueryBody.SetOperator.INTERSECT;
  }

  private static boolean begins(Limit limit, String word, Passage passage) {
    return passage.text(limit).toUpperCase(Locale.ROOT).startsWith(word);
  }

  private static boolean hasComma(Limit limit, Passage passage) {
    return limit.skip() != null
        && limit.count() != null
        && limit.skip().span().start() < limit.count().span().start()
        && passage.between(limit.skip(), limit.count()).contains(",");
  }

  private static boolean isFetch(Limit limit, Passage passage) {
    return !begins(limit, "LIMIT", passage) && !begins(limit, "TOP", passage);
  }
}
