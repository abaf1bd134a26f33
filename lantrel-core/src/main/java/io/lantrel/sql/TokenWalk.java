package io.lantrel.sql;

import io.lantrel.sql.grammar.SqlLexer;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.Span;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import org.antlr.v4.runtime.Token;

/**
 * Goes along the tokens of one statement: looks ahead, takes what is wanted, says what is wrong.
 */
abstract class TokenWalk {

  final SourceText source;
  final Offsets offsets;
  final Dialect dialect;
  final List<Token> tokens;
  final Span span;
  int at;

  TokenWalk(SourceText source, Offsets offsets, Dialect dialect, List<Token> tokens) {
    this.source = source;
    this.offsets = offsets;
    this.dialect = dialect;
    this.tokens = tokens;
    this.span = offsets.span(tokens.get(0), tokens.get(tokens.size() - 1));
  }

  final boolean is(int type) {
    return type(0) == type;
  }

  final int type(int ahead) {
    int index = at + ahead;
    return index >= 0 && index < tokens.size() ? tokens.get(index).getType() : Token.EOF;
  }

  /** A word in capitals; empty for a name in quotes and behind the end. */
  final String word(int ahead) {
    int index = at + ahead;
    if (index < 0 || index >= tokens.size()) {
      return "";
    }
    Token token = tokens.get(index);
    return token.getType() == SqlLexer.QUOTED_NAME ? "" : token.getText().toUpperCase(Locale.ROOT);
  }

  final boolean isWord(String word) {
    return word(0).equals(word);
  }

  final boolean take(int type) {
    boolean taken = is(type);
    at += taken ? 1 : 0;
    return taken;
  }

  final boolean takeWord(String word) {
    boolean taken = isWord(word);
    at += taken ? 1 : 0;
    return taken;
  }

  final void skipWords(String... words) {
    for (String word : words) {
      takeWord(word);
    }
  }

  /** Where a word stands, behind which one of the others comes; -1 if nowhere. */
  final int find(String word, String... next) {
    for (int i = at; i < tokens.size(); i++) {
      boolean fits = next.length == 0 || List.of(next).contains(word(i + 1 - at));
      if (word(i - at).equals(word) && fits) {
        return next.length == 0 ? i : i + 1;
      }
    }
    return -1;
  }

  final boolean isNameAt(int index) {
    return index < tokens.size()
        && (Keywords.isName(tokens.get(index).getType())
            || Keywords.isReserved(tokens.get(index).getType()));
  }

  final boolean atEndOfElement() {
    return at >= tokens.size() || is(SqlLexer.COMMA) || is(SqlLexer.RIGHT_PAREN);
  }

  final void skipToEndOfElement() {
    while (!atEndOfElement()) {
      skipOne();
    }
  }

  final void skipOne() {
    if (is(SqlLexer.LEFT_PAREN)) {
      balanced();
    } else {
      at++;
    }
  }

  final List<String> balanced() {
    List<String> words = new ArrayList<>();
    int depth = 0;
    do {
      depth += is(SqlLexer.LEFT_PAREN) ? 1 : is(SqlLexer.RIGHT_PAREN) ? -1 : 0;
      words.add(tokens.get(at++).getText());
    } while (depth > 0 && at < tokens.size());
    return words;
  }

  final void expect(int type, String wanted) {
    if (!take(type)) {
      throw wrong(wanted);
    }
  }

  final Identifier identifier(String wanted) {
    if (!isNameAt(at)) {
      throw wrong(wanted);
    }
    Token token = tokens.get(at++);
    return new TreeBuilder(source, offsets, dialect).identifier(token);
  }

  final List<Identifier> name() {
    List<Identifier> parts = new ArrayList<>(List.of(identifier("the name of a table")));
    while (take(SqlLexer.DOT)) {
      parts.add(identifier("the name of a table"));
    }
    return parts;
  }

  final Span spanFrom(int first) {
    return offsets.span(tokens.get(first), tokens.get(Math.max(first, at - 1)));
  }

  final SyntaxException wrong(String wanted) {
    boolean end = at >= tokens.size();
    Span place =
        end ? new Span(span.end(), span.end()) : offsets.span(tokens.get(at), tokens.get(at));
    String found = end ? "the statement ends here" : "found " + tokens.get(at).getText();
    return new SyntaxException(new SyntaxProblem(place, found + "; expected " + wanted, List.of()));
  }
}
