package io.lantrel.portability;

import static io.lantrel.sql.Dialect.DUCKDB;
import static io.lantrel.sql.Dialect.H2;
import static io.lantrel.sql.Dialect.HSQLDB;
import static io.lantrel.sql.Dialect.MARIADB;
import static io.lantrel.sql.Dialect.POSTGRESQL;
import static io.lantrel.sql.Dialect.SQLITE;
import static io.lantrel.sql.Dialect.TRINO;

import io.lantrel.sql.Dialect.Rule;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.JoinCondition;
import io.lantrel.sql.tree.JoinKind;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.Span;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/** Joins, and what else stands in FROM. */
final class FromConstructs {

  private static final String BOTH_SIDES =
      "a LEFT JOIN and, with UNION ALL, the rows that only the other side has";

  static final List<Construct> ALL =
      List.of(
          Construct.lacking(
              Set.of(MARIADB, H2),
              "FULL JOIN",
              BOTH_SIDES,
              joins((join, passage) -> join.kind() == JoinKind.FULL && isOfEquations(join))),
          Construct.lacking(
              Set.of(MARIADB, H2, POSTGRESQL),
              "FULL JOIN on a condition without =",
              BOTH_SIDES,
              joins((join, passage) -> join.kind() == JoinKind.FULL && !isOfEquations(join))),
          Construct.lacking(
                  Construct.without(Rule.JOINS_WITHOUT_CONDITION),
                  "JOIN without ON",
                  "CROSS JOIN, or say the condition",
                  joins((join, passage) -> join.isBare()))
              .mendedBy(
                  (node, passage) ->
                      List.of(new Edit(((FromItem.Join) node).keyword(), "CROSS JOIN"))),
          Construct.lacking(
              Set.of(TRINO),
              "NATURAL JOIN",
              "JOIN … USING (…) with the columns that are meant",
              joins((join, passage) -> join.natural())),
          Construct.lacking(
              Set.of(POSTGRESQL, MARIADB, SQLITE, H2, HSQLDB, TRINO),
              "SEMI JOIN",
              "WHERE EXISTS (SELECT …)",
              joins((join, passage) -> join.way() == FromItem.Way.SEMI)),
          Construct.lacking(
              Set.of(POSTGRESQL, MARIADB, SQLITE, H2, HSQLDB, TRINO),
              "ANTI JOIN",
              "WHERE NOT EXISTS (SELECT …)",
              joins((join, passage) -> join.way() == FromItem.Way.ANTI)),
          Construct.lacking(
              Set.of(POSTGRESQL, MARIADB, SQLITE, H2, HSQLDB, TRINO),
              "ASOF JOIN",
              "a join to the query that numbers the rows by their distance",
              joins((join, passage) -> join.way() == FromItem.Way.NEAREST)),
          Construct.lacking(
              Set.of(POSTGRESQL, MARIADB, SQLITE, H2, HSQLDB, TRINO),
              "POSITIONAL JOIN",
              "a join over ROW_NUMBER() of both sides",
              joins((join, passage) -> join.way() == FromItem.Way.BY_POSITION)),
          Construct.lacking(
              Set.of(MARIADB, SQLITE, H2),
              "LATERAL",
              "a join to a grouped or numbered query",
              FromItem.DerivedTable.class,
              (table, passage) -> table.lateral()),
          Construct.lacking(
              Set.of(MARIADB),
              "query in FROM without a name",
              "a name behind its parenthesis",
              FromItem.DerivedTable.class,
              (table, passage) -> table.alias() == null),
          Construct.lacking(
              Set.of(MARIADB, SQLITE),
              "names of columns behind the name of a query",
              "the names within it, with AS",
              FromItem.DerivedTable.class,
              (table, passage) -> table.alias() != null && !table.alias().columns().isEmpty()),
          Construct.only(
              Set.of(DUCKDB, POSTGRESQL, TRINO),
              "names of columns behind the name of a table",
              "a query in FROM that names them",
              FromItem.TableName.class,
              (table, passage) -> table.alias() != null && !table.alias().columns().isEmpty()),
          Construct.lacking(
              Set.of(TRINO),
              "names for some columns of a table alone",
              "names for all of them",
              FromItem.TableName.class,
              (table, passage) -> passage.namesSomeColumns(table)),
          Construct.differing(
              "the name of a table",
              "may be in capitals or not",
              Construct.having(Rule.EXACT_TABLE_NAMES),
              "is exact where the files of the server are",
              "it as it was made",
              FromItem.TableName.class,
              (table, passage) -> passage.hasOtherCapitals(table)));

  private FromConstructs() {}

  /** A join is at its keyword. */
  private static Construct.Use joins(Construct.Test<FromItem.Join> test) {
    return (Node node, Passage passage) ->
        node instanceof FromItem.Join join && test.holds(join, passage)
            ? Optional.of(join.keyword().isNowhere() ? join.span() : join.keyword())
            : Optional.<Span>empty();
  }

  /** PostgreSQL joins fully only where values can be sorted or hashed. */
  private static boolean isOfEquations(FromItem.Join join) {
    return !(join.condition() instanceof JoinCondition.On on) || isEquation(on.condition());
  }

  private static boolean isEquation(Expression condition) {
    if (condition instanceof Condition.And and) {
      return and.terms().stream().anyMatch(FromConstructs::isEquation);
    }
    return condition instanceof Condition.Comparison comparison
        && comparison.operator() == Condition.ComparisonOperator.EQUAL;
  }
}
