package io.lantrel.check.kinds;

import io.lantrel.catalog.Catalog;
import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.sql.Edit;
import io.lantrel.sql.SourceText;
import io.lantrel.sql.Statement;
import io.lantrel.sql.SyntaxProblem;
import io.lantrel.sql.tree.Span;
import java.util.List;
import java.util.Locale;

/** A text that is not SQL: the place, what was found, what could stand there. */
public final class Syntax {

  private Syntax() {}

  /** The findings for a statement that can be read neither by Lantrel nor by the database. */
  public static List<Suspicion> suspect(
      Statement.UnreadStatement unread, SourceText source, Catalog catalog) {
    return unread.problems().stream()
        .map(
            problem ->
                isMissingCondition(problem)
                    ? missingCondition(problem, source, unread.span(), catalog)
                    : suspect(
                        problem,
                        problem.message(),
                        problem.guesses().stream().map(List::of).toList()))
        .toList();
  }

  private static boolean isMissingCondition(SyntaxProblem problem) {
    return problem.isSlip()
        && !problem.guesses().isEmpty()
        && problem.guesses().get(0).text().equals(SyntaxProblem.ANY_CONDITION);
  }

  private static Suspicion missingCondition(
      SyntaxProblem problem, SourceText source, Span statement, Catalog catalog) {
    List<String> conditions = MissingCondition.conditions(problem, source, statement, catalog);
    int at = problem.guesses().get(0).span().start();
    List<List<Edit>> repairs =
        conditions.stream().map(each -> List.of(Edit.insert(at, " ON " + each))).toList();
    String message =
        "the ON of this join is missing"
            + (conditions.isEmpty()
                ? "; say which rows belong together"
                : "; by the references it would be " + String.join(" or ", conditions));
    return suspect(problem, message, repairs);
  }

  private static Suspicion suspect(
      SyntaxProblem problem, String message, List<List<Edit>> repairs) {
    String sentence = message.substring(0, 1).toUpperCase(Locale.ROOT) + message.substring(1);
    return Suspicion.certain(
        Kind.SYNTAX,
        problem.place(),
        new Conclusion(Severity.ERROR, sentence + ".", Evidence.NONE, repairs));
  }
}
