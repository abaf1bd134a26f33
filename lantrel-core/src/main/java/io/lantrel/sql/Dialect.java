package io.lantrel.sql;

import io.lantrel.sql.tree.Identifier;
import java.util.Arrays;
import java.util.EnumSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;

/** How a database product reads and writes SQL, where products differ. */
public enum Dialect {
  DUCKDB(
      Rule.NESTED_COMMENTS,
      Rule.DOLLAR_QUOTES,
      Rule.WHOLE_ROW_BY_NAME,
      Rule.ON_SEES_BEYOND_COMMA,
      Rule.LABELS_IN_WHERE,
      Rule.LABELS_IN_SELECT,
      Rule.LABELS_IN_GROUP_BY,
      Rule.LABELS_IN_HAVING),
  POSTGRESQL(
      Rule.NESTED_COMMENTS,
      Rule.DOLLAR_QUOTES,
      Rule.WHOLE_ROW_BY_NAME,
      Rule.EMPTY_SELECT_LIST,
      Rule.FOLDS_TO_LOWER,
      Rule.LABELS_IN_GROUP_BY,
      Rule.KEY_GROUPS_ITS_TABLE),
  MARIADB(
      Rule.BACKSLASH_ESCAPES,
      Rule.HASH_COMMENTS,
      Rule.DOUBLE_QUOTED_TEXT,
      Rule.VARIABLES,
      Rule.JOINS_WITHOUT_CONDITION,
      Rule.BARS_ARE_OR,
      Rule.LABELS_IN_GROUP_BY,
      Rule.LABELS_IN_HAVING,
      Rule.ANY_UNGROUPED_COLUMN),
  SQLITE(
      Rule.BRACKET_NAMES,
      Rule.VARIABLES,
      Rule.JOINS_WITHOUT_CONDITION,
      Rule.ON_SEES_BEYOND_COMMA,
      Rule.UNKNOWN_QUOTED_NAME_IS_TEXT,
      Rule.WHOLE_ROW_BY_NAME,
      Rule.FIRST_OF_ONE_NAME,
      Rule.ON_SEES_LATER_TABLES,
      Rule.LABELS_IN_WHERE,
      Rule.LABELS_IN_GROUP_BY,
      Rule.LABELS_IN_HAVING,
      Rule.ANY_UNGROUPED_COLUMN),
  H2(
      Rule.NESTED_COMMENTS,
      Rule.DOLLAR_QUOTES,
      Rule.VARIABLES,
      Rule.FOLDS_TO_UPPER,
      Rule.ON_SEES_BEYOND_COMMA,
      Rule.LABELS_IN_GROUP_BY,
      Rule.LABELS_IN_HAVING,
      Rule.KEY_GROUPS_ITS_TABLE),
  HSQLDB(
      Rule.FIRST_OF_ONE_NAME,
      Rule.FOLDS_TO_UPPER,
      Rule.ON_SEES_BEYOND_COMMA,
      Rule.LABELS_IN_GROUP_BY,
      Rule.LABELS_IN_HAVING,
      Rule.KEY_GROUPS_ITS_TABLE);

  /** One thing in which products differ. */
  public enum Rule {
    /** {@code \'} within quotes is a quote. */
    BACKSLASH_ESCAPES,
    /** A {@code #} begins a comment. */
    HASH_COMMENTS,
    /** A comment within a comment has an end of its own. */
    NESTED_COMMENTS,
    /** {@code [a name]}. */
    BRACKET_NAMES,
    /** {@code "x"} is a text and no name. */
    DOUBLE_QUOTED_TEXT,
    /** {@code "x"} is a text where no column has the name. */
    UNKNOWN_QUOTED_NAME_IS_TEXT,
    /** {@code $$a text$$}. */
    DOLLAR_QUOTES,
    /** {@code @name}. */
    VARIABLES,
    /** JOIN may go without ON. */
    JOINS_WITHOUT_CONDITION,
    /** {@code ||} is OR, and {@code &&} is AND. */
    BARS_ARE_OR,
    /** SELECT may show nothing. */
    EMPTY_SELECT_LIST,
    /** A table's name is the row of it where no column has the name. */
    WHOLE_ROW_BY_NAME,
    /** Names without quotes are stored in small letters, and those in quotes are exact. */
    FOLDS_TO_LOWER,
    /** Names without quotes are stored in capitals, and those in quotes are exact. */
    FOLDS_TO_UPPER,
    /** The label of an output column can be used in WHERE. */
    LABELS_IN_WHERE,
    /** It can be used in the output columns behind it. */
    LABELS_IN_SELECT,
    /** It can be used in GROUP BY. */
    LABELS_IN_GROUP_BY,
    /** It can be used in HAVING. */
    LABELS_IN_HAVING,
    /** Of several tables or columns of one name, the first is meant. */
    FIRST_OF_ONE_NAME,
    /** ON may name tables that are joined further on. */
    ON_SEES_LATER_TABLES,
    /** ON also sees what stands before a comma. */
    ON_SEES_BEYOND_COMMA,
    /** A column that is neither grouped nor in an aggregate is no error. */
    ANY_UNGROUPED_COLUMN,
    /** Grouped by the primary key of a table, all its columns can be shown. */
    KEY_GROUPS_ITS_TABLE
  }

  @SuppressWarnings("ImmutableEnumChecker") // filled once, and never handed out
  private final Set<Rule> rules;

  Dialect(Rule first, Rule... others) {
    this.rules = EnumSet.of(first, others);
  }

  /** Whether it is so in this dialect. */
  public boolean has(Rule rule) {
    return rules.contains(rule);
  }

  /** The name in options and files: {@code postgresql}. */
  public String id() {
    return name().toLowerCase(Locale.ROOT);
  }

  /** The dialect of that name; empty if there is none. */
  public static Optional<Dialect> of(String id) {
    return Arrays.stream(values()).filter(each -> each.id().equals(Identifier.key(id))).findFirst();
  }

  /** The names of all dialects. */
  public static List<String> ids() {
    return Arrays.stream(values()).map(Dialect::id).toList();
  }

  /** A name as the product stores it (ISO/IEC 9075-2, 5.2, syntax rules on case). */
  public String stored(Identifier name) {
    if (name.quoted()) {
      return name.text();
    }
    if (has(Rule.FOLDS_TO_LOWER)) {
      return name.text().toLowerCase(Locale.ROOT);
    }
    return has(Rule.FOLDS_TO_UPPER) ? name.text().toUpperCase(Locale.ROOT) : name.text();
  }

  /** What two stored names are compared by. */
  public String key(String stored) {
    return has(Rule.FOLDS_TO_LOWER) || has(Rule.FOLDS_TO_UPPER) ? stored : Identifier.key(stored);
  }

  /** What names are compared by. */
  public String key(Identifier name) {
    return key(stored(name));
  }

  /** Whether a name means a stored one. */
  public boolean means(Identifier name, String stored) {
    return key(name).equals(key(stored));
  }

  /** The sign around a name that needs quotes. */
  char quote() {
    return this == MARIADB ? '`' : '"';
  }
}
