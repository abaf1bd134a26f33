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
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Edit;
import io.lantrel.sql.SqlPrinter;
import io.lantrel.sql.tree.Call;
import io.lantrel.sql.tree.Expression;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

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
    String ending =
        ". Group by "
            + (one ? "it" : "them")
            + " as well, or say which value is meant, as with MIN or MAX.";
    String message =
        isDetermined(problem, subject.block())
            ? byKey(columns) + ending
            : rows + ", but " + "they can differ in " + columns + ending;
    return Suspicion.certain(
        Kind.UNGROUPED_COLUMN,
        problem.place(),
        new Conclusion(Severity.ERROR, message, Evidence.NONE, repairs(problem, subject)));
  }

  /** Whether a group has one value all the same, which this product does not work out. */
  private static boolean isDetermined(UngroupedColumns problem, QueryBlock block) {
    Set<UseColumn> grouped = new HashSet<>();
    block.grouping().forEach(item -> block.column(item).ifPresent(grouped::add));
    return problem.columns().stream().allMatch(column -> block.determines(grouped, column));
  }

  private static String byKey(String columns) {
    return "By its key a group has one " + columns + ", but the database does not work that out";
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
