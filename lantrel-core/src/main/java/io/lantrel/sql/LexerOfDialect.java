package io.lantrel.sql;

import io.lantrel.sql.Dialect.Rule;
import java.util.Set;
import org.antlr.v4.runtime.CharStream;
import org.antlr.v4.runtime.IntStream;
import org.antlr.v4.runtime.Lexer;

/**
 * What the generated lexer asks the dialect. It is public because the generated class stands in
 * another package; it is no part of the interface.
 */
public abstract class LexerOfDialect extends Lexer {

  private static final Set<Integer> PARTS =
      Set.of(
          (int) Character.NON_SPACING_MARK,
          (int) Character.COMBINING_SPACING_MARK,
          (int) Character.ENCLOSING_MARK,
          (int) Character.LETTER_NUMBER,
          (int) Character.OTHER_NUMBER);

  private Dialect dialect = Dialect.DUCKDB;

  protected LexerOfDialect(CharStream input) {
    super(input);
  }

  final void setDialect(Dialect dialect) {
    this.dialect = dialect;
  }

  protected final boolean backslashEscapes() {
    return dialect.has(Rule.BACKSLASH_ESCAPES);
  }

  protected final boolean hashComments() {
    return dialect.has(Rule.HASH_COMMENTS);
  }

  protected final boolean wholeSlash() {
    return dialect.has(Rule.WHOLE_SLASH);
  }

  protected final boolean slashComments() {
    return dialect.has(Rule.SLASH_COMMENTS);
  }

  /** Whether two dashes that were just read begin a comment here. */
  protected final boolean dashComment() {
    return !dialect.has(Rule.SPACE_BEHIND_DASHES) || _input.LA(1) <= ' ';
  }

  protected final boolean returnEndsLine() {
    return !dialect.has(Rule.ONLY_LINE_FEED_ENDS_COMMENT);
  }

  /** Whether the comment that was just opened is run as SQL. */
  protected final boolean isRun() {
    return dialect.has(Rule.RUNS_COMMENTS)
        && (_input.LA(1) == '!' || (_input.LA(1) == 'M' && _input.LA(2) == '!'));
  }

  protected final boolean doubleQuotedTexts() {
    return dialect.has(Rule.DOUBLE_QUOTED_TEXT);
  }

  protected final boolean escapedTexts() {
    return dialect.has(Rule.ESCAPED_TEXTS);
  }

  protected final boolean unicodeTexts() {
    return dialect.has(Rule.UNICODE_TEXTS);
  }

  protected final boolean nationalTexts() {
    return dialect != Dialect.SQLITE;
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
      } else if (first == '/' && _input.LA(1) == '*' && dialect.has(Rule.NESTED_COMMENTS)) {
        _input.consume();
        open++;
      }
    }
    return open == 0;
  }

  protected final boolean bracketNames() {
    return dialect.has(Rule.BRACKET_NAMES);
  }

  /** H2 knows no word between the dollars. */
  protected final boolean dollarQuotes() {
    return dialect.has(Rule.DOLLAR_QUOTES) && (dialect != Dialect.H2 || getText().equals("$$"));
  }

  protected final boolean variables() {
    return dialect.has(Rule.VARIABLES);
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
