package io.lantrel.sql.outgoing;

import java.util.List;
import java.util.stream.IntStream;

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

  /** Whether two texts consist of the same parts. */
  static boolean same(List<Lexeme> these, List<Lexeme> those) {
    return these.size() == those.size()
        && IntStream.range(0, these.size()).allMatch(i -> these.get(i).isSame(those.get(i)));
  }

  private boolean isSame(Lexeme other) {
    return kind == other.kind && value.equals(other.value);
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
