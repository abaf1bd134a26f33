package io.lantrel.sql;

import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.Span;
import java.util.List;

/** One statement of a text, between two semicolons. */
public sealed interface Statement {

  /** From its first to its last visible character, without the semicolon. */
  Span span();

  /**
   * A query that was read.
   *
   * @param span where it stands
   * @param query its tree
   */
  record QueryStatement(Span span, Query query) implements Statement {}

  /**
   * A text that begins like a query and could not be read: either it is wrong, or it uses something
   * that Lantrel does not know yet. Only a database can tell.
   *
   * @param span where it stands
   * @param problems where reading stopped; or all slips of the pen, if mending them lets reading go
   *     on to the end
   */
  record UnreadStatement(Span span, List<SyntaxProblem> problems) implements Statement {
    public UnreadStatement {
      problems = List.copyOf(problems);
    }
  }

  /**
   * A statement that is no query. It is never run.
   *
   * @param span where it stands
   * @param keyword its first word, or the one that tells that it is none
   * @param words what it is called, in capitals, as {@code DELETE} or {@code SELECT INTO}
   * @param query where a query begins within it; empty and at its end if there is none
   */
  record OtherStatement(Span span, Span keyword, String words, Span query) implements Statement {}
}
