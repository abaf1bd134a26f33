package io.lantrel.check.kinds.totals;

import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.resolve.NameProblem;
import io.lantrel.resolve.NameProblem.UngroupedColumns;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.TableUse;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.Dialect.Rule;
import io.lantrel.sql.Edit;
import io.lantrel.sql.SqlPrinter;
import io.lantrel.sql.tree.Call;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Value;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/** A column of groups whose rows need not agree in it. */
public final class UngroupedColumn implements Check {

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
                + Words.list(
                    grouping.stream()
                        .map(each -> SqlPrinter.print(each, subject.block().dialect()))
                        .toList());
    String ending =
        ". Group by "
            + (one ? "it" : "them")
            + " as well, or say which value is meant, as with MIN or MAX.";
    if (takesPositionForNumber(subject)) {
      return Suspicion.certain(
          Kind.UNGROUPED_COLUMN,
          problem.place(),
          new Conclusion(
              Severity.ERROR,
              "This engine takes a number in GROUP BY for that number, and not for the position of a"
                  + " column; name the column.",
              Evidence.NONE,
              List.of(named(subject))));
    }
    Optional<Call.FunctionCall> within = subject.block().groupingSubquery();
    if (within.isPresent()) {
      return within(within.get(), columns, subject);
    }
    String message =
        isDetermined(problem, subject.block())
            ? byKey(columns) + ending
            : rows + ", but " + "they can differ in " + columns + ending;
    return Suspicion.certain(
        Kind.UNGROUPED_COLUMN,
        problem.place(),
        new Conclusion(Severity.ERROR, message, Evidence.NONE, repairs(problem, subject)));
  }

  /** Seldom meant: mostly the column was to be one of the subquery's own tables. */
  private static Suspicion within(Call.FunctionCall call, String columns, Subject subject) {
    String message =
        subject.text(call)
            + " is over columns of "
            + Words.list(subject.block().mentioned(call).stream().map(TableUse::words).toList())
            + " alone, so it puts the rows outside of this subquery together to one, which can differ"
            + " in "
            + columns
            + ". Name a column of a table of the subquery in it.";
    return Suspicion.certain(
        Kind.UNGROUPED_COLUMN,
        call.span(),
        new Conclusion(Severity.ERROR, message, Evidence.NONE, List.of()));
  }

  private static boolean takesPositionForNumber(Subject subject) {
    return !subject.block().dialect().has(Rule.POSITIONS_IN_GROUP_BY)
        && subject.block().select().groupBy().stream()
            .anyMatch(item -> position(item, subject.block()) > 0);
  }

  /** The position that an item of GROUP BY would be elsewhere, from 1; 0 for any other item. */
  private static int position(Expression item, QueryBlock block) {
    boolean number =
        item instanceof Value.Literal literal
            && literal.kind() == Value.LiteralKind.NUMBER
            && literal.text().matches("[1-9][0-9]{0,3}");
    int position = number ? Integer.parseInt(((Value.Literal) item).text()) : 0;
    return position <= block.outputs().size() ? position : 0;
  }

  private static List<Edit> named(Subject subject) {
    List<Edit> edits = new ArrayList<>();
    for (Expression item : subject.block().select().groupBy()) {
      int position = position(item, subject.block());
      if (position > 0) {
        Expression meant = subject.block().outputs().get(position - 1).value();
        edits.add(new Edit(item.span(), subject.source().at(meant.span())));
      }
    }
    return edits;
  }

  /** Whether a group has one value all the same, which this product does not work out. */
  private static boolean isDetermined(UngroupedColumns problem, QueryBlock block) {
    Set<UseColumn> grouped = block.groupColumns();
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
    String columns =
        String.join(
            ", ",
            problem.names().stream()
                .map(each -> SqlPrinter.print(each, subject.block().dialect()))
                .toList());
    return List.of(List.of(subject.edits().addGrouping(columns)));
  }
}
