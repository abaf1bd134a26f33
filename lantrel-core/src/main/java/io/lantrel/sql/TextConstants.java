package io.lantrel.sql;

import io.lantrel.sql.Dialect.Rule;
import io.lantrel.sql.grammar.SqlLexer;
import java.io.ByteArrayOutputStream;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.StandardCharsets;
import java.util.Locale;
import java.util.Optional;
import org.antlr.v4.runtime.Token;

/**
 * Constants and quoted names as a product writes them, brought into one form: a text in single
 * quotes, in which only a quote is doubled and everything else stands for itself; a name likewise
 * in double ones. The tree knows only this form, so that no product can see the end of a text where
 * Lantrel does not.
 */
final class TextConstants {

  private static final String LETTERS = "bfnrt";
  private static final String MEANT = "\b\f\n\r\t";

  private TextConstants() {}

  /** A text in the one form. */
  static String quoted(String value) {
    return "'" + value.replace("'", "''") + "'";
  }

  /** The text that a constant of the one form stands for; what may stand before it is left out. */
  static String value(String quoted) {
    int open = quoted.indexOf('\'');
    return quoted.substring(open + 1, quoted.length() - 1).replace("''", "'");
  }

  /** The token in the one form; empty if the product could not read it either. */
  static Optional<String> plain(Token token, Dialect dialect) {
    String text = token.getText();
    return switch (token.getType()) {
      case SqlLexer.STRING -> constant(text, dialect);
      case SqlLexer.DOUBLE_QUOTED_TEXT -> Optional.of(quoted(slashed(inner(text, 0), '"')));
      case SqlLexer.ESCAPED_STRING -> escaped(inner(text, 1)).map(TextConstants::quoted);
      case SqlLexer.DOLLAR_STRING -> Optional.of(quoted(ofDollars(text)));
      case SqlLexer.QUOTED_NAME -> {
        // H2 alone knows backquotes and folds to capitals: such a name is not exact there.
        boolean folds = text.startsWith("`") && dialect.has(Rule.FOLDS_TO_UPPER);
        yield name(text).map(name -> quotedName(folds ? dialect.folded(name) : name));
      }
      default -> Optional.of(text);
    };
  }

  private static Optional<String> constant(String text, Dialect dialect) {
    int open = text.indexOf('\'');
    String prefix = text.substring(0, open).toUpperCase(Locale.ROOT);
    String inner = inner(text, open);
    return switch (prefix) {
      case "X" -> inner.matches("[0-9A-Fa-f ]*") ? Optional.of(prefix + quoted(inner)) : none();
      case "B" -> inner.matches("[01 ]*") ? Optional.of(prefix + quoted(inner)) : none();
      case "U&" -> unicode(inner.replace("''", "'")).map(TextConstants::quoted);
      default ->
          dialect.has(Rule.BACKSLASH_ESCAPES)
              ? Optional.of(quoted(slashed(inner, '\'')))
              : Optional.of(quoted(inner.replace("''", "'")));
    };
  }

  private static Optional<String> none() {
    return Optional.empty();
  }

  private static String inner(String text, int open) {
    return text.substring(open + 1, text.length() - 1);
  }

  private static Optional<String> name(String text) {
    char close = text.charAt(text.length() - 1);
    int open = close == ']' ? 0 : text.indexOf(close);
    String inner = inner(text, open);
    String value = close == ']' ? inner : inner.replace("" + close + close, "" + close);
    return open > 0 ? unicode(value) : Optional.of(value);
  }

  private static String quotedName(String name) {
    return '"' + name.replace("\"", "\"\"") + '"';
  }

  /** A text between dollar marks: {@code $$it's$$}. */
  private static String ofDollars(String marked) {
    int mark = marked.indexOf('$', 1) + 1;
    return marked.substring(mark, marked.length() - mark);
  }

  /** {@code \'} and the like of MariaDB; {@code \%} and {@code \_} stay, for LIKE. */
  private static String slashed(String inner, char quote) {
    StringBuilder plain = new StringBuilder();
    for (int at = 0; at < inner.length(); at++) {
      char c = inner.charAt(at);
      if (c == quote) {
        at++;
        plain.append(quote);
      } else if (c == '\\' && at + 1 < inner.length()) {
        char next = inner.charAt(++at);
        switch (next) {
          case '0' -> plain.append('\0');
          case 'b' -> plain.append('\b');
          case 'n' -> plain.append('\n');
          case 'r' -> plain.append('\r');
          case 't' -> plain.append('\t');
          case 'Z' -> plain.append('\u001a');
          case '%', '_' -> plain.append('\\').append(next);
          default -> plain.append(next);
        }
      } else {
        plain.append(c);
      }
    }
    return plain.toString();
  }

