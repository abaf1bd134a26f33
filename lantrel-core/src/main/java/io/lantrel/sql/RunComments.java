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
  private static final Pattern MARK = Pattern.compile("/\\*M?!(\\d*)");

  /** What only a version from this on would run, none runs: it is for the tools of a product. */
  private static final int NO_VERSION = 900_000;

  private RunComments() {}

  /** The text with blanks for the signs. */
  static String opened(String text, Dialect dialect) {
    if (!dialect.has(Dialect.Rule.RUNS_COMMENTS) || !text.contains("/*")) {
      return text;
    }
    StringBuilder opened = new StringBuilder(text);
    Offsets offsets = Offsets.of(text);
    Matcher mark = MARK.matcher(text);
    int begun = -1;
    List<Token> tokens =
        Tokens.statements(new SourceText(text), dialect).stream().flatMap(List::stream).toList();
    for (Token token : tokens) {
      int start = offsets.span(token, token).start();
      mark.region(start, text.length());
      if (begun < 0 && token.getType() == SqlLexer.OPEN_COMMENT && mark.lookingAt()) {
        begun = start;
        Blanks.put(opened, start, mark.end());
      } else if (begun >= 0 && text.startsWith("*/", start)) {
        mark.region(begun, text.length());
        boolean run = mark.lookingAt() && !isOfNoVersion(mark.group(1));
        Blanks.put(opened, run ? start : begun, start + 2);
        begun = -1;
      }
    }
    return opened.toString();
  }

  private static boolean isOfNoVersion(String version) {
    return version.length() > 6 || (!version.isEmpty() && Integer.parseInt(version) >= NO_VERSION);
  }
}
