package io.lantrel.rewrite;

import java.util.Arrays;
import java.util.Optional;

/** Forms that a query can be brought into; what it gives then is compared. */
public enum Form {
  /** Commas in FROM become joins, with their conditions of WHERE in ON; so does the mark (+). */
  JOINS("joins", "every table joined by JOIN with its condition"),
  /** USING and NATURAL become ON. */
  ON("on", "ON in place of USING and NATURAL"),
  /** RIGHT JOIN becomes LEFT JOIN, with the sides exchanged. */
  LEFT("left", "LEFT JOIN in place of RIGHT JOIN"),
  /** Joins within joins become one chain. */
  FLAT("flat", "one chain of joins, none within another"),
  /** FULL JOIN becomes two queries, for engines that have none. */
  UNION("union", "LEFT JOIN and UNION ALL in place of FULL JOIN"),
  /** Every column says whose it is. */
  QUALIFIED("qualified", "every column with its table"),
  /** {@code *} is written out. */
  COLUMNS("columns", "the columns in place of *"),
  /** Tables get initials as aliases. */
  SHORT("short", "short aliases"),
  /** Tables that are referred to in a role get it as alias. */
  ROLES("roles", "aliases that say what a row is to the one that refers to it"),
  /** NOT IN, and LEFT JOIN with IS NULL, become NOT EXISTS. */
  NOT_EXISTS("not-exists", "NOT EXISTS in place of NOT IN and of LEFT JOIN with IS NULL"),
  /** NOT EXISTS, and LEFT JOIN with IS NULL, become NOT IN. */
  NOT_IN("not-in", "NOT IN in place of NOT EXISTS and of LEFT JOIN with IS NULL"),
  /** NOT EXISTS and NOT IN become LEFT JOIN with IS NULL. */
  IS_NULL("is-null", "LEFT JOIN with IS NULL in place of NOT EXISTS and NOT IN"),
  /** IN and EXISTS become joins that repeat no row. */
  JOIN_ONCE("join-once", "JOIN with single rows in place of IN and EXISTS"),
  /** Scalar subqueries of SELECT that look at the row outside become LEFT JOIN. */
  NO_SCALAR("no-scalar", "LEFT JOIN in place of scalar subqueries in SELECT"),
  /** Tables that are joined only to show a column of theirs become scalar subqueries. */
  SCALAR("scalar", "scalar subqueries in SELECT in place of LEFT JOIN"),
  /** Queries in FROM, and those in conditions that stand alone, get a name in WITH. */
  WITH("with", "WITH in place of queries in FROM and in conditions"),
  /** Queries of WITH stand in FROM. */
  DERIVED("derived", "queries in FROM in place of WITH"),
  /** What ON demands of one table alone goes into WHERE. */
  FILTER_WHERE("filter-where", "conditions on one table in WHERE in place of ON"),
  /** What WHERE demands of one joined table goes into its ON. */
  FILTER_ON("filter-on", "conditions on one joined table in its ON in place of WHERE"),
  /** Equalities of one column, connected with OR, become IN. */
  IN_LIST("in-list", "IN in place of equalities connected with OR"),
  /** What may be NULL in a text that is put together counts as an empty one. */
  COALESCE("coalesce", "COALESCE around what may be missing in a text");

  private final String id;
  private final String words;

  Form(String id, String words) {
    this.id = id;
    this.words = words;
  }

  /** The name in options. */
  public String id() {
    return id;
  }

  /** What a query of this form has. */
  public String words() {
    return words;
  }

  /** The form of that name; empty if there is none. */
  public static Optional<Form> of(String id) {
    return Arrays.stream(values()).filter(each -> each.id.equalsIgnoreCase(id)).findFirst();
  }
}
