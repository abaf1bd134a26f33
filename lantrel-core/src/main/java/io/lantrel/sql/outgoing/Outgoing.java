package io.lantrel.sql.outgoing;

import io.lantrel.sql.Dialect;
import io.lantrel.sql.SqlPrinter;
import io.lantrel.sql.outgoing.Lexeme.Kind;
import io.lantrel.sql.outgoing.LexemeReader.Piece;
import io.lantrel.sql.tree.Query;
import java.util.ArrayList;
import java.util.List;

/** The one way out: statements as they are sent. */
public final class Outgoing {

  /** Characters of one statement that are still sent. */
  public static final int LONGEST = 4_000_000;

  private Outgoing() {}

  /**
   * A query as one product is to read it.
   *
   * @throws UnsendableException if the product would, or might, read something else
   */
  public static String statement(Query query, Dialect dialect) {
    return sent(SqlPrinter.printPlain(query, dialect), dialect);
  }

  /**
   * Any statement that Lantrel puts together from printed parts, for a database of its own.
   *
   * @param printed with names in double quotes and texts in single ones
   * @throws UnsendableException as for a query
   */
  public static String sent(String printed, Dialect dialect) {
    if (printed.length() > LONGEST) {
      throw new UnsendableException(
          "the statement has "
              + printed.length()
              + " characters, and no more than "
              + LONGEST
              + " are sent");
    }
    StringBuilder sql = new StringBuilder(printed.length() + 16);
    List<Lexeme> meant = new ArrayList<>();
    int done = 0;
    for (Piece piece : LexemeReader.readPrinted(printed, dialect)) {
      sql.append(printed, done, piece.start());
      done = piece.end();
      Lexeme lexeme = piece.lexeme();
      if (lexeme.kind() == Kind.TEXT) {
        SentText.Sent text = SentText.text(lexeme.value(), dialect);
        sql.append(text.sql());
        meant.addAll(text.lexemes());
      } else {
        sql.append(
            lexeme.kind() == Kind.NAME
                ? SentText.name(lexeme.value(), dialect)
                : printed.substring(piece.start(), piece.end()));
        meant.add(lexeme);
      }
    }
    String result = sql.append(printed, done, printed.length()).toString();
    if (!LexemeReader.readSent(result, dialect).equals(meant)) {
      throw new UnsendableException(
          LexemeReader.title(dialect) + " would read this query differently, so it was not sent");
    }
    return result;
  }
}
