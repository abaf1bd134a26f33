package io.lantrel.sql.outgoing;

/**
 * The smallest part of a statement that means something (ISO/IEC 9075-2, 5.2, token).
 *
 * @param kind what it is
 * @param value a word, sign or number as written; what a text or a quoted name stands for
 */
record Lexeme(Kind kind, String value) {

  /** The kinds. */
  enum Kind {
    WORD,
    /** A name in quotes. */
    NAME,
    TEXT,
    /** {@code X'41'}, {@code B'01'}. */
    BITS,
    NUMBER,
    SIGN
  }

  static Lexeme word(String text) {
    return new Lexeme(Kind.WORD, text);
  }

  static Lexeme sign(String text) {
    return new Lexeme(Kind.SIGN, text);
  }

  static Lexeme text(String value) {
    return new Lexeme(Kind.TEXT, value);
  }
}
