package io.lantrel.sql;

import io.lantrel.sql.grammar.LexicalRule;
import io.lantrel.sql.tree.Call;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.TypeName;
import io.lantrel.sql.tree.Value;
import java.util.EnumSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** How a database product reads and writes SQL, where products differ. */
public enum Dialect {
  DUCKDB(
      Rule.NULLS_IN_ROWS_ARE_EQUAL,
      Rule.MERGED_NAMES_COME_FIRST,
      Rule.ANY_SIGNS_AS_OPERATORS,
      Rule.ROWS_NUMBERED_IN_ANY_ORDER,
      Rule.WORDS_MAY_TOUCH_NUMBERS,
      Rule.AGGREGATES_BELONG_TO_THEIR_COLUMNS,
      Rule.MERGED_COLUMNS_STAY_IN_PLACE,
      Rule.UNION_ORDERED_BY_TABLES,
      Rule.SELECT_MAY_REPEAT_ROWS,
      Rule.LATERAL_BY_ITSELF,
      Rule.NAMES_ARE_MET_WHEN_USED,
      Rule.UNUSED_WINDOWS_ARE_NOT_READ,
      Rule.WORDS_IN_DOLLARS,
      Rule.NATIONAL_TEXTS,
      Rule.WHOLE_SLASH,
      Rule.ESCAPED_TEXTS,
      Rule.UNDERSCORES_IN_NUMBERS,
      Rule.REPEATED_ALIASES,
      Rule.POSITIONS_IN_GROUP_BY,
      Rule.NESTED_COMMENTS,
      Rule.DOLLAR_QUOTES,
      Rule.WHOLE_ROW_BY_NAME,
      Rule.FUNCTION_NAMES_ITS_COLUMN,
      Rule.GROUPING_TELLS_WAYS,
      Rule.ON_SEES_BEYOND_COMMA,
      Rule.LABELS_IN_WHERE,
      Rule.LABELS_IN_SELECT,
      Rule.LABELS_IN_GROUP_BY,
      Rule.LABELS_IN_HAVING),
  POSTGRESQL(
      Rule.WHOLE_DIVISION,
      Rule.ANY_SIGNS_AS_OPERATORS,
      Rule.ROWS_NUMBERED_IN_ANY_ORDER,
      Rule.AGGREGATES_BELONG_TO_THEIR_COLUMNS,
      Rule.LABELS_STAND_ALONE_IN_ORDER_BY,
      Rule.CASTS_KEEP_NAMES,
      Rule.BARE_NULLS_ARE_TEXTS,
      Rule.ONLY_PRIMARY_KEY_GROUPS,
      Rule.SELECT_MAY_REPEAT_ROWS,
      Rule.WORDS_IN_DOLLARS,
      Rule.NATIONAL_TEXTS,
      Rule.ESCAPED_TEXTS,
      Rule.UNICODE_TEXTS,
      Rule.UNDERSCORES_IN_NUMBERS,
      Rule.NUMBERS_OF_OTHER_BASES,
      Rule.POSITIONS_IN_GROUP_BY,
      Rule.NESTED_COMMENTS,
      Rule.DOLLAR_QUOTES,
      Rule.WHOLE_ROW_BY_NAME,
      Rule.FUNCTION_NAMES_ITS_COLUMN,
      Rule.GROUPING_TELLS_WAYS,
      Rule.EMPTY_SELECT_LIST,
      Rule.FOLDS_TO_LOWER,
      Rule.LABELS_IN_GROUP_BY,
      Rule.KEY_GROUPS_ITS_TABLE),
  MARIADB(
      Rule.CONCAT_OF_NULL_IS_NULL,
      Rule.ROWS_NUMBERED_IN_ANY_ORDER,
      Rule.NAMES_BEGIN_WITH_DIGITS,
      Rule.HAVING_SEES_WHAT_IS_SHOWN,
      Rule.WRONG_CASTS_ARE_NULL,
      Rule.NATIONAL_TEXTS,
      Rule.SPACE_BEHIND_DASHES,
      Rule.RUNS_COMMENTS,
      Rule.ONLY_LINE_FEED_ENDS_COMMENT,
      Rule.NUMBERS_OF_OTHER_BASES,
      Rule.TEXTS_AS_LABELS,
      Rule.EXACT_TABLE_NAMES,
      Rule.POSITIONS_IN_GROUP_BY,
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
      Rule.DATES_ARE_TEXTS,
      Rule.COMMA_IS_A_JOIN,
      Rule.NUMBERS_BESIDE_TEXTS_ARE_TEXTS,
      Rule.WHOLE_DIVISION,
      Rule.ROWS_NUMBERED_IN_ANY_ORDER,
      Rule.ON_SEEKS_IN_ALL_TABLES,
      Rule.USING_TAKES_THE_FIRST,
      Rule.MERGED_COLUMNS_STAY_IN_PLACE,
      Rule.UNION_ORDERED_BY_TABLES,
      Rule.WITH_MAY_RECUR,
      Rule.ONLY_LINE_FEED_ENDS_COMMENT,
      Rule.UNDERSCORES_IN_NUMBERS,
      Rule.NUMBERS_OF_OTHER_BASES,
      Rule.REPEATED_ALIASES,
      Rule.TEXTS_AS_LABELS,
      Rule.POSITIONS_IN_GROUP_BY,
      Rule.BRACKET_NAMES,
      Rule.VARIABLES,
      Rule.JOINS_WITHOUT_CONDITION,
      Rule.ON_SEES_BEYOND_COMMA,
      Rule.UNKNOWN_QUOTED_NAME_IS_TEXT,
      Rule.ON_SEES_LATER_TABLES,
      Rule.LABELS_IN_WHERE,
      Rule.LABELS_IN_GROUP_BY,
      Rule.LABELS_IN_HAVING,
      Rule.ANY_UNGROUPED_COLUMN),
  H2(
      Rule.WHOLE_DIVISION,
      Rule.ROWS_NUMBERED_IN_ANY_ORDER,
      Rule.WORDS_MAY_TOUCH_NUMBERS,
      Rule.LABELS_STAND_ALONE_IN_ORDER_BY,
      Rule.UNUSED_WINDOWS_ARE_NOT_READ,
      Rule.NATIONAL_TEXTS,
      Rule.SLASH_COMMENTS,
      Rule.UNICODE_TEXTS,
      Rule.UNDERSCORES_IN_NUMBERS,
      Rule.NUMBERS_OF_OTHER_BASES,
      Rule.REPEATED_ALIASES,
      Rule.EMPTY_SELECT_LIST,
      Rule.USING_MERGES_NO_NAMES,
      Rule.USING_LOOKS_AT_FIRST_TABLES,
      Rule.INNER_ON_SEES_ALL_TABLES,
      Rule.NATURAL_WITH_LAST_TABLE,
      Rule.RECURSION_REPEATS_ROWS,
      Rule.ON_SEES_LATER_TABLES,
      Rule.UNITS_BEHIND_VALUES,
      Rule.JOINS_WITHOUT_CONDITION,
      Rule.NESTED_COMMENTS,
      Rule.DOLLAR_QUOTES,
      Rule.VARIABLES,
      Rule.FOLDS_TO_UPPER,
      Rule.ON_SEES_BEYOND_COMMA,
      Rule.LABELS_IN_GROUP_BY,
      Rule.LABELS_IN_HAVING,
      Rule.KEY_GROUPS_ITS_TABLE),
  HSQLDB(
      Rule.GROUPING_TELLS_WAYS,
      Rule.WHOLE_DIVISION,
      Rule.CONCAT_OF_NULL_IS_NULL,
      Rule.ROWS_NUMBERED_IN_ANY_ORDER,
      Rule.WINDOWS_ONLY_NUMBER_ROWS,
      Rule.WORDS_MAY_TOUCH_NUMBERS,
      Rule.AGGREGATES_BELONG_TO_THEIR_COLUMNS,
      Rule.STAR_STANDS_ALONE,
      Rule.UNION_ORDERED_BY_TABLES,
      Rule.WITH_MAY_RECUR,
      Rule.NATIONAL_TEXTS,
      Rule.UNICODE_TEXTS,
      Rule.REPEATED_ALIASES,
      Rule.BARE_VALUES_ARE_ONE_ROW,
      Rule.UNITS_BEHIND_VALUES,
      Rule.FIRST_OF_ONE_NAME,
      Rule.FOLDS_TO_UPPER,
      Rule.ON_SEES_BEYOND_COMMA,
      Rule.LABELS_IN_GROUP_BY,
      Rule.KEY_GROUPS_ITS_TABLE),
  TRINO(
      Rule.GROUPING_TELLS_WAYS,
      Rule.WHOLE_DIVISION,
      Rule.CONCAT_OF_NULL_IS_NULL,
      Rule.ROWS_NUMBERED_IN_ANY_ORDER,
      Rule.UNICODE_TEXTS,
      Rule.UNDERSCORES_IN_NUMBERS,
      Rule.NUMBERS_OF_OTHER_BASES,
      Rule.REPEATED_ALIASES,
      Rule.POSITIONS_IN_GROUP_BY),
  /** Standard SQL, for every other product; in doubt nothing is an error. */
  STANDARD(
      Rule.TIES_NEED_NO_ORDER,
      Rule.SELECT_MAY_REPEAT_ROWS,
      Rule.NATIONAL_TEXTS,
      Rule.UNICODE_TEXTS,
      Rule.UNDERSCORES_IN_NUMBERS,
      Rule.NUMBERS_OF_OTHER_BASES,
      Rule.REPEATED_ALIASES,
      Rule.POSITIONS_IN_GROUP_BY,
      Rule.WHOLE_ROW_BY_NAME,
      Rule.ON_SEES_BEYOND_COMMA,
      Rule.LABELS_IN_WHERE,
      Rule.LABELS_IN_GROUP_BY,
      Rule.LABELS_IN_HAVING,
      Rule.ANY_UNGROUPED_COLUMN,
      Rule.KEY_GROUPS_ITS_TABLE);

