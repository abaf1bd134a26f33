package io.lantrel.check.kinds;

import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.sql.Edit;
import io.lantrel.sql.SourceText;
import io.lantrel.sql.Statement;
import io.lantrel.sql.tree.Span;
import io.lantrel.words.Words;
import java.util.List;

/** A statement that is no query. It was not run, and never will be. */
public final class NotAQuery {

  private NotAQuery() {}

  /** The finding; its repair is the query within the statement, or the rows that it would hit. */
  public static Suspicion suspect(SourceText source, Statement.OtherStatement other) {
    String message =
        other.words()
            + " is not a query, and Lantrel runs nothing else; it was not run."
            + (other.words().equals("DELETE")
                ? " Write it as a SELECT to see the rows that it would remove."
                : other.query().length() > 0 ? " The query within it can be checked alone." : "");
    return Suspicion.certain(
        Kind.NOT_A_QUERY,
        other.keyword(),
        new Conclusion(Severity.ERROR, message, Evidence.NONE, repairs(source, other)));
  }

  private static List<List<Edit>> repairs(SourceText source, Statement.OtherStatement other) {
    if (other.words().equals("DELETE")) {
      String select = Words.like(source.at(other.keyword()), "SELECT") + " *";
      return List.of(List.of(new Edit(other.keyword(), select)));
    }
    Span before = new Span(other.keyword().start(), other.query().start());
    return other.query().length() == 0 ? List.of() : List.of(List.of(new Edit(before, "")));
  }
}
