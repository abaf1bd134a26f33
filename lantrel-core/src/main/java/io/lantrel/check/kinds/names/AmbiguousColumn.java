package io.lantrel.check.kinds.names;

import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.resolve.NameProblem;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.Edit;
import io.lantrel.words.Words;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/** A column name that several tables here have. */
public final class AmbiguousColumn implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    return subject
        .problems(NameProblem.AmbiguousColumn.class)
        .map(problem -> suspicion(problem, subject))
        .toList();
  }

  private static Suspicion suspicion(NameProblem.AmbiguousColumn problem, Subject subject) {
    // Best is the one that is never NULL: of the kept side, and not nullable in its table.
    List<UseColumn> candidates =
        problem.candidates().stream()
            .sorted(
                Comparator.comparing(
                        (UseColumn each) -> !subject.block().stepsThatFill(each.use()).isEmpty())
                    .thenComparing(UseColumn::nullable))
            .toList();
    String name = problem.column().name().text();
    Optional<UsingName> using = UsingName.at(problem.place(), problem.column().name(), subject);
    String message =
        name
            + " is in "
            + Words.list(problem.candidates().stream().map(AmbiguousColumn::where).toList())
            + using
                .map(
                    each ->
                        ", so that "
                            + (each.using().isPresent() ? "USING" : "NATURAL JOIN")
                            + " cannot tell which is meant; write ON.")
                .orElse("; say which, as in " + candidates.get(0).words() + ".");
    List<List<Edit>> repairs =
        using
            .map(each -> each.conditions(subject))
            .orElseGet(
                () -> candidates.stream().map(each -> List.of(qualified(problem, each))).toList());
    return Suspicion.certain(
        Kind.AMBIGUOUS_COLUMN,
        problem.place(),
        new Conclusion(
            using
                .map(each -> Severity.ERROR)
                .orElseGet(() -> subject.errorUnless(Dialect.Rule.FIRST_OF_ONE_NAME)),
            message,
            facts(candidates, subject),
            repairs));
  }

  private static String where(UseColumn column) {
    return column.use().words();
  }

  private static Edit qualified(NameProblem.AmbiguousColumn problem, UseColumn column) {
    return new Edit(problem.place(), column.written());
  }

  private static Evidence facts(List<UseColumn> candidates, Subject subject) {
    return Evidence.facts(
        candidates.stream()
            .map(
                each ->
                    each.words()
                        + " is "
                        + each.type().text()
                        + (subject.block().isNullable(each)
                            ? " and can be NULL here"
                            : " and never NULL"))
            .toList());
  }
}
