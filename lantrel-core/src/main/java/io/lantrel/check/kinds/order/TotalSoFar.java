package io.lantrel.check.kinds.order;

import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.OrderItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Window;
import io.lantrel.words.Words;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Pattern;

/**
 * A total whose heading says that it runs, over a window without ORDER BY: the frame is then the
 * whole part, and each of its rows has the same total (ISO/IEC 9075-2, 7.15).
 */
public final class TotalSoFar implements Check {

  private static final Pattern RUNS =
      Pattern.compile("(^|.*_)(so_?far|running|cumulative|cumulated|accumulated|to_?date)(_.*|$)");

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    if (subject.rows().isEmpty() || block.isGrouped() || block.isCorrelated()) {
      return List.of();
    }
    return block.outputs().stream().flatMap(each -> of(each, subject).stream()).toList();
  }

  private static Optional<Suspicion> of(OutputColumn output, Subject subject) {
    return output.value() instanceof FunctionCall call
            && RunningTotal.ADDING.contains(call.key())
            && RUNS.matcher(String.join("_", Words.ofName(output.name()))).matches()
        ? Windows.of(call, subject.block())
            .filter(window -> window.orderBy().isEmpty())
            .map(window -> suspicion(output.name(), call, window, subject))
        : Optional.empty();
  }

  private static Suspicion suspicion(
      String heading, FunctionCall call, Window window, Subject subject) {
    return Suspicion.counting(
        Kind.UNSTABLE_ORDER,
        call.span(),
        List.of(call.span()),
        Ties.behind(subject.rows().orElseThrow(), window.partitionBy()),
        count -> conclude(heading, window, count, subject));
  }

  private static Conclusion conclude(String heading, Window window, long alike, Subject subject) {
    return new Conclusion(
        Severity.WARNING,
        heading
            + " does not run: without ORDER BY in OVER every row has the total of "
            + (window.partitionBy().isEmpty()
                ? "all rows"
                : "all rows with its "
                    + Words.list(window.partitionBy().stream().map(subject::text).toList()))
            + ", and "
            + Words.rows(alike)
            + " just "
            + (alike == 1 ? "repeats" : "repeat")
            + " it. Write ORDER BY in OVER.",
        new Evidence(
            Map.of("rows with the total of one before", alike),
            List.of(),
            List.of("the heading " + heading + " speaks of a total up to the row")),
        repair(window, subject).stream().map(List::of).toList());
  }

  /** In the order of the query, if its items can be written there. */
  private static Optional<Edit> repair(Window window, Subject subject) {
    QueryBlock block = subject.block();
    List<OrderItem> order = block.query().orderBy();
    boolean ofColumns =
        !order.isEmpty()
            && block.query().body().equals(block.select())
            && order.stream().allMatch(each -> subject.ownColumn(each.value()).isPresent());
    if (!ofColumns || window.span().isNowhere()) {
      return Optional.empty();
    }
    String text =
        subject.source().at(order.stream().map(Node::span).reduce(Span::to).orElseThrow());
    List<Span> parts = window.partitionBy().stream().map(Node::span).toList();
    return Optional.of(
        parts.isEmpty()
            ? Edit.insert(
                window.span().start() + 1, subject.edits().keyword("ORDER BY") + " " + text)
            : Edit.insert(
                parts.get(parts.size() - 1).end(),
                " " + subject.edits().keyword("ORDER BY") + " " + text));
  }
}
