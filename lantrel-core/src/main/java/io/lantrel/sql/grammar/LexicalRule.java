package io.lantrel.sql.grammar;

/**
 * What the lexer must know of the product whose SQL it reads; {@code Dialect.Rule} says of each
 * what it means, and which product has it.
 */
public enum LexicalRule {
  ANY_SIGNS_AS_OPERATORS,
  BACKSLASH_ESCAPES,
  BRACKET_NAMES,
  DOLLAR_QUOTES,
  DOUBLE_QUOTED_TEXT,
  ESCAPED_TEXTS,
  HASH_COMMENTS,
  NATIONAL_TEXTS,
  NESTED_COMMENTS,
  ONLY_LINE_FEED_ENDS_COMMENT,
  RUNS_COMMENTS,
  SLASH_COMMENTS,
  SPACE_BEHIND_DASHES,
  UNICODE_TEXTS,
  VARIABLES,
  WHOLE_SLASH,
  WORDS_IN_DOLLARS
}
