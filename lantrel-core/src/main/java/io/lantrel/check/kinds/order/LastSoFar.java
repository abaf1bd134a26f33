package io.lantrel.check.kinds.order;

import io.lantrel.check.Kind;
import io.lantrel.check.suspicion.Check;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Subject;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Call.FunctionCall;
import io.lantrel.sql.tree.Window;
import java.util.ArrayList;
import java.util.List;

/**
 * LAST_VALUE over a window with an order and no frame: such a window ends at the current row and
 * those that are alike in its order (ISO/IEC 9075-2, 7.15), so that the last value is that of the
 * row itself.
 */
public final class LastSoFar implements Check {

  private static final String WHOLE = "ROWS BETWEEN UNBOUNDED PRECEDING AND UNBOUNDED FOLLOWING";

  @Override
  public List<Suspicion> suspect(Subject subject) {
    List<Suspicion> suspicions = new ArrayList<>();
    for (FunctionCall call : subject.nodes(FunctionCall.class)) {
      if (call.key().equals("last_value")) {
        Windows.of(call, subject.block())
            .filter(window -> !window.orderBy().isEmpty() && window.frame() == null)
            .map(window -> suspicion(call, subject))
            .ifPresent(suspicions::add);
      }
    }
    return suspicions;
  }

  private static Suspicion suspicion(FunctionCall call, Subject subject) {
    Window window = call.over();
    String frame = subject.edits().keyword(WHOLE);
    List<List<Edit>> repairs =
        window != null && !window.nameOnly()
            ? List.of(List.of(Edit.insert(window.span().end() - 1, " " + frame)))
            : List.of();
    return Suspicion.certain(
        Kind.LAST_SO_FAR,
        call.span(),
        Conclusion.warning(
            subject.text(call)
                + " is the value of the row itself, or of one beside it in the order: without a frame"
                + " a window ends at the current row. Write "
                + WHOLE
                + " behind its ORDER BY.",
            List.of("its window has an order and no frame"),
            repairs));
  }
}
