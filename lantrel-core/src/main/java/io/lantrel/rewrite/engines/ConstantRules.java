package io.lantrel.rewrite.engines;

import io.lantrel.rewrite.RewriteException;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.Dialect.Rule;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.Value;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Texts, dates and spans of time as the other product writes them. */
record ConstantRules(Rendering rendering) implements Rendering.Rules {

  private static final Pattern SPAN =
      Pattern.compile(
          "(?i)INTERVAL\\s*'\\s*(-?\\d+)\\s+(year|month|day|hour|minute|second)s?\\s*'");
  private static final Pattern DATED = Pattern.compile("(?i)(?:DATE|TIMESTAMP|TIME)\\s*('[^']*')");

  @Override
  public Optional<String> write(Node node) {
    if (node instanceof Value.Interval interval) {
      return interval(interval);
    }
    if (!(node instanceof Value.Literal literal)) {
      return Optional.empty();
    }
    String text = rendering.reading().text(literal);
    return switch (literal.kind()) {
      case STRING -> string(text);
      case DATE, TIME, TIMESTAMP -> dated(text);
      case INTERVAL -> span(text);
      case NUMBER, TRUTH, NULL, OTHER -> Optional.empty();
    };
  }

  private Optional<String> string(String text) {
    boolean from = rendering.from().has(Rule.BACKSLASH_ESCAPES);
    boolean to = rendering.to().has(Rule.BACKSLASH_ESCAPES);
    String value;
    if (text.startsWith("\"")) {
      value = unescaped(text.substring(1, text.length() - 1).replace("\"\"", "\""));
    } else if (text.matches("(?s)\\$\\w*\\$.*")) {
      int mark = text.indexOf('$', 1) + 1;
      value = text.substring(mark, text.length() - mark);
    } else if (text.matches("(?is)e'.*")) {
      value = unescaped(text.substring(2, text.length() - 1).replace("''", "'"));
    } else if (text.startsWith("'") && text.indexOf('\\') >= 0 && from != to) {
      String inner = text.substring(1, text.length() - 1).replace("''", "'");
      value = from ? unescaped(inner) : inner;
    } else {
      return Optional.empty();
    }
    String escaped = to ? value.replace("\\", "\\\\") : value;
    return Optional.of("'" + escaped.replace("'", "''") + "'");
  }

  private static String unescaped(String text) {
    StringBuilder plain = new StringBuilder();
    for (int i = 0; i < text.length(); i++) {
      char c = text.charAt(i);
      if (c != '\\' || i + 1 == text.length()) {
        plain.append(c);
        continue;
      }
      char next = text.charAt(++i);
      plain.append(
          switch (next) {
            case 'n' -> '\n';
            case 't' -> '\t';
            case 'r' -> '\r';
            default -> next;
          });
    }
    return plain.toString();
  }

  /** SQLite has no dates, only texts that look like them. */
  private Optional<String> dated(String text) {
    Matcher dated = DATED.matcher(text);
    return rendering.to() == Dialect.SQLITE && dated.matches()
        ? Optional.of(dated.group(1))
        : Optional.empty();
  }

  private Optional<String> span(String text) {
    refuseAtSqlite();
    Matcher span = SPAN.matcher(text);
    return span.matches()
        ? Optional.of("INTERVAL '" + span.group(1) + "' " + span.group(2).toUpperCase(Locale.ROOT))
        : Optional.empty();
  }

  private Optional<String> interval(Value.Interval interval) {
    refuseAtSqlite();
    String unit = interval.unit().replaceFirst("(?i)s$", "").toUpperCase(Locale.ROOT);
    return interval.value() instanceof Value.Literal number
            && number.kind() == Value.LiteralKind.NUMBER
        ? Optional.of("INTERVAL '" + number.text() + "' " + unit)
        : Optional.empty();
  }

  private void refuseAtSqlite() {
    if (rendering.to() == Dialect.SQLITE) {
      throw new RewriteException("SQLite has no INTERVAL; write date(…, '+1 day') there by hand");
    }
  }
}