  /** {@code \0041}, {@code \+01F600} and {@code \\} (ISO/IEC 9075-2, 5.3). */
  private static Optional<String> unicode(String text) {
    StringBuilder plain = new StringBuilder();
    for (int at = 0; at < text.length(); at++) {
      if (text.charAt(at) != '\\') {
        plain.append(text.charAt(at));
      } else if (text.startsWith("\\", at + 1)) {
        plain.append('\\');
        at++;
      } else {
        boolean six = text.startsWith("+", at + 1);
        int from = at + (six ? 2 : 1);
        int to = from + (six ? 6 : 4);
        Optional<Integer> point = number(text, from, to, 16);
        if (point.isEmpty()) {
          return Optional.empty();
        }
        plain.appendCodePoint(point.get());
        at = to - 1;
      }
    }
    return Optional.of(plain.toString());
  }

  /** The character of exactly these digits. */
  private static Optional<Integer> number(String text, int from, int to, int radix) {
    if (to > text.length()) {
      return Optional.empty();
    }
    for (int at = from; at < to; at++) {
      if (Character.digit(text.charAt(at), radix) < 0 || text.charAt(at) > 'f') {
        return Optional.empty();
      }
    }
    int point = Integer.parseUnsignedInt(text.substring(from, to), radix);
    return Character.isValidCodePoint(point) ? Optional.of(point) : Optional.empty();
  }

  /**
   * A text with escapes: {@code E'a\tb'}. {@code \xE4} is a byte, of which several may make one
   * character.
   */
  private static Optional<String> escaped(String inner) {
    ByteArrayOutputStream bytes = new ByteArrayOutputStream();
    StringBuilder waiting = new StringBuilder();
    int at = 0;
    while (at < inner.length()) {
      char c = inner.charAt(at);
      if (c == '\'') {
        waiting.append('\'');
        at += 2;
        continue;
      }
      if (c != '\\' || at + 1 == inner.length()) {
        waiting.append(c);
        at++;
        continue;
      }
      char next = inner.charAt(at + 1);
      int letter = LETTERS.indexOf(next);
      int digits = digits(inner, at, next);
      if (next == 'u' || next == 'U') {
        int length = next == 'u' ? 4 : 8;
        Optional<Integer> point = number(inner, at + 2, at + 2 + length, 16);
        if (point.isEmpty()) {
          return Optional.empty();
        }
        waiting.appendCodePoint(point.get());
        at += 2 + length;
      } else if (digits > 0) {
        flush(waiting, bytes);
        int from = next == 'x' ? at + 2 : at + 1;
        int radix = next == 'x' ? 16 : 8;
        bytes.write(Integer.parseInt(inner.substring(from, from + digits), radix));
        at = from + digits;
      } else {
        waiting.append(letter >= 0 ? MEANT.charAt(letter) : next);
        at += 2;
      }
    }
    flush(waiting, bytes);
    try {
      return Optional.of(
          StandardCharsets.UTF_8
              .newDecoder()
              .decode(ByteBuffer.wrap(bytes.toByteArray()))
              .toString());
    } catch (CharacterCodingException noText) {
      return Optional.empty();
    }
  }

  /** How many digits of a byte follow: two hexadecimal ones behind x, three octal ones without. */
  private static int digits(String text, int at, char next) {
    boolean hex = next == 'x';
    int from = hex ? at + 2 : at + 1;
    int count = 0;
    while (count < (hex ? 2 : 3)
        && from + count < text.length()
        && Character.digit(text.charAt(from + count), hex ? 16 : 8) >= 0) {
      count++;
    }
    return count;
  }

  private static void flush(StringBuilder waiting, ByteArrayOutputStream bytes) {
    bytes.writeBytes(waiting.toString().getBytes(StandardCharsets.UTF_8));
    waiting.setLength(0);
  }
}
