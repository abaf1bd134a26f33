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

  protected final boolean nestedComments() {
    return dialect.has(Rule.NESTED_COMMENTS);
  }

  protected final boolean bracketNames() {
    return dialect.has(Rule.BRACKET_NAMES);
  }

  protected final boolean dollarQuotes() {
    return dialect.has(Rule.DOLLAR_QUOTES);
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

  /** Goes on to the mark that ends a text begun by the same mark, or to the end. */
  protected final void readToMark() {
    String mark = getText();
    StringBuilder last = new StringBuilder();
    while (_input.LA(1) != IntStream.EOF && !last.toString().equals(mark)) {
      last.appendCodePoint(_input.LA(1));
      if (last.length() > mark.length()) {
        last.deleteCharAt(0);
      }
      _input.consume();
    }
  }
}
