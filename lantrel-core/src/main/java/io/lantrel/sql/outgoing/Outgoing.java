package io.lantrel.sql.outgoing;

import io.lantrel.sql.Dialect;
import io.lantrel.sql.SqlPrinter;
import io.lantrel.sql.outgoing.Lexeme.Kind;
import io.lantrel.sql.outgoing.LexemeReader.Piece;
import io.lantrel.sql.tree.Condition;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.QueryBody;
import java.util.ArrayList;
import java.util.List;

/** The one way out: statements as they are sent. */
public final class Outgoing {

  /** Characters of one statement that are still sent. */
  public static final int LONGEST = 4_000_000;

  /**
   * Terms of one AND, OR or UNION that are still sent: engines plan some thousands in a second,
   * many more in minutes, and cannot be stopped while they do.
   */
  public static final int MOST_TERMS = 5_000;

  /** Joins of one statement that are still sent. */
  public static final int MOST_JOINS = 1_000;

  private Outgoing() {}

  /**
   * A query as one product is to read it.
   *
   * @throws UnsendableException if the product would, or might, read something else
   */
  public static String statement(Query query, Dialect dialect) {
    bounded(query);
    return sent(SqlPrinter.printPlain(query, dialect), dialect);
  }

  private static void bounded(Query query) {
    long joins = 0;
    for (Node node : (Iterable<Node>) query.preorder()::iterator) {
      joins += node instanceof FromItem.Join ? 1 : 0;
      boolean inRow =
          node instanceof Condition.And
              || node instanceof Condition.Or
              || node instanceof QueryBody.SetOperation;
      if (inRow && node.children().size() > MOST_TERMS) {
        throw new UnsendableException(
            node.children().size()
                + " conditions or queries stand in a row, and no more than "
                + MOST_TERMS
                + " are sent");
      }
    }
    if (joins > MOST_JOINS) {
      throw new UnsendableException(
          "the statement has " + joins + " joins, and no more than " + MOST_JOINS + " are sent");
    }
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
    if (!Lexeme.same(LexemeReader.readSent(result, dialect), meant)) {
      throw new UnsendableException(
          LexemeReader.title(dialect) + " would read this query differently, so it was not sent");
    }
    return result;
  }
}
