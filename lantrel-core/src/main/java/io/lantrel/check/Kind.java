package io.lantrel.check;

import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/** Which mistake a finding is. The names are stable: files and programs rely on them. */
public enum Kind {
  // ---- of the text
  SYNTAX("a text that is not SQL", Severity.ERROR, Needs.TEXT),
  NOT_A_QUERY("a statement that is no query", Severity.ERROR, Needs.TEXT),

  // ---- names
  UNKNOWN_TABLE("a table that is not there", Severity.ERROR, Needs.NAMES),
  UNKNOWN_COLUMN("a column that is not there", Severity.ERROR, Needs.NAMES),
  AMBIGUOUS_COLUMN("a column that several tables have", Severity.ERROR, Needs.NAMES),
  HIDDEN_BY_ALIAS("a table called by its name after it got an alias", Severity.ERROR, Needs.NAMES),
  REPEATED_ALIAS("two tables under one name", Severity.ERROR, Needs.NAMES),
  NOT_VISIBLE_YET(
      "a condition that mentions a table joined further on", Severity.ERROR, Needs.NAMES),
  REPEATED_LABEL("two columns under one heading", Severity.NOTE, Needs.TREE),
  ALIAS_OF_OTHER_TABLE(
      "an alias that is another table's name, or another role", Severity.WARNING, Needs.TREE),
  VAGUE_ALIAS("a table joined to itself under names that say nothing", Severity.NOTE, Needs.TREE),
  UNQUALIFIED_COLUMN("a column without its table beside others with it", Severity.NOTE, Needs.TREE),

  // ---- conditions
  NOT_A_REFERENCE("a join on columns that are no reference", Severity.WARNING, Needs.TREE),
  PARTIAL_KEY("a part of a key, taken for the whole", Severity.WARNING, Needs.TREE),
  NATURAL_SURPRISE("a join by names that coincide by accident", Severity.WARNING, Needs.TREE),
  CONDITION_MISSES_TABLE(
      "an ON that says nothing about the table it joins", Severity.WARNING, Needs.TREE),
  LOOSE_OR("an OR that lets rows meet without a connection", Severity.WARNING, Needs.TREE),
  MIXED_AND_OR("AND beside OR without parentheses", Severity.WARNING, Needs.TREE),
  ALWAYS_TRUE("a condition that every row meets", Severity.WARNING, Needs.TREE),
  NEVER_TRUE("a condition that no row can meet", Severity.WARNING, Needs.TREE),
  GAP_IN_CASE("a CASE that leaves out values between its branches", Severity.WARNING, Needs.ROWS),
  NULL_COMPARISON("a comparison that NULL decides", Severity.WARNING, Needs.TREE),
  NEARLY_EQUAL("texts that differ in blanks or capitals alone", Severity.WARNING, Needs.ROWS),
  TYPE_MISMATCH("values of unlike types compared", Severity.WARNING, Needs.TREE),
  WILDCARD_OUTSIDE_LIKE("a pattern compared with =", Severity.WARNING, Needs.TREE),
  REVERSED_SELF_JOIN(
      "a table joined to itself the other way than its names say", Severity.WARNING, Needs.TREE),
  SELF_MATCH(
      "a table joined to itself in which rows meet themselves", Severity.WARNING, Needs.TREE),
  MIRRORED_PAIRS("pairs that come in both orders, or not at all", Severity.WARNING, Needs.TREE),

  // ---- joins
  CROSS_PRODUCT("tables that nothing connects", Severity.WARNING, Needs.TREE),
  ROWS_WITHOUT_PARTNER("an inner join that loses rows", Severity.WARNING, Needs.ROWS),
  IDLE_TABLE("a table that is joined and not used", Severity.NOTE, Needs.TREE),
  SAME_JOIN_TWICE("two tables joined by the same condition", Severity.NOTE, Needs.TREE),
  CROSSED_BRANCHES("two lists of children multiplied", Severity.WARNING, Needs.TREE),
  ROWS_REPEATED("a join that gives the same line several times", Severity.NOTE, Needs.ROWS),
  DISTINCT_HIDES_REPEATS("DISTINCT over lines that a join repeats", Severity.NOTE, Needs.ROWS),

  // ---- outer joins
  OUTER_JOIN_CANCELLED(
      "a condition that drops what an outer join keeps", Severity.WARNING, Needs.TREE),
  OUTER_CHAIN_BROKEN(
      "an inner join that drops what an outer join before keeps", Severity.WARNING, Needs.TREE),
  FILTER_ON_KEPT_SIDE(
      "a condition in ON about the side that is kept anyway", Severity.WARNING, Needs.TREE),
  PARTNER_TEST_ON_NULLABLE(
      "IS NULL for a missing partner, on a column that can be NULL in one",
      Severity.WARNING,
      Needs.TREE),
  NEEDLESS_OUTER_JOIN("an outer join that keeps nothing", Severity.NOTE, Needs.TREE),
  NULL_SWALLOWS("a value that is NULL as a whole for one part of it", Severity.WARNING, Needs.ROWS),
  FILLED_KEY("a key taken from the side that an outer join fills", Severity.WARNING, Needs.ROWS),

