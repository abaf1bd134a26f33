package io.lantrel.sql;

import io.lantrel.sql.grammar.SqlLexer;
import io.lantrel.sql.tree.Span;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import org.antlr.v4.runtime.Token;
import org.jspecify.annotations.Nullable;

/**
 * Statements that begin like a query and change something: a member of WITH that deletes, or SELECT
 * … INTO, which makes a table or sets variables.
 */
final class Changes {

  private static final Set<String> CHANGING = Set.of("INSERT", "UPDATE", "DELETE", "MERGE");
  private static final Set<String> BEFORE_MEMBER = Set.of("AS", "MATERIALIZED");

  private Changes() {}

  /** The statement as what it is; null if nothing in it changes anything. */
  static Statement.@Nullable OtherStatement in(List<Token> tokens, Offsets offsets, Span span) {
    int depth = 0;
    Token into = null;
    for (int i = 0; i < tokens.size(); i++) {
      Token token = tokens.get(i);
      String word = word(token);
      depth += word.equals("(") ? 1 : word.equals(")") ? -1 : 0;
      if (i > 1 && CHANGING.contains(word) && beginsMember(tokens, i)) {
        Span end = new Span(span.end(), span.end());
        return new Statement.OtherStatement(
            span, offsets.span(token, token), word + " within WITH", end);
      }
      if (depth == 0 && word.equals("INTO")) {
        into = token;
      }
      if (depth == 0 && into != null && word.equals("FROM")) {
        Span rest = new Span(offsets.of(token.getStartIndex()), span.end());
        return new Statement.OtherStatement(span, offsets.span(into, into), "SELECT INTO", rest);
      }
    }
    return null;
  }

  private static boolean beginsMember(List<Token> tokens, int at) {
    return word(tokens.get(at - 1)).equals("(") && BEFORE_MEMBER.contains(word(tokens.get(at - 2)));
  }

  private static String word(Token token) {
    return token.getType() == SqlLexer.QUOTED_NAME || token.getType() == SqlLexer.STRING
        ? ""
        : token.getText().toUpperCase(Locale.ROOT);
  }
}
