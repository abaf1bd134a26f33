package io.lantrel.sql.outgoing;

import io.lantrel.sql.Dialect;
import io.lantrel.sql.Dialect.Rule;
import io.lantrel.sql.outgoing.Lexeme.Kind;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/**
 * Cuts a statement into its lexemes as one product does, and refuses whatever could be read in two
 * ways: comments, semicolons, escapes outside of texts, marks of parameters, control characters, a
 * text that begins right behind a word. One pass, whatever the text.
 */
final class LexemeReader {

  /** A lexeme and where it stands: half-open offsets. */
  record Piece(Lexeme lexeme, int start, int end) {}

  private final String sql;
  private final Dialect dialect;
  private final boolean plain;
  private final List<Piece> pieces = new ArrayList<>();
  private int at;

  /**
   * @param plain whether texts and names are in the one form of the printer, and not in the
   *     product's own
   */
  private LexemeReader(String sql, Dialect dialect, boolean plain) {
    this.sql = sql;
    this.dialect = dialect;
    this.plain = plain;
  }

  /** The lexemes of what the printer wrote. */
  static List<Piece> readPrinted(String sql, Dialect dialect) {
    return new LexemeReader(sql, dialect, true).read();
  }

  /** The lexemes of what is sent, as the product reads them. */
  static List<Lexeme> readSent(String sql, Dialect dialect) {
    return new LexemeReader(sql, dialect, false).read().stream().map(Piece::lexeme).toList();
  }

  private List<Piece> read() {
    while (at < sql.length()) {
      char c = sql.charAt(at);
      if (c == ' ') {
        at++;
      } else if (c == '\'') {
        text(at, at);
      } else if (isNameQuote(c)) {
        name(c);
      } else if (isDigit(c) || (c == '.' && isDigit(next(1)) && !isBehindName())) {
        number();
      } else if (isLetter(c)) {
        word();
      } else if (c == '@' && isVariable()) {
        variable();
      } else if (Signs.ALONE.indexOf(c) >= 0) {
        add(Lexeme.sign(String.valueOf(c)), at, at + 1);
      } else if (Signs.IN_RUNS.indexOf(c) >= 0) {
        signs();
      } else {
        throw refused(c);
      }
    }
    return pieces;
  }

  private boolean isNameQuote(char c) {
    return c == (plain || dialect != Dialect.MARIADB ? '"' : '`');
  }

  private static boolean isDigit(char c) {
    return c >= '0' && c <= '9';
  }

