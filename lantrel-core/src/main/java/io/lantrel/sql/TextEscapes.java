package io.lantrel.sql;

/**
 * Texts that products write in ways of their own, as plain constants in quotes: these are read
 * alike everywhere, so no engine can see the end of the text where Lantrel does not.
 */
final class TextEscapes {

  private static final String LETTERS = "bfnrt";
  private static final String MEANT = "\b\f\n\r\t";

  private TextEscapes() {}

  /** A text between dollar marks: {@code $$it's$$}. */
  static String ofDollars(String marked) {
    int mark = marked.indexOf('$', 1) + 1;
    return quoted(marked.substring(mark, Math.max(mark, marked.length() - mark)));
  }

  /** A text with escapes: {@code E'a\tb'}. */
  static String ofEscapes(String text) {
    StringBuilder plain = new StringBuilder();
    int at = 2;
    int end = text.length() - 1;
    while (at < end) {
      char c = text.charAt(at);
      if (c == '\'') {
        plain.append('\'');
        at += 2;
      } else if (c == '\\' && at + 1 < end) {
        at = escape(text, at + 1, end, plain);
      } else {
        plain.append(c);
        at++;
      }
    }
    return quoted(plain.toString());
  }

  /** Reads what follows a backslash; returns where the text goes on. */
  private static int escape(String text, int at, int end, StringBuilder plain) {
    char c = text.charAt(at);
    int letter = LETTERS.indexOf(c);
    if (letter >= 0) {
      plain.append(MEANT.charAt(letter));
      return at + 1;
    }
    return switch (c) {
      case 'x' -> number(text, at, at + 1, Math.min(end, at + 3), 16, plain);
      case 'u' -> number(text, at, at + 1, Math.min(end, at + 5), 16, plain);
      case 'U' -> number(text, at, at + 1, Math.min(end, at + 9), 16, plain);
      case '0', '1', '2', '3', '4', '5', '6', '7' ->
          number(text, at, at, Math.min(end, at + 3), 8, plain);
      default -> {
        plain.append(c);
        yield at + 1;
      }
    };
  }

  /** A character by its number; the letter itself if no digit follows. */
  private static int number(
      String text, int letter, int from, int most, int radix, StringBuilder plain) {
    int to = from;
    while (to < most && Character.digit(text.charAt(to), radix) >= 0) {
      to++;
    }
    int point = to == from ? 0 : Integer.parseUnsignedInt(text.substring(from, to), radix);
    if (to == from || !Character.isValidCodePoint(point) || point == 0) {
      plain.append(text.charAt(letter));
      return letter + 1;
    }
    plain.appendCodePoint(point);
    return to;
  }

  private static String quoted(String plain) {
    return "'" + plain.replace("'", "''") + "'";
  }
}