  /** One thing in which products differ. */
  public enum Rule {
    /** {@code \'} within quotes is a quote. */
    BACKSLASH_ESCAPES(LexicalRule.BACKSLASH_ESCAPES),
    /** {@code <->>} and any other run of signs can be an operator. */
    ANY_SIGNS_AS_OPERATORS(LexicalRule.ANY_SIGNS_AS_OPERATORS),
    /** {@code E'a\tb'}. */
    ESCAPED_TEXTS(LexicalRule.ESCAPED_TEXTS),
    /** {@code U&'\0041'}. */
    UNICODE_TEXTS(LexicalRule.UNICODE_TEXTS),
    /** {@code 1_000}. */
    UNDERSCORES_IN_NUMBERS,
    /** {@code 0x1F}; elsewhere that is 0 with a label. */
    NUMBERS_OF_OTHER_BASES,
    /** {@code 1AND}, {@code 12abc} with a number that a word runs into. */
    WORDS_MAY_TOUCH_NUMBERS,
    /** {@code 1st} is a name. */
    NAMES_BEGIN_WITH_DIGITS,
    /** {@code /} between whole numbers gives a whole number. */
    WHOLE_DIVISION,
    /** {@code //} divides and gives a whole number. */
    WHOLE_SLASH(LexicalRule.WHOLE_SLASH),
    /** {@code //} begins a comment. */
    SLASH_COMMENTS(LexicalRule.SLASH_COMMENTS),
    /** {@code --} begins a comment only if a blank follows. */
    SPACE_BEHIND_DASHES(LexicalRule.SPACE_BEHIND_DASHES),
    /** A comment goes on behind a carriage return. */
    ONLY_LINE_FEED_ENDS_COMMENT(LexicalRule.ONLY_LINE_FEED_ENDS_COMMENT),
    /** What stands in {@code /*! … *}{@code /} is run. */
    RUNS_COMMENTS(LexicalRule.RUNS_COMMENTS),
    /** A {@code #} begins a comment. */
    HASH_COMMENTS(LexicalRule.HASH_COMMENTS),
    /** A comment within a comment has an end of its own. */
    NESTED_COMMENTS(LexicalRule.NESTED_COMMENTS),
    /** {@code [a name]}. */
    BRACKET_NAMES(LexicalRule.BRACKET_NAMES),
    /** {@code "x"} is a text and no name. */
    DOUBLE_QUOTED_TEXT(LexicalRule.DOUBLE_QUOTED_TEXT),
    /** {@code "x"} is a text where no column has the name. */
    UNKNOWN_QUOTED_NAME_IS_TEXT,
    /** {@code N'a text'}. */
    NATIONAL_TEXTS(LexicalRule.NATIONAL_TEXTS),
    /** {@code $word$a text$word$}, where {@code $$} is known. */
    WORDS_IN_DOLLARS(LexicalRule.WORDS_IN_DOLLARS),
    /** {@code $$a text$$}. */
    DOLLAR_QUOTES(LexicalRule.DOLLAR_QUOTES),
    /** {@code SELECT to_day - from_day DAY}: a unit, and no label. */
    UNITS_BEHIND_VALUES,
    /** {@code VALUES 1, 2} is one row; elsewhere two. */
    BARE_VALUES_ARE_ONE_ROW,
    /** A column that USING merges is meant, whatever other tables have one of its name. */
    MERGED_NAMES_COME_FIRST,
    /** A column that USING merges is shown once, but its name alone is ambiguous. */
    USING_MERGES_NO_NAMES,
    /**
     * A column that USING merges stands in {@code *} where the left side has it, not at the front.
     */
    MERGED_COLUMNS_STAY_IN_PLACE,
    /** {@code SELECT name 'a label'}. */
    TEXTS_AS_LABELS,
    /** {@code @name}. */
    VARIABLES(LexicalRule.VARIABLES),
    /** JOIN may go without ON. */
    JOINS_WITHOUT_CONDITION,
    /** {@code ||} is OR, and {@code &&} is AND. */
    BARS_ARE_OR,
    /** SELECT may show nothing. */
    EMPTY_SELECT_LIST,
    /** A table's name is the row of it where no column has the name. */
    WHOLE_ROW_BY_NAME,
    /** What a function in FROM gives one column by is the column of that name. */
    FUNCTION_NAMES_ITS_COLUMN,
    /** Dates are texts, and {@code DATE '2026-05-01'} is no value. */
    DATES_ARE_TEXTS,
    /** Of several ways to group at once, GROUPING tells which columns a row leaves out. */
    GROUPING_TELLS_WAYS,
    /** Names without quotes are stored in small letters, and those in quotes are exact. */
    FOLDS_TO_LOWER,
    /** Names without quotes are stored in capitals, and those in quotes are exact. */
    FOLDS_TO_UPPER,
    /** The label of an output column can be used in WHERE. */
    LABELS_IN_WHERE,
    /** It can be used in the output columns behind it. */
    LABELS_IN_SELECT,
    /** In ORDER BY it can only stand alone, not in something larger. */
    LABELS_STAND_ALONE_IN_ORDER_BY,
    /** It can be used in GROUP BY. */
    LABELS_IN_GROUP_BY,
    /** It can be used in HAVING. */
    LABELS_IN_HAVING,
    /** Of several tables or columns of one name, the first is meant. */
    FIRST_OF_ONE_NAME,
    /** Two tables may go by one name, as long as nothing is named by it. */
    REPEATED_ALIASES,
    /** {@code (1, NULL) = (1, NULL)} is true; elsewhere it is unknown (ISO/IEC 9075-2, 8.2). */
    NULLS_IN_ROWS_ARE_EQUAL,
    /** CONCAT with a NULL among its parts is NULL; elsewhere it leaves NULL out. */
    CONCAT_OF_NULL_IS_NULL,
    /** WITH TIES is let through without ORDER BY, and adds nothing then. */
    TIES_NEED_NO_ORDER,
    /** ON may name tables that are joined further on. */
    ON_SEES_LATER_TABLES,
    /** A number compared with a column of texts is taken as a text. */
    NUMBERS_BESIDE_TEXTS_ARE_TEXTS,
    /** A comma is one of the joins, which are carried out from left to right. */
    COMMA_IS_A_JOIN,
    /**
     * A name without its table is sought in ON among all tables of FROM, not only the first ones.
     */
    ON_SEEKS_IN_ALL_TABLES,
    /**
     * The ON of an inner join sees all tables of FROM and seeks names among all of them; that of an
     * outer join, behind one, or within what such a join may fill with NULL, sees only what it
     * joins.
     */
    INNER_ON_SEES_ALL_TABLES,
    /** ON also sees what stands before a comma. */
    ON_SEES_BEYOND_COMMA,
    /** A column that is neither grouped nor in an aggregate is no error. */
    ANY_UNGROUPED_COLUMN,
    /**
     * HAVING sees what is shown and what rows are grouped by, and of other columns only figures.
     */
    HAVING_SEES_WHAT_IS_SHOWN,
    /** An aggregate in a subquery over columns of the block around is that block's (6.9). */
    AGGREGATES_BELONG_TO_THEIR_COLUMNS,
    /** A column that several tables before USING have is that of the first of them. */
    USING_TAKES_THE_FIRST,
    /** USING takes a column of the first table of either side; RIGHT JOIN turns its sides round. */
    USING_LOOKS_AT_FIRST_TABLES,
    /** A whole number in GROUP BY is the position of an output column. */
    POSITIONS_IN_GROUP_BY,
    /** Names of tables, and aliases, are exact, if the server's files are. */
    EXACT_TABLE_NAMES,
    /** Grouped by the primary key of a table, all its columns can be shown. */
    KEY_GROUPS_ITS_TABLE,
    /** NATURAL pairs columns with those of the table that was joined last, not with all so far. */
    NATURAL_WITH_LAST_TABLE,
    /** The UNION of a recursion keeps equal rows, as UNION ALL does. */
    RECURSION_REPEATS_ROWS,
    /** ROW_NUMBER needs no order, which would cost a sort. */
    ROWS_NUMBERED_IN_ANY_ORDER,
    /** Of all that OVER can stand behind there is only ROW_NUMBER(), over all rows. */
    WINDOWS_ONLY_NUMBER_ROWS,
    /** What a window is defined by may name anything, if the window is not used. */
    UNUSED_WINDOWS_ARE_NOT_READ,
    /** A name that is not looked at while the query is planned is no error. */
    NAMES_ARE_MET_WHEN_USED,
    /** A query in FROM sees the tables before it without LATERAL. */
    LATERAL_BY_ITSELF,
    /** What does not fit a type becomes NULL. */
    WRONG_CASTS_ARE_NULL,
    /** WITH is recursive without saying so. */
    WITH_MAY_RECUR,
    /** What UNION puts together can be put in order by columns of its first query. */
    UNION_ORDERED_BY_TABLES,
    /** {@code *} has no other column beside it; {@code t.*} may have. */
    STAR_STANDS_ALONE,
    /** A function in the SELECT list can make several rows of one. */
    SELECT_MAY_REPEAT_ROWS,
    /** A column that CAST or COLLATE is about keeps its name. */
    CASTS_KEEP_NAMES,
    /** Where two queries of a UNION show nothing but NULL, a third one cannot show a number. */
    BARE_NULLS_ARE_TEXTS,
    /** Of the keys of a table, only the primary one does that. */
    ONLY_PRIMARY_KEY_GROUPS;

