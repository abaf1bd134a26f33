package io.lantrel.sql.outgoing;

import io.lantrel.sql.Dialect;
import java.nio.charset.StandardCharsets;
import java.util.HexFormat;
import java.util.List;

/**
 * Texts and quoted names as a product reads them, whatever its session is set to. What is harmless
 * everywhere stays as it is; a backslash or a control character is written by its number, since
 * settings decide what it means between quotes.
 */
final class SentText {

  /** What says that bytes behind it are a text in MariaDB. */
  static final String INTRODUCER = "_utf8mb4";

  private SentText() {}

  /** How a text is sent, and the lexemes that the product must see. */
  record Sent(String sql, List<Lexeme> lexemes) {}

  static Sent text(String value, Dialect dialect) {
    whole(value);
    boolean plain = value.chars().noneMatch(c -> minds((char) c, dialect));
    if (plain) {
      return new Sent(quoted(value), List.of(Lexeme.text(value)));
    }
    return switch (dialect) {
      case POSTGRESQL -> {
        if (value.indexOf('\0') >= 0) {
          throw new UnsendableException("PostgreSQL has no text with the character U+0000");
        }
        yield coded(value, dialect, "E'", "\\u");
      }
      case MARIADB ->
          new Sent(
              INTRODUCER
                  + " X'"
                  + HexFormat.of().formatHex(value.getBytes(StandardCharsets.UTF_8))
                  + "'",
              List.of(Lexeme.text(value)));
      case H2, HSQLDB, TRINO, STANDARD -> coded(value, dialect, "U&'", "\\");
      case SQLITE -> joined(value, "char");
      case DUCKDB -> joined(value, "chr");
    };
  }

  static String name(String name, Dialect dialect) {
    whole(name);
    if (name.indexOf('\0') >= 0) {
      throw new UnsendableException("a name cannot hold the character U+0000");
    }
    char quote = dialect == Dialect.MARIADB ? '`' : '"';
    return quote + name.replace("" + quote, "" + quote + quote) + quote;
  }

  /** Whether a character between quotes may mean something else to the product. */
  static boolean minds(char c, Dialect dialect) {
    return switch (dialect) {
      case SQLITE, DUCKDB -> c == 0;
      case POSTGRESQL, MARIADB, H2, HSQLDB, TRINO, STANDARD ->
          c == '\\' || Character.isISOControl(c);
    };
  }

  private static String quoted(String value) {
    return "'" + value.replace("'", "''") + "'";
  }

  private static Sent coded(String value, Dialect dialect, String open, String mark) {
    StringBuilder sql = new StringBuilder(open);
    for (int i = 0; i < value.length(); i++) {
      char c = value.charAt(i);
      if (minds(c, dialect)) {
        sql.append(mark).append(HexFormat.of().toHexDigits(c));
      } else {
        sql.append(c == '\'' ? "''" : String.valueOf(c));
      }
    }
    return new Sent(sql.append('\'').toString(), List.of(Lexeme.text(value)));
  }

  /** Neither of the two has a way to write U+0000 within a text. */
  private static Sent joined(String value, String function) {
    StringBuilder sql = new StringBuilder("(");
    List<Lexeme> lexemes = new java.util.ArrayList<>(List.of(Lexeme.sign("(")));
    String[] parts = value.split("\0", -1);
    for (int i = 0; i < parts.length; i++) {
      if (i > 0) {
        sql.append(" || ").append(function).append("(0) || ");
        lexemes.addAll(
            List.of(
                Lexeme.sign("||"),
                Lexeme.word(function),
                Lexeme.sign("("),
                new Lexeme(Lexeme.Kind.NUMBER, "0"),
                Lexeme.sign(")"),
                Lexeme.sign("||")));
      }
      sql.append(quoted(parts[i]));
      lexemes.add(Lexeme.text(parts[i]));
    }
    lexemes.add(Lexeme.sign(")"));
    return new Sent(sql.append(')').toString(), lexemes);
  }

  /** Half a character cannot be sent: no encoding has it. */
  private static void whole(String text) {
    for (int i = 0; i < text.length(); i++) {
      char c = text.charAt(i);
      boolean pair =
          Character.isHighSurrogate(c)
              && i + 1 < text.length()
              && Character.isLowSurrogate(text.charAt(i + 1));
      if (pair) {
        i++;
      } else if (Character.isSurrogate(c)) {
        throw new UnsendableException(
            "a text holds half a character (" + String.format("U+%04X", (int) c) + ")");
      }
    }
  }
}
