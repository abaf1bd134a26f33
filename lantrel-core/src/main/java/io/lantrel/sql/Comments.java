package io.lantrel.sql;

import io.lantrel.sql.grammar.SqlLexer;
import io.lantrel.sql.tree.Span;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.antlr.v4.runtime.CharStreams;
import org.antlr.v4.runtime.Token;

/** The comments of a text, as its product tells them from what it reads. */
public final class Comments {

  /** How long the signs are that a comment begins with. */
  private static final Map<Integer, Integer> OPENING =
      Map.of(
          SqlLexer.LINE_COMMENT, 2,
          SqlLexer.HASH_COMMENT, 1,
          SqlLexer.SLASH_COMMENT, 2,
          SqlLexer.BLOCK_COMMENT, 2);

  private Comments() {}

  /** What stands in each comment, without the signs around it, in the order of the text. */
  public static List<Span> of(SourceText source, Dialect dialect) {
    Offsets offsets = Offsets.of(source.text());
    SqlLexer lexer = new SqlLexer(CharStreams.fromString(source.text()));
    lexer.setRules(dialect.lexicalRules());
    lexer.removeErrorListeners();
    List<Span> comments = new ArrayList<>();
    for (Token token = lexer.nextToken(); token.getType() != Token.EOF; token = lexer.nextToken()) {
      if (token.getChannel() != Token.DEFAULT_CHANNEL && OPENING.containsKey(token.getType())) {
        Span whole = offsets.span(token, token);
        int end = whole.end() - (token.getType() == SqlLexer.BLOCK_COMMENT ? 2 : 0);
        comments.add(new Span(whole.start() + OPENING.getOrDefault(token.getType(), 0), end));
      }
    }
    return comments;
  }

  /**
   * The comments that belong to each statement of a text: those within it, on its last line, or
   * before it; what stands behind all belongs to the last.
   *
   * @param statements where the statements stand, in order
   */
  public static List<List<Span>> ofStatements(
      SourceText source, List<Span> statements, Dialect dialect) {
    List<List<Span>> all = new ArrayList<>();
    statements.forEach(statement -> all.add(new ArrayList<>()));
    int next = 0;
    for (Span comment : of(source, dialect)) {
      while (next < statements.size() && statements.get(next).end() <= comment.start()) {
        next++;
      }
      if (!statements.isEmpty()) {
        all.get(owner(source, statements, comment, next)).add(comment);
      }
    }
    return all;
  }

  /**
   * To which statement a comment belongs.
   *
   * @param next the first that does not end before it
   */
  private static int owner(SourceText source, List<Span> statements, Span comment, int next) {
    boolean within = next < statements.size() && statements.get(next).start() < comment.start();
    boolean behind =
        !within
            && next > 0
            && source.line(statements.get(next - 1).end()) == source.line(comment.start());
    return behind || next == statements.size() ? next - 1 : next;
  }
}
