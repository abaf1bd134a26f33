package io.lantrel.check.kinds;

import io.lantrel.check.Check;
import io.lantrel.check.Conclusion;
import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.QueryEdits;
import io.lantrel.check.Severity;
import io.lantrel.check.Subject;
import io.lantrel.check.Suspicion;
import io.lantrel.probe.Words;
import io.lantrel.resolve.NameProblem;
import io.lantrel.resolve.NameProblem.UngroupedColumns;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.SqlPrinter;
import io.lantrel.sql.tree.Call;
import io.lantrel.sql.tree.Expression;
import java.util.List;

/** A column of groups whose rows need not agree in it. */
final class UngroupedColumn implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    return subject
        .problems(NameProblem.UngroupedColumns.class)
        .map(problem -> suspicion(problem, subject))
        .toList();
  }

  private static Suspicion suspicion(UngroupedColumns problem, Subject subject) {
    List<Expression> grouping = subject.block().select().groupBy();
    String columns = Words.list(problem.columns().stream().map(UseColumn::words).toList());
    boolean one = problem.columns().size() == 1;
    String rows =
        grouping.isEmpty()
            ? "The rows are put together to one"
            : "The rows of a group agree in "
                + Words.list(grouping.stream().map(SqlPrinter::print).toList());
    String message =
        rows
            + ", but "
            + "they can differ in "
            + columns
            + ". Group by "
            + (one ? "it" : "them")
            + " as well, or say which value is meant, as with MIN or MAX.";
    return Suspicion.certain(
        Kind.UNGROUPED_COLUMN,
        problem.place(),
        new Conclusion(Severity.ERROR, message, Evidence.NONE, repairs(problem, subject)));
  }

  private static List<List<Edit>> repairs(UngroupedColumns problem, Subject subject) {
    boolean sets =
        subject.block().select().groupBy().stream().anyMatch(Call.Grouping.class::isInstance);
    if (sets || subject.block().select().from() == null) {
      return List.of();
    }
    String columns = String.join(", ", problem.names().stream().map(SqlPrinter::print).toList());
    return List.of(List.of(new QueryEdits(subject).addGrouping(columns)));
  }
}