    private final @Nullable LexicalRule lexical;

    Rule() {
      this(null);
    }

    Rule(@Nullable LexicalRule lexical) {
      this.lexical = lexical;
    }
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

  /**
   * The type that a text is cast to, with a length behind it; old versions of one know no other.
   */
  public String textType() {
    return this == MARIADB ? "CHAR" : "VARCHAR";
  }

  /** What the columns of VALUES are called by themselves; empty if by their values. */
  public Optional<String> valuesColumn(int position) {
    return switch (this) {
      case DUCKDB -> Optional.of("col" + position);
      case POSTGRESQL, SQLITE, STANDARD -> Optional.of("column" + (position + 1));
      case H2, HSQLDB -> Optional.of("c" + (position + 1));
      case MARIADB, TRINO -> Optional.empty();
    };
  }

  /** What the lexer must know. */
  Set<LexicalRule> lexicalRules() {
    return rules.stream()
        .flatMap(rule -> Stream.ofNullable(rule.lexical))
        .collect(Collectors.toUnmodifiableSet());
  }

  /** Whether a member of WITH can be written as MATERIALIZED: it is worked out once then. */
  public boolean knowsMaterialized() {
    return this == DUCKDB || this == POSTGRESQL || this == SQLITE;
  }

  /** The name in options and files: {@code postgresql}. */
  public String id() {
    return name().toLowerCase(Locale.ROOT);
  }

