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
import io.lantrel.resolve.Aggregates;
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.UseColumn;
import io.lantrel.sql.tree.Call.FunctionCall;
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

  private static final Set<String> EARLY = Set.of("first", "earliest", "oldest");

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
    boolean speaks =
        Words.ofName(output.name()).stream().anyMatch(ValuesOfSeveralRows.OF_AN_ORDER::contains);
    if (!speaks || !(output.value() instanceof FunctionCall call) || !Aggregates.isExtreme(call)) {
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
          ExtremesOfGroups.question(
                  subject.rows().orElseThrow(),
                  List.of(call.key(), isEarly() ? "min" : "max"),
                  List.of(column, order))
              .as(ExtremesOfGroups.Found::apart),
          count -> conclude(count, subject));
    }

    private boolean isEarly() {
      return Words.ofName(output.name()).stream().anyMatch(EARLY::contains);
    }

    private Conclusion conclude(long count, Subject subject) {
      String message =
          subject.text(call)
              + " is the "
              + (call.key().equals("min") ? "least" : "greatest")
              + " number, and not that of the "
              + (isEarly() ? "first " : "last ")
              + column.use().rowWord()
              + ": in "
              + Words.count(count, "group")
              + " it is another. Number the rows of a group by ROW_NUMBER() in the order of "
              + order.written()
              + " and take its "
              + column.name()
              + ".";
      return new Conclusion(
          Severity.WARNING,
          message,
          new Evidence(
              Map.of("groups in which it is another", count),
              List.of(),
              List.of("the heading " + output.name() + " speaks of an order")),
          List.of());
    }
  }
}
