package io.lantrel.sql;

import io.lantrel.sql.grammar.SqlLexer;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.antlr.v4.runtime.Token;

/**
 * What MariaDB runs although it stands in the signs of a comment: a dump writes its views so, as
 * {@code /*!50001 CREATE VIEW … *}{@code /}. In a query it is refused, since others read a comment
 * there; in a schema, which is only read, it is what it says.
 */
final class RunComments {

  /** The signs behind those of the comment, and the version from which on it is run. */
  private static final Pattern MARK = Pattern.compile("/\\*M?!\\d*");

  private RunComments() {}

  /** The text with blanks for the signs, so that every offset stays. */
  static String opened(String text, Dialect dialect) {
    if (!dialect.has(Dialect.Rule.RUNS_COMMENTS) || !text.contains("/*")) {
      return text;
    }
    StringBuilder opened = new StringBuilder(text);
    Offsets offsets = Offsets.of(text);
    Matcher mark = MARK.matcher(text);
    boolean open = false;
    List<Token> tokens =
        Tokens.statements(new SourceText(text), dialect).stream().flatMap(List::stream).toList();
    for (int i = 0; i < tokens.size(); i++) {
      Token token = tokens.get(i);
      int start = offsets.span(token, token).start();
      if (token.getType() == SqlLexer.OPEN_COMMENT && mark.find(start) && mark.start() == start) {
        blank(opened, start, mark.end());
        open = true;
      } else if (open && text.startsWith("*/", start)) {
        blank(opened, start, start + 2);
        open = false;
      }
    }
    return opened.toString();
  }

  private static void blank(StringBuilder text, int start, int end) {
    for (int i = start; i < end; i++) {
      text.setCharAt(i, ' ');
    }
  }
}