  /**
   * A name as the catalog has it: as one would write it, so that a name reads alike at all products
   * (ISO/IEC 9075-2, 5.2, syntax rules on case). Where names are stored in capitals, {@code river}
   * and {@code RIVER} are {@code river}, and {@code "river"} keeps its quotes.
   */
  public String stored(Identifier name) {
    if (name.quoted()) {
      return fromProduct(name.text());
    }
    if (has(Rule.FOLDS_TO_LOWER)) {
      return folded(name.text());
    }
    return has(Rule.FOLDS_TO_UPPER) ? fromProduct(folded(name.text())) : name.text();
  }

  /** The name of a table or column, as the product itself tells it, as the catalog has it. */
  public String fromProduct(String name) {
    String small = name.toLowerCase(Locale.ROOT);
    if (!has(Rule.FOLDS_TO_UPPER) || name.equals(name.toUpperCase(Locale.ROOT))) {
      return has(Rule.FOLDS_TO_UPPER) ? small : name;
    }
    return name.equals(small) ? "\"" + name + "\"" : name;
  }

  /** The opposite: a name of the catalog as the product itself has it. */
  public String toProduct(String stored) {
    if (!has(Rule.FOLDS_TO_UPPER)) {
      return stored;
    }
    boolean exact = stored.length() > 2 && stored.startsWith("\"") && stored.endsWith("\"");
    if (exact) {
      return stored.substring(1, stored.length() - 1);
    }
    boolean plain = stored.equals(stored.toLowerCase(Locale.ROOT));
    return plain ? stored.toUpperCase(Locale.ROOT) : stored;
  }

