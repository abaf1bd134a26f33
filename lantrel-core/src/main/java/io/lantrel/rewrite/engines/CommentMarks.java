package io.lantrel.rewrite.engines;

import io.lantrel.sql.Dialect;
import io.lantrel.sql.Dialect.Rule;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Comments as another product reads them: {@code #} is one only in some, {@code --x} not in all.
 */
final class CommentMarks {

  private static final Pattern PART =
      Pattern.compile(
          "(?s)'(?:[^'\\\\]++|\\\\.|'')*+'|\"[^\"]*\"|`[^`]*`|/\\*.*?\\*/|--[^\\n]*|#[^\\n]*");

  private CommentMarks() {}

  static String in(String text, Dialect from, Dialect to) {
    return PART.matcher(text)
        .replaceAll(found -> Matcher.quoteReplacement(mark(found.group(), from, to)));
  }

  private static String mark(String part, Dialect from, Dialect to) {
    if (part.startsWith("#") && from.has(Rule.HASH_COMMENTS) && !to.has(Rule.HASH_COMMENTS)) {
      return "-- " + part.substring(1).strip();
    }
    boolean close = part.startsWith("--") && part.length() > 2 && !part.startsWith("-- ");
    return close && to == Dialect.MARIADB ? "-- " + part.substring(2) : part;
  }
}