  private static boolean isLetter(char c) {
    return (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z') || c == '_';
  }

  private int endOfWord(int from) {
    int end = from;
    int length = sql.length();
    while (end < length) {
      char c = sql.charAt(end);
      if (!isLetter(c) && !isDigit(c)) {
        return end;
      }
      end++;
    }
    return end;
  }

  private char next(int ahead) {
    return at + ahead < sql.length() ? sql.charAt(at + ahead) : ' ';
  }

  /** {@code t.5} is no number behind t. */
  private boolean isBehindName() {
    if (pieces.isEmpty()) {
      return false;
    }
    Piece last = pieces.get(pieces.size() - 1);
    return last.end() == at && last.lexeme().kind() != Kind.SIGN;
  }

  private void add(Lexeme lexeme, int start, int end) {
    boolean grown = lexeme.kind() != Kind.SIGN;
    if (grown && !pieces.isEmpty()) {
      Piece last = pieces.get(pieces.size() - 1);
      if (last.end() == start && last.lexeme().kind() != Kind.SIGN) {
        throw new UnsendableException(
            "«" + sql.substring(last.start(), end) + "» can be read in several ways");
      }
    }
    pieces.add(new Piece(lexeme, start, end));
    at = end;
  }

  private void signs() {
    int end = at;
    while (end < sql.length() && Signs.IN_RUNS.indexOf(sql.charAt(end)) >= 0) {
      end++;
    }
    String sign = sql.substring(at, end);
    if (!Signs.has(dialect, sign)) {
      throw new UnsendableException(
          title(dialect) + " has no operator " + sign + ", or reads it in another way");
    }
    add(Lexeme.sign(sign), at, end);
  }

  private void number() {
    int end = at;
    boolean based =
        sql.charAt(at) == '0' && end + 1 < sql.length() && "xXoObB".indexOf(next(1)) >= 0;
    if (based) {
      end = endOfWord(end + 2);
    } else {
      end = digits(end);
      end = end < sql.length() && sql.charAt(end) == '.' ? digits(end + 1) : end;
      boolean exponent = end < sql.length() && (sql.charAt(end) == 'e' || sql.charAt(end) == 'E');
      if (exponent) {
        int sign = end + 1 < sql.length() && "+-".indexOf(sql.charAt(end + 1)) >= 0 ? 1 : 0;
        end = digits(end + 1 + sign);
      }
    }
    String number = sql.substring(at, end);
    boolean ours =
        (!based || dialect.has(Rule.NUMBERS_OF_OTHER_BASES))
            && (number.indexOf('_') < 0 || dialect.has(Rule.UNDERSCORES_IN_NUMBERS));
    if (!ours) {
      throw new UnsendableException(
          title(dialect) + " reads the number " + number + " in another way");
    }
    add(new Lexeme(Kind.NUMBER, number), at, end);
  }

  private int digits(int from) {
    int end = from;
    while (end < sql.length() && (isDigit(sql.charAt(end)) || sql.charAt(end) == '_')) {
      end++;
    }
    return end;
  }

  private void word() {
    int end = endOfWord(at);
    String word = sql.substring(at, end);
    boolean prefix = end < sql.length() && sql.charAt(end) == '\'';
    if (prefix && isPrefix(word)) {
      text(at, end);
    } else if (end == at + 1 && sql.startsWith("&'", end) && isPrefix(word + "&")) {
      text(at, end + 1);
    } else {
      add(Lexeme.word(word), at, end);
    }
  }

  /** {@code @name} and {@code @@name} of MariaDB, {@code @name} of H2. */
  private boolean isVariable() {
    char next = next(1);
    return dialect == Dialect.H2
        ? isLetter(next)
        : dialect == Dialect.MARIADB && (isLetter(next) || (next == '@' && isLetter(next(2))));
  }

  private void variable() {
    int end = at + 2;
    while (end < sql.length()
        && (isLetter(sql.charAt(end)) || isDigit(sql.charAt(end)) || sql.charAt(end) == '.')) {
      end++;
    }
    add(Lexeme.word(sql.substring(at, end)), at, end);
  }

  private boolean isPrefix(String word) {
    return switch (word.toUpperCase(Locale.ROOT)) {
      case "X", "B" -> true;
      case "E" -> !plain && dialect == Dialect.POSTGRESQL;
      case "U&" -> !plain && dialect.has(Rule.UNICODE_TEXTS);
      default -> false;
    };
  }

  private void name(char quote) {
    int end = endOfQuoted(at, quote);
    String inner = sql.substring(at + 1, end - 1);
    add(new Lexeme(Kind.NAME, inner.replace("" + quote + quote, "" + quote)), at, end);
  }

  /** A text, from its prefix on. */
  private void text(int start, int open) {
    int end = endOfQuoted(open, '\'');
    String inner = sql.substring(open + 1, end - 1).replace("''", "'");
    String prefix = sql.substring(start, open).toUpperCase(Locale.ROOT);
    boolean escapes = prefix.equals("E") || prefix.equals("U&");
    if (!plain && !escapes && inner.indexOf('\\') >= 0 && SentText.minds('\\', dialect)) {
      throw refused('\\');
    }
    if (prefix.equals("X") || prefix.equals("B")) {
      bits(prefix, inner, start, end);
    } else {
      add(Lexeme.text(escapes ? decoded(prefix, inner) : inner), start, end);
    }
  }

  private void bits(String prefix, String inner, int start, int end) {
    String allowed = prefix.equals("X") ? "0123456789ABCDEFabcdef " : "01 ";
    if (inner.chars().anyMatch(c -> allowed.indexOf(c) < 0)) {
      throw new UnsendableException("in a constant of bits stands something else");
    }
    Piece last = pieces.isEmpty() ? null : pieces.get(pieces.size() - 1);
    if (!plain && isIntroduced(last) && last != null) {
      pieces.remove(pieces.size() - 1);
      String value = new String(HexFormat.of().parseHex(inner), StandardCharsets.UTF_8);
      add(Lexeme.text(value), last.start(), end);
    } else {
      add(new Lexeme(Kind.BITS, prefix + inner), start, end);
    }
  }

  /** {@code _utf8mb4 X'41'} is a text of MariaDB. */
  private boolean isIntroduced(@Nullable Piece last) {
    return dialect == Dialect.MARIADB
        && last != null
        && last.lexeme().equals(Lexeme.word(SentText.INTRODUCER));
  }

  private int endOfQuoted(int open, char quote) {
    int end = open + 1;
    while (end < sql.length()) {
      if (sql.charAt(end) != quote) {
        if (sql.charAt(end) == 0 && !plain) {
          throw refused('\0');
        }
        end++;
      } else if (end + 1 < sql.length() && sql.charAt(end + 1) == quote) {
        end += 2;
      } else {
        return end + 1;
      }
    }
    throw new UnsendableException("a quote is opened and never closed");
  }

  private static String decoded(String prefix, String inner) {
    StringBuilder value = new StringBuilder();
    for (int i = 0; i < inner.length(); i++) {
      char c = inner.charAt(i);
      if (c == '\\') {
        int from = prefix.equals("E") ? i + 2 : i + 1;
        value.append((char) HexFormat.fromHexDigits(inner, from, from + 4));
        i = from + 3;
      } else {
        value.append(c);
      }
    }
    return value.toString();
  }

  static String title(Dialect dialect) {
    return switch (dialect) {
      case DUCKDB -> "DuckDB";
      case POSTGRESQL -> "PostgreSQL";
      case MARIADB -> "MariaDB";
      case SQLITE -> "SQLite";
      case H2 -> "H2";
      case HSQLDB -> "HSQLDB";
      case TRINO -> "Trino";
      case STANDARD -> "this database";
    };
  }

  private static UnsendableException refused(char c) {
    String shown = c > ' ' && c < 127 ? String.valueOf(c) : String.format("U+%04X", (int) c);
    return new UnsendableException(
        "the sign " + shown + " stands where databases differ in how they read it");
  }
}
