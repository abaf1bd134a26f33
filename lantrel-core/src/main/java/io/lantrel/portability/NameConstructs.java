package io.lantrel.portability;

import static io.lantrel.sql.Dialect.DUCKDB;
import static io.lantrel.sql.Dialect.H2;
import static io.lantrel.sql.Dialect.HSQLDB;
import static io.lantrel.sql.Dialect.MARIADB;
import static io.lantrel.sql.Dialect.POSTGRESQL;
import static io.lantrel.sql.Dialect.SQLITE;

import io.lantrel.sql.Dialect.Rule;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.OrderItem;
import io.lantrel.sql.tree.Value;
import java.util.List;
import java.util.Set;

/** Quotes around names, and where NULL stands in an order. */
final class NameConstructs {

  private static final String SAID =
      "NULLS FIRST or NULLS LAST; on MariaDB, which has neither, … IS NULL before it";

  static final List<Construct> ALL =
      List.of(
          Construct.differing(
              "what stands in double quotes",
              "is a name",
              Set.of(MARIADB),
              "is a text",
              "the name without quotes",
              Identifier.class,
              (name, passage) -> passage.text(name).startsWith("\"") && !passage.isFree(name)),
          Construct.differing(
              "what stands in double quotes",
              "is a name",
              Set.of(MARIADB, SQLITE),
              "is a text",
              "single quotes",
              Node.class,
              (node, passage) ->
                  (node instanceof Value.Literal || passage.isTextInNameQuotes(node))
                      && passage.text(node).startsWith("\"")),
          Construct.only(
              Set.of(DUCKDB, MARIADB, SQLITE, H2),
              "name in backquotes",
              "the name without quotes, or with double ones",
              Identifier.class,
              (name, passage) -> passage.text(name).startsWith("`")),
          Construct.only(
              Construct.having(Rule.BRACKET_NAMES),
              "name in brackets",
              "the name without brackets, or in double quotes",
              Identifier.class,
              (name, passage) -> passage.text(name).startsWith("[")),

          // ---- the order of NULL: left to the product (ISO/IEC 9075-2, 10.10)
          Construct.lacking(
              Set.of(MARIADB),
              "NULLS FIRST or NULLS LAST",
              "ORDER BY … IS NULL, …",
              OrderItem.class,
              (item, passage) -> item.nullsFirst() != null),
          Construct.differing(
                  "NULL",
                  "comes last in an order",
                  Set.of(MARIADB, SQLITE, H2, HSQLDB),
                  "comes first in an order",
                  SAID,
                  OrderItem.class,
                  (item, passage) -> !item.descending() && isLeftOpen(item, passage))
              .mendedBy(
                  (node, passage) ->
                      said(node, Set.of(MARIADB, SQLITE, H2, HSQLDB).contains(passage.dialect()))),
          Construct.differing(
                  "NULL",
                  "comes last in an order with DESC",
                  Set.of(POSTGRESQL, HSQLDB),
                  "comes first in an order with DESC",
                  SAID,
                  OrderItem.class,
                  (item, passage) -> item.descending() && isLeftOpen(item, passage))
              .mendedBy(
                  (node, passage) ->
                      said(node, Set.of(POSTGRESQL, HSQLDB).contains(passage.dialect()))));

  private NameConstructs() {}

  /** The order that it has here, in words. */
  private static List<Edit> said(Node item, boolean first) {
    return List.of(Edit.insert(item.span().end(), first ? " NULLS FIRST" : " NULLS LAST"));
  }

  private static boolean isLeftOpen(OrderItem item, Passage passage) {
    return item.nullsFirst() == null && passage.canBeNull(item.value());
  }
}
