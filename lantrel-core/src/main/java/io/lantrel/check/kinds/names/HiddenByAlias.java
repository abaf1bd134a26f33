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
import io.lantrel.sql.Dialect;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Identifier;
import java.util.List;
import java.util.Optional;

/** A table still called by its name after it got an alias. */
public final class HiddenByAlias implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    return subject.problems(NameProblem.HiddenByAlias.class).map(HiddenByAlias::suspicion).toList();
  }

  private static Suspicion suspicion(NameProblem.HiddenByAlias problem) {
    TableUse use = problem.use();
    Optional<Identifier> around = problem.around();
    Dialect dialect = problem.block().dialect();
    String alias = around.map(dialect::stored).orElse(use.name());
    String message =
        around
                .map(
                    name ->
                        "The joins in parentheses go by "
                            + alias
                            + ", which hides the names within them")
                .orElse(
                    "Here "
                        + use.rowWord()
                        + " goes by its alias "
                        + alias
                        + ", which hides the name "
                        + use.rowWord())
            + "; write "
            + alias
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
            List.of(List.of(new Edit(problem.place(), dialect.write(alias))))));
  }
}