  /** A name of the catalog for a query that Lantrel writes: in quotes, whatever it is. */
  public Identifier exact(String stored) {
    return exact(stored, Span.NOWHERE);
  }

  /** The same, standing for something at a place of the user's text. */
  public Identifier exact(String stored, Span place) {
    return new Identifier(place, toProduct(stored), true);
  }

  /** A name of the catalog for a person: in quotes only if it would mean another name without. */
  public Identifier plain(String stored) {
    Identifier name = Identifier.of(stored);
    boolean same = stored(name).equals(stored) && !stored.startsWith("\"");
    return same ? name : exact(stored);
  }

  /** The same as a text. */
  public String write(String stored) {
    return SqlPrinter.print(plain(stored), this);
  }

  /** What two names of the catalog are compared by. */
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

  /** What a name without quotes becomes when it gets them. */
  String folded(String text) {
    if (has(Rule.FOLDS_TO_LOWER)) {
      return smallAscii(text);
    }
    return has(Rule.FOLDS_TO_UPPER) ? text.toUpperCase(Locale.ROOT) : text;
  }

  /** PostgreSQL leaves all letters but A to Z as they are. */
  private static String smallAscii(String text) {
    StringBuilder small = new StringBuilder(text);
    for (int i = 0; i < small.length(); i++) {
      char c = small.charAt(i);
      small.setCharAt(i, c >= 'A' && c <= 'Z' ? (char) (c + 'a' - 'A') : c);
    }
    return small.toString();
  }

