package io.lantrel.check.inspection;

import io.lantrel.catalog.Catalog;
import io.lantrel.resolve.Resolver;
import io.lantrel.sql.Edit;
import io.lantrel.sql.Place;
import io.lantrel.sql.SourceText;
import io.lantrel.sql.SqlReader;
import io.lantrel.sql.Statement;
import io.lantrel.sql.SyntaxProblem;
import java.util.List;

/**
 * Whether a text that could not be read is wrong. No database is asked: what was not read is not
 * sent, not even to be planned.
 */
final class UnreadText {

  private UnreadText() {}

  /** It is wrong if it is a slip of the pen, and means something once that is mended. */
  static boolean isWrong(SourceText source, Statement.UnreadStatement unread, Catalog catalog) {
    return unread.problems().stream().allMatch(SyntaxProblem::isSlip)
        && meansSomethingMended(source, unread, catalog);
  }

  /** Why it was not checked, if it is not known to be wrong. */
  static String reason(SourceText source, Statement.UnreadStatement unread) {
    SyntaxProblem first = unread.problems().get(0);
    Place place = source.place(first.place());
    String beyond = source.at(first.place());
    String where =
        "line "
            + place.line()
            + ", column "
            + place.column()
            + (beyond.isEmpty() ? "" : ", from " + beyond + " on");
    return "Lantrel does not read this statement: " + where + ": " + first.message();
  }

  /**
   * Whether all names mean something once the slips are mended. If they do not, the words are more
   * likely some product's own than a slip.
   */
  private static boolean meansSomethingMended(
      SourceText source, Statement.UnreadStatement unread, Catalog catalog) {
    int start = unread.span().start();
    List<Edit> edits =
        unread.problems().stream()
            .flatMap(problem -> problem.guesses().stream().limit(1))
            .map(edit -> edit.shifted(-start))
            .toList();
    boolean quoted = edits.stream().anyMatch(edit -> edit.text().startsWith("\""));
    if (edits.isEmpty() || quoted || edits.size() < unread.problems().size()) {
      return true;
    }
    if (!Edit.areApart(edits)) {
      return false;
    }
    SourceText mended = new SourceText(Edit.apply(source.at(unread.span()), edits));
    List<Statement> statements = SqlReader.read(mended, catalog.dialect());
    return statements.size() != 1
        || !(statements.get(0) instanceof Statement.QueryStatement query)
        || Resolver.resolve(query.query(), catalog).problems().isEmpty();
  }
}
