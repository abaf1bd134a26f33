package io.lantrel.sql;

import io.lantrel.sql.grammar.SqlLexer;
import io.lantrel.sql.tree.Identifier;
import io.lantrel.sql.tree.Span;
import java.util.List;
import org.antlr.v4.runtime.Token;

/** A short text in plain words that uses the names and values of SQL, cut as a product cuts SQL. */
public final class Phrase {

  private final String text;
  private final List<Word> words;

  /**
   * One word or sign.
   *
   * @param span where it stands
   * @param text as it is written; of a name in quotes, the name itself
   * @param kind what it can be
   */
  public record Word(Span span, String text, Kind kind) {

    /** Whether it is a certain word of the phrase, whatever its case. */
    public boolean is(String word) {
      return kind == Kind.WORD && text.equalsIgnoreCase(word);
    }

    /** It as a name. */
    public Identifier name() {
      return new Identifier(span, text, kind == Kind.QUOTED);
    }
  }

  /** What words can be. */
  public enum Kind {
    /** A word or a plain name. */
    WORD,
    /** A name in quotes. */
    QUOTED,
    /** A number without sign. */
    NUMBER,
    /** Anything else. */
    OTHER
  }

  private Phrase(String text, List<Word> words) {
    this.text = text;
    this.words = List.copyOf(words);
  }

  /** Cuts a text. */
  public static Phrase of(String text, Dialect dialect) {
    Offsets offsets = Offsets.of(text);
    List<Word> words =
        Tokens.statements(new SourceText(text), dialect).stream()
            .flatMap(List::stream)
            .map(token -> word(token, offsets, text))
            .toList();
    return new Phrase(text, words);
  }

  private static Word word(Token token, Offsets offsets, String text) {
    Span span = offsets.span(token, token);
    String written = text.substring(span.start(), span.end());
    if (token.getType() == SqlLexer.QUOTED_NAME) {
      return new Word(span, unquoted(token.getText()), Kind.QUOTED);
    }
    if (token.getType() == SqlLexer.NUMBER) {
      return new Word(span, written, Kind.NUMBER);
    }
    boolean word = Character.isLetter(written.codePointAt(0)) || written.startsWith("_");
    return new Word(
        span,
        written,
        word && token.getType() != SqlLexer.STRING && written.indexOf('\'') < 0
            ? Kind.WORD
            : Kind.OTHER);
  }

  /** Names in quotes come with double ones, whatever their product writes. */
  private static String unquoted(String name) {
    String inner = name.length() > 2 ? name.substring(1, name.length() - 1) : name;
    char quote = name.charAt(0);
    return quote == '"' || quote == '`'
        ? inner.replace(String.valueOf(quote).repeat(2), String.valueOf(quote))
        : inner;
  }

  /** The whole text. */
  public String text() {
    return text;
  }

  /** Its words and signs, in order. */
  public List<Word> words() {
    return words;
  }
}
