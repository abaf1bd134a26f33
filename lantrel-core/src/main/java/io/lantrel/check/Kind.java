package io.lantrel.check;

import java.util.Locale;

/** Which mistake a finding is. The names are stable: files and programs rely on them. */
public enum Kind {
  SYNTAX("a text that is not SQL", Severity.ERROR, Needs.TEXT),
  NOT_A_QUERY("a statement that is no query", Severity.ERROR, Needs.TEXT),
  UNKNOWN_TABLE("a table that is not there", Severity.ERROR, Needs.NAMES),
  UNKNOWN_COLUMN("a column that is not there", Severity.ERROR, Needs.NAMES),
  AMBIGUOUS_COLUMN("a column that several tables have", Severity.ERROR, Needs.NAMES),
  HIDDEN_BY_ALIAS("a table called by its name after it got an alias", Severity.ERROR, Needs.NAMES),
  REPEATED_ALIAS("two tables under one name", Severity.ERROR, Needs.NAMES),
  NOT_VISIBLE_YET(
      "a condition that mentions a table joined further on", Severity.ERROR, Needs.NAMES),
  UNGROUPED_COLUMN("a column of groups whose rows can differ in it", Severity.ERROR, Needs.NAMES),
  AGGREGATE_IN_WHERE("an aggregate before there are groups", Severity.ERROR, Needs.NAMES),
  DOES_NOT_RUN("a query whose result cannot be produced", Severity.ERROR, Needs.ROWS),
  CROSS_PRODUCT("tables that nothing connects", Severity.WARNING, Needs.TREE),
  NOT_A_REFERENCE("a join on columns that are no reference", Severity.WARNING, Needs.TREE),
  ROWS_WITHOUT_PARTNER("an inner join that loses rows", Severity.WARNING, Needs.ROWS),
  OUTER_JOIN_CANCELLED(
      "a condition that drops what an outer join keeps", Severity.WARNING, Needs.TREE),
  REPEATED_IN_TOTAL("a total that counts rows several times", Severity.WARNING, Needs.ROWS);

  private final String title;
  private final Severity usual;
  private final Needs needs;

  /** What must be known before it can be looked for. */
  public enum Needs {
    /** The text alone. */
    TEXT,
    /** The names of the tables and columns. */
    NAMES,
    /** What the names mean; rows only show how much it matters. */
    TREE,
    /** Rows. */
    ROWS
  }

  Kind(String title, Severity usual, Needs needs) {
    this.title = title;
    this.usual = usual;
    this.needs = needs;
  }

  /** The name in output and files, as {@code cross-product}. */
  public String id() {
    return name().toLowerCase(Locale.ROOT).replace('_', '-');
  }

  /** What it is, in a few words. */
  public String title() {
    return title;
  }

  /** How bad it is most of the time. */
  public Severity usualSeverity() {
    return usual;
  }

  /** What must be known before it can be looked for. */
  public Needs needs() {
    return needs;
  }

  /** The file of its page in the documentation. */
  public String page() {
    return id() + ".md";
  }
}
