package io.lantrel.check.kinds;

import io.lantrel.check.Conclusion;
import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.Suspicion;
import io.lantrel.sql.Edit;
import io.lantrel.sql.Statement;
import io.lantrel.sql.SyntaxProblem;
import java.util.List;
import java.util.Locale;

/** A text that is not SQL: the place, what was found, what could stand there. */
public final class Syntax {

  private Syntax() {}

  /** The findings for a statement that can be read neither by Lantrel nor by the database. */
  public static List<Suspicion> suspect(Statement.UnreadStatement unread) {
    return unread.problems().stream().map(Syntax::suspect).toList();
  }

  private static Suspicion suspect(SyntaxProblem problem) {
    String message =
        problem.message().substring(0, 1).toUpperCase(Locale.ROOT) + problem.message().substring(1);
    List<List<Edit>> guesses = problem.guesses().stream().map(List::of).toList();
    return Suspicion.certain(
        Kind.SYNTAX,
        problem.place(),
        new Conclusion(Severity.ERROR, message + ".", Evidence.NONE, guesses));
  }
}
