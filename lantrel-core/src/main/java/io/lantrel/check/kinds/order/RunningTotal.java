package io.lantrel.check.kinds.order;

import io.lantrel.check.Kind;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.probe.JoinedRows;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.OrderItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Window;
import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * A total up to the row, by an order in which rows are alike. Without a frame all that are alike
 * are added at once (ISO/IEC 9075-2, 7.15); with one by ROWS it is left to the engine which is
 * added first.
 */
public final class RunningTotal implements Check {

  private static final Set<String> ADDING = Set.of("sum", "count", "avg");

  @Override
  public List<Suspicion> suspect(Subject subject) {
    QueryBlock block = subject.block();
    if (subject.rows().isEmpty() || block.isGrouped() || block.isCorrelated()) {
      return List.of();
    }
    List<Suspicion> suspicions = new ArrayList<>();
    for (FunctionCall call : subject.nodes(FunctionCall.class)) {
      Windows.of(call, block)
          .filter(window -> ADDING.contains(call.key()) && !window.orderBy().isEmpty())
          .filter(window -> !Windows.isFixed(window, block))
          .map(window -> suspicion(call, window, subject.rows().get(), subject))
          .ifPresent(suspicions::add);
    }
    return suspicions;
  }

  private static Suspicion suspicion(
      FunctionCall call, Window window, JoinedRows rows, Subject subject) {
    return Suspicion.counting(
        Kind.UNSTABLE_ORDER,
        call.span(),
        List.of(call.span()),
        Ties.any(rows, window.partitionBy(), window.orderBy()),
        count -> conclude(window, count, subject));
  }

  private static Conclusion conclude(Window window, long alike, Subject subject) {
    List<OrderItem> order = window.orderBy();
    Span place = order.get(0).span().to(order.get(order.size() - 1).span());
    String by = subject.source().at(place);
    return Ties.conclusion(
        (window.frame() == null
                ? "This total takes rows that are alike in " + by + " all at once"
                : "Which of the rows that are alike in "
                    + by
                    + " this total takes first is left to the engine")
            + ": "
            + Words.rows(alike)
            + (alike == 1 ? " is" : " are")
            + " like one before",
        place,
        Map.of("rows like one before", alike),
        subject);
  }
}
