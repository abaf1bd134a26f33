package io.lantrel.check.kinds.order;

import io.lantrel.check.Kind;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.probe.JoinedRows;
import io.lantrel.probe.Question;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.resolve.UseColumn;
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
 * ROW_NUMBER or FIRST_VALUE within parts, by an order in which the first rows of a part are alike:
 * which of them gets number 1, or is taken, is left to the engine (ISO/IEC 9075-2, 6.10).
 */
public final class UnstableNumber implements Check {

  @Override
  public List<Suspicion> suspect(Subject subject) {
    return Windows.withTies(subject)
        .filter(each -> !each.window().partitionBy().isEmpty())
        .filter(each -> isOfTheFirst(each.call(), each.window(), subject.block()))
        .map(each -> suspicion(each.call(), each.window(), subject.rows().orElseThrow(), subject))
        .toList();
  }

  /** Whether it shows of the first row what others that come first alike may not have. */
  private static boolean isOfTheFirst(FunctionCall call, Window window, QueryBlock block) {
    if (!call.key().equals("first_value") || call.arguments().isEmpty()) {
      return call.key().equals("row_number");
    }
    Set<UseColumn> alike = new HashSet<>();
    window.partitionBy().forEach(each -> block.column(each).ifPresent(alike::add));
    window.orderBy().forEach(each -> block.column(each.value()).ifPresent(alike::add));
    return !alike.containsAll(block.columnsIn(call.arguments().get(0)));
  }

  private static Suspicion suspicion(
      FunctionCall call, Window window, JoinedRows rows, Subject subject) {
    Question<Long> ties = Ties.first(rows, window.partitionBy(), window.orderBy());
    return Suspicion.counting(
        Kind.UNSTABLE_ORDER,
        call.span(),
        List.of(call.span()),
        ties,
        count -> conclude(call, window, count, subject));
  }

  private static Conclusion conclude(FunctionCall call, Window window, long ties, Subject subject) {
    List<OrderItem> order = window.orderBy();
    Span place = order.get(0).span().to(order.get(order.size() - 1).span());
    return Ties.conclusion(
        (call.key().equals("row_number") ? "Which row gets number 1" : "Whose value is the first")
            + " is left to the engine where several come first by "
            + subject.source().at(place)
            + ", as in "
            + Words.count(ties, "part"),
        place,
        Map.of("parts in which several come first", ties),
        subject);
  }
}
