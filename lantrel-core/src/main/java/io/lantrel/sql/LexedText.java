package io.lantrel.sql;

import io.lantrel.sql.tree.Span;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Stream;
import org.antlr.v4.runtime.Token;

/**
 * A part of a text, between two nodes of its tree, as its product reads it: what stands in comments
 * and quotes is no word.
 */
public final class LexedText {

  private final Span part;
  private final String text;
  private final List<Token> tokens;
  private final Offsets offsets;

  /**
   * @param part begins and ends outside of comments and quotes
   */
  public LexedText(SourceText source, Span part, Dialect dialect) {
    this.part = part;
    this.text = source.at(part);
    SourceText own = new SourceText(text);
    this.tokens = Tokens.statements(own, dialect).stream().flatMap(List::stream).toList();
    this.offsets = Offsets.of(text);
  }

  /** The last of a word or sign in it, whatever its case; empty if there is none. */
  public Optional<Span> last(String word) {
    return places(word).reduce((earlier, later) -> later);
  }

  /** The first of a word or sign in it, whatever its case; empty if there is none. */
  public Optional<Span> first(String word) {
    return places(word).findFirst();
  }

  /** What stands between the words and signs, and is no blank: the comments, in order. */
  public List<String> comments() {
    List<String> found = new ArrayList<>();
    int done = 0;
    for (Token token : tokens) {
      Span span = offsets.span(token, token);
      found.add(text.substring(done, span.start()));
      done = span.end();
    }
    found.add(text.substring(done));
    return found.stream().map(String::strip).filter(each -> !each.isEmpty()).toList();
  }

  private Stream<Span> places(String word) {
    String wanted = word.toUpperCase(Locale.ROOT);
    return tokens.stream()
        .map(token -> offsets.span(token, token))
        .filter(
            span ->
                text.substring(span.start(), span.end()).toUpperCase(Locale.ROOT).equals(wanted))
        .map(span -> new Span(part.start() + span.start(), part.start() + span.end()));
  }
}
