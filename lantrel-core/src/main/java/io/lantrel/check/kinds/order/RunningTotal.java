package io.lantrel.check.kinds.order;

import io.lantrel.check.Kind;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.probe.JoinedRows;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.OrderItem;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Window;
import io.lantrel.words.Words;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * A total up to the row, by an order in which rows are alike. Without a frame all that are alike
 * are added at once (ISO/IEC 9075-2, 7.15); with one by ROWS it is left to the engine which is
 * added first.
 */
public final class RunningTotal implements Check {

  static final Set<String> ADDING = Set.of("sum", "count", "avg");

  @Override
  public List<Suspicion> suspect(Subject subject) {
    // Of several totals over rows that are alike in the same, one says it.
    Set<List<List<String>>> told = new HashSet<>();
    return Windows.withTies(subject)
        .filter(each -> ADDING.contains(each.call().key()))
        .filter(each -> told.add(parts(each.window(), subject)))
        .map(each -> suspicion(each.call(), each.window(), subject.rows().orElseThrow(), subject))
        .toList();
  }

  private static List<List<String>> parts(Window window, Subject subject) {
    return List.of(
        window.partitionBy().stream().map(subject::text).toList(),
        window.orderBy().stream().map(subject::text).toList());
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