  /**
   * A value by which two texts differ that the product takes for equal, be it for their case or for
   * blanks at their end; empty if it takes none for equal that are not the same.
   */
  public Optional<Expression> tellingApart(Expression text) {
    return switch (this) {
      case MARIADB -> Optional.of(cast(text, "BINARY"));
      case SQLITE -> Optional.of(cast(text, "BLOB"));
      case HSQLDB -> Optional.of(Call.FunctionCall.of("CHAR_LENGTH", text));
      default -> Optional.empty();
    };
  }

  /**
   * A number of 64 bits that depends on all of some values and hardly ever is the same for others;
   * empty if the product has no such function.
   */
  public Optional<Expression> checksum(List<Expression> values) {
    return switch (this) {
      case DUCKDB -> Optional.of(Call.FunctionCall.of("hash", values.toArray(Expression[]::new)));
      case POSTGRESQL ->
          Optional.of(
              Call.FunctionCall.of(
                  "hash_record_extended",
                  new Value.RowValue(Span.NOWHERE, true, values),
                  Value.Literal.number(0)));
      default -> Optional.empty();
    };
  }

  private static Expression cast(Expression value, String type) {
    return new Value.Cast(Span.NOWHERE, value, new TypeName(Span.NOWHERE, type), false);
  }

  /** The sign around a name that needs quotes. */
  char quote() {
    return this == MARIADB ? '`' : '"';
  }
}