  // ---- aggregates
  UNGROUPED_COLUMN("a column of groups whose rows can differ in it", Severity.ERROR, Needs.NAMES),
  AGGREGATE_IN_WHERE("an aggregate before there are groups", Severity.ERROR, Needs.NAMES),
  REPEATED_IN_TOTAL("a total that counts rows several times", Severity.WARNING, Needs.ROWS),
  AVERAGE_OF_AVERAGES(
      "an average of averages over groups of unequal size", Severity.WARNING, Needs.ROWS),
  VALUES_OF_SEVERAL_ROWS(
      "extremes of several rows, shown as if they were of one", Severity.WARNING, Needs.ROWS),
  COUNT_OF_MISSING("COUNT(*) that counts rows without a value", Severity.WARNING, Needs.TREE),
  COUNT_IGNORES_CONDITION(
      "a COUNT or AVG by a condition that leaves no row out", Severity.WARNING, Needs.TREE),
  UNCOUNTED_ROWS(
      "a COUNT that leaves out rows which its heading names", Severity.WARNING, Needs.ROWS),
  MONTH_OF_SEVERAL_YEARS(
      "one group for the same month of several years", Severity.NOTE, Needs.ROWS),
  MIXED_UNITS("a total of values in several units", Severity.WARNING, Needs.ROWS),
  GROUPS_OF_ONE("groups that all have one row", Severity.NOTE, Needs.TREE),
  NULL_TOTAL("SUM over nothing, which is NULL", Severity.NOTE, Needs.ROWS),
  WHOLE_DIVISION("a share of whole numbers that loses its fraction", Severity.WARNING, Needs.TREE),
  GROUPED_BY_NAME("rows put together by a name that several share", Severity.WARNING, Needs.ROWS),
  HAVING_WITHOUT_AGGREGATE("a condition of HAVING about no total", Severity.NOTE, Needs.TREE),

  // ---- subqueries and sets
  ACCIDENTAL_OUTER_COLUMN(
      "a column of a subquery that only a table outside has", Severity.WARNING, Needs.TREE),
  UNCORRELATED_EXISTS("a subquery that nothing connects", Severity.WARNING, Needs.TREE),
  NOT_IN_NULL("NOT IN over something that can be NULL", Severity.WARNING, Needs.TREE),
  SUBQUERY_MANY_ROWS("a subquery for one value with several", Severity.WARNING, Needs.TREE),
  SWAPPED_COLUMNS(
      "the same columns in another order, put below each other", Severity.WARNING, Needs.TREE),
  UNION_REMOVES_ROWS("UNION that takes lines away", Severity.NOTE, Needs.ROWS),

  // ---- hierarchies
  ENDLESS_RECURSION("a recursion that nothing stops", Severity.WARNING, Needs.TREE),
  REVERSED_RECURSION("a recursion that walks away from its start", Severity.WARNING, Needs.TREE),
  HIERARCHY_CUT_SHORT(
      "a hierarchy followed for fewer levels than it has", Severity.WARNING, Needs.ROWS),

  // ---- order
  LAST_SO_FAR(
      "LAST_VALUE over a window that ends at the current row", Severity.WARNING, Needs.TREE),
  ORDER_AGAINST_NAME(
      "what is called the first or the last, from the other end", Severity.WARNING, Needs.TREE),
  UNORDERED_LIMIT("some rows of a result without an order", Severity.WARNING, Needs.TREE),
  UNSTABLE_ORDER("an order that does not tell rows apart", Severity.NOTE, Needs.ROWS),

  // ---- other engines
  NOT_IN_ENGINE(
      "something that another engine lacks or takes otherwise", Severity.WARNING, Needs.TREE),

  // ---- of the project
  OWN_RULE("something that a rule of the project forbids", Severity.WARNING, Needs.TREE),

  // ---- of the run
  DOES_NOT_RUN("a query whose result cannot be produced", Severity.ERROR, Needs.ROWS),
  NEVER_A_PARTNER("an outer join that finds nothing here", Severity.WARNING, Needs.ROWS),
  NEVER_A_ROW("a result, or a part of it, that is empty here", Severity.WARNING, Needs.ROWS);

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

  /** The kind of that name; empty if there is none. */
  public static Optional<Kind> of(String id) {
    return Arrays.stream(values()).filter(kind -> kind.id().equals(id)).findFirst();
  }

  /** The names of all kinds. */
  public static List<String> ids() {
    return Arrays.stream(values()).map(Kind::id).toList();
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
