package io.lantrel.sql.grammar;

import java.util.Set;
import org.antlr.v4.runtime.CharStream;
import org.antlr.v4.runtime.IntStream;
import org.antlr.v4.runtime.Lexer;
import org.antlr.v4.runtime.misc.Interval;

/** What the generated lexer asks about the product whose SQL it reads. */
public abstract class LexerOfDialect extends Lexer {

  private static final Set<Integer> PARTS =
      Set.of(
          (int) Character.NON_SPACING_MARK,
          (int) Character.COMBINING_SPACING_MARK,
          (int) Character.ENCLOSING_MARK,
          (int) Character.LETTER_NUMBER,
          (int) Character.OTHER_NUMBER);

  private Set<LexicalRule> rules = Set.of();

  protected LexerOfDialect(CharStream input) {
    super(input);
  }

  /** Before anything is read. */
  public final void setRules(Set<LexicalRule> rules) {
    this.rules = Set.copyOf(rules);
  }

  private boolean has(LexicalRule rule) {
    return rules.contains(rule);
  }

  protected final boolean backslashEscapes() {
    return has(LexicalRule.BACKSLASH_ESCAPES);
  }

  protected final boolean hashComments() {
    return has(LexicalRule.HASH_COMMENTS);
  }

  protected final boolean wholeSlash() {
    return has(LexicalRule.WHOLE_SLASH);
  }

  protected final boolean slashComments() {
    return has(LexicalRule.SLASH_COMMENTS);
  }

  /** Whether two dashes that were just read begin a comment here. */
  protected final boolean dashComment() {
    return !has(LexicalRule.SPACE_BEHIND_DASHES) || _input.LA(1) <= ' ';
  }

  protected final boolean returnEndsLine() {
    return !has(LexicalRule.ONLY_LINE_FEED_ENDS_COMMENT);
  }

  /** Whether the comment that was just opened is run as SQL. */
  protected final boolean isRun() {
    return has(LexicalRule.RUNS_COMMENTS)
        && (_input.LA(1) == '!' || (_input.LA(1) == 'M' && _input.LA(2) == '!'));
  }

  protected final boolean doubleQuotedTexts() {
    return has(LexicalRule.DOUBLE_QUOTED_TEXT);
  }

  protected final boolean escapedTexts() {
    return has(LexicalRule.ESCAPED_TEXTS);
  }

  protected final boolean unicodeTexts() {
    return has(LexicalRule.UNICODE_TEXTS);
  }

  protected final boolean nationalTexts() {
    return has(LexicalRule.NATIONAL_TEXTS);
  }

  /** Goes on to the end of a comment that was just opened; whether there is one. */
  protected final boolean readComment() {
    int open = 1;
    while (open > 0 && _input.LA(1) != IntStream.EOF) {
      int first = _input.LA(1);
      _input.consume();
      if (first == '*' && _input.LA(1) == '/') {
        _input.consume();
        open--;
      } else if (first == '/' && _input.LA(1) == '*' && has(LexicalRule.NESTED_COMMENTS)) {
        _input.consume();
        open++;
      }
    }
    return open == 0;
  }

  /**
   * Whether the signs that were just read may be an operator that someone defined. As PostgreSQL's
   * manual has it (CREATE OPERATOR): no comment begins among them or with their last, and one that
   * ends in + or - has a sign that the standard's operators do not have.
   */
  protected final boolean isOperatorOfAnySigns() {
    if (!has(LexicalRule.ANY_SIGNS_AS_OPERATORS)) {
      return false;
    }
    String signs = _input.getText(Interval.of(_tokenStartCharIndex, _input.index() - 1));
    char last = signs.charAt(signs.length() - 1);
    String andNext = signs + Character.toString(Math.max(0, _input.LA(1)));
    // What some divide by is likelier meant than an operator that someone defined.
    return !signs.equals("//")
        && !andNext.contains("--")
        && !andNext.contains("/*")
        && ((last != '+' && last != '-')
            || signs.chars().anyMatch(sign -> "~!@#%^&|`".indexOf(sign) >= 0));
  }

  protected final boolean bracketNames() {
    return has(LexicalRule.BRACKET_NAMES);
  }

  protected final boolean dollarQuotes() {
    return has(LexicalRule.DOLLAR_QUOTES)
        && (has(LexicalRule.WORDS_IN_DOLLARS) || getText().equals("$$"));
  }

  protected final boolean variables() {
    return has(LexicalRule.VARIABLES);
  }

  protected final boolean isLetter() {
    return Character.isLetter(_input.LA(-1));
  }

  /** A letter, a digit of any script, or a mark that belongs to the letter before it. */
  protected final boolean isPartOfName() {
    int last = _input.LA(-1);
    return Character.isLetterOrDigit(last) || PARTS.contains(Character.getType(last));
  }

  /** Goes on to the mark that ends a text begun by the same mark; whether there is one. */
  protected final boolean readToMark() {
    String mark = getText();
    StringBuilder last = new StringBuilder();
    while (_input.LA(1) != IntStream.EOF && !last.toString().equals(mark)) {
      last.appendCodePoint(_input.LA(1));
      if (last.length() > mark.length()) {
        last.deleteCharAt(0);
      }
      _input.consume();
    }
    return last.toString().equals(mark);
  }
}
