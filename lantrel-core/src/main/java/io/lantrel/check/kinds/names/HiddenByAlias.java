package io.lantrel.check.kinds.names;

import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.resolve.NameProblem;
import io.lantrel.resolve.TableUse;
import io.lantrel.sql.Edit;
import java.util.List;

/** A table still called by its name after it got an alias. */
public final class HiddenByAlias implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    return subject.problems(NameProblem.HiddenByAlias.class).map(HiddenByAlias::suspicion).toList();
  }

  private static Suspicion suspicion(NameProblem.HiddenByAlias problem) {
    TableUse use = problem.use();
    String message =
        "Here "
            + use.rowWord()
            + " goes by its alias "
            + use.name()
            + ", which hides the name "
            + use.rowWord()
            + "; write "
            + use.name()
            + "."
            + problem.column().name().text()
            + ".";
    return Suspicion.certain(
        Kind.HIDDEN_BY_ALIAS,
        problem.place(),
        new Conclusion(
            Severity.ERROR,
            message,
            Evidence.NONE,
            List.of(List.of(new Edit(problem.place(), use.written())))));
  }
}
