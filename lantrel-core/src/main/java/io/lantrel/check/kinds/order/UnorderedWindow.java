package io.lantrel.check.kinds.order;

import io.lantrel.check.Kind;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.resolve.QueryBlock;
import io.lantrel.sql.tree.Call.FunctionCall;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * A window function that is about an order, over a window without one: which row is the one before,
 * or the first, is left to the engine, and all rows are of one rank (ISO/IEC 9075-2, 6.10). Who
 * numbers rows without an order only wants to tell them apart.
 */
public final class UnorderedWindow implements Check {

  private static final Set<String> PICKING =
      Set.of("lead", "lag", "first_value", "last_value", "nth_value", "ntile");
  private static final Set<String> RANKING =
      Set.of("rank", "dense_rank", "percent_rank", "cume_dist");

  @Override
  public List<Suspicion> suspect(Subject subject) {
    return subject.nodes(FunctionCall.class).stream()
        .filter(call -> PICKING.contains(call.key()) || RANKING.contains(call.key()))
        .filter(call -> isUnordered(call, subject.block()))
        .map(call -> suspicion(call, subject))
        .toList();
  }

  private static boolean isUnordered(FunctionCall call, QueryBlock block) {
    return Windows.of(call, block).filter(window -> window.orderBy().isEmpty()).isPresent();
  }

  private static Suspicion suspicion(FunctionCall call, Subject subject) {
    boolean ranks = RANKING.contains(call.key());
    Conclusion conclusion =
        Conclusion.warning(
            subject.text(call)
                + (ranks
                    ? " is the same for every row, since its window has no order."
                    : " takes rows in whatever order the engine has them: its window has none.")
                + " Write ORDER BY into OVER.",
            List.of("its window has no ORDER BY"),
            List.of());
    return new Suspicion(
        Kind.UNSTABLE_ORDER,
        call.span(),
        List.of(call.span()),
        List.of(),
        answers -> Optional.of(conclusion));
  }
}
