package io.lantrel.check.kinds.totals;

import io.lantrel.catalog.TypeFamily;
import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.BaseColumn;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.engine.SampleData;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.probe.Relation;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Expression;
import io.lantrel.sql.tree.Query;
import io.lantrel.words.Words;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * MIN or MAX of a reference under a heading that speaks of the first or the last row: {@code
 * MIN(depot_id) AS first_depot} is the depot of the least number, wherever the way began.
 */
public final class FirstOfReferences implements Check {

  private static final Set<String> OF_AN_ORDER =
      Set.of("first", "last", "latest", "earliest", "newest", "oldest", "recent");

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    if (subject.rows().isEmpty() || !block.isGrouped() || block.isCorrelated()) {
      return List.of();
    }
    return block.outputs().stream()
        .flatMap(output -> of(output, subject).stream())
        .limit(1)
        .map(each -> each.suspicion(subject))
        .toList();
  }

  private static Optional<First> of(OutputColumn output, Subject subject) {
    boolean speaks = Words.ofName(output.name()).stream().anyMatch(OF_AN_ORDER::contains);
    if (!speaks
        || !(output.value() instanceof FunctionCall call)
        || !Set.of("min", "max").contains(call.key())
        || call.arguments().size() != 1
        || call.filter() != null
        || call.over() != null) {
      return Optional.empty();
    }
    return subject
        .ownColumn(call.arguments().get(0))
        .filter(column -> !BaseColumn.referred(column, subject.catalog()).isEmpty())
        .flatMap(column -> order(column).map(order -> new First(output, call, column, order)));
  }

  /** What puts the rows in order: a time, or a number that is a part of their key. */
  private static Optional<UseColumn> order(UseColumn reference) {
    List<UseColumn> columns = reference.use().columns();
    List<UseColumn> key = reference.use().keyColumns();
    return columns.stream()
        .filter(each -> each.type().family().isOfTime())
        .findFirst()
        .or(
            () ->
                key.size() < 2
                    ? Optional.empty()
                    : key.stream()
                        .filter(each -> each.type().family() == TypeFamily.INTEGER)
                        .reduce((one, next) -> next)
                        .filter(each -> !each.equals(reference)));
  }

  /**
   * What is called the first or the last.
   *
   * @param order by what the rows come one after another
   */
  private record First(OutputColumn output, FunctionCall call, UseColumn column, UseColumn order) {

    Suspicion suspicion(Subject subject) {
      return Suspicion.counting(
          Kind.VALUES_OF_SEVERAL_ROWS,
          call.span(),
          List.of(call.span()),
          several(subject.rows().orElseThrow()),
          count -> conclude(count, subject));
    }

    /** How many groups have more than one value to choose from. */
    private Question<Long> several(JoinedRows rows) {
      Relation kept = rows.kept(column.use()).relation();
      Expression value = rows.column(kept, column);
      var groups =
          kept.select(
              false,
              List.of(Sql.as(Sql.count(), "n")),
              null,
              rows.block().grouping().stream().map(each -> rows.value(kept, each)).toList(),
              Sql.greater(Sql.countDistinct(value), Sql.number(1)));
      return Question.numbers(
          kept,
          Query.of(
              Sql.select(
                  List.of(Sql.as(Sql.count(), "c0")),
                  Sql.derived(groups, SampleData.RESERVED + "groups"),
                  null)),
          1,
          row -> row.figure(0));
    }

    private Conclusion conclude(long count, Subject subject) {
      String message =
          subject.text(call)
              + " is the "
              + (call.key().equals("min") ? "least" : "greatest")
              + " number, and says nothing of which "
              + column.use().rowWord()
              + " comes first or last: "
              + Words.count(count, "group")
              + (count == 1 ? " has" : " have")
              + " several to choose from. Number the rows of a group by ROW_NUMBER() in the order of "
              + order.written()
              + " and take its "
              + column.name()
              + ".";
      return new Conclusion(
          Severity.WARNING,
          message,
          new Evidence(
              Map.of("groups with several", count),
              List.of(),
              List.of("the heading " + output.name() + " speaks of an order")),
          List.of());
    }
  }
}
