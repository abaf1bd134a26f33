package io.lantrel.check.kinds;

import io.lantrel.check.Evidence;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.check.suspicion.Conclusion;
import io.lantrel.check.suspicion.Suspicion;
import io.lantrel.engine.DatabaseException;
import io.lantrel.sql.tree.Node;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.Span;
import io.lantrel.sql.tree.Value;
import java.util.List;

/**
 * A query that the database takes, and whose rows it cannot work out: a text that is no number, a
 * division by zero, a subquery for one value that gives several.
 */
public final class DoesNotRun {

  private DoesNotRun() {}

  /** The finding for a query that failed while it ran. */
  public static Suspicion suspect(Query query, DatabaseException failure) {
    String message =
        "The database takes this query, but cannot work out its rows: "
            + String.valueOf(failure.getMessage()).replaceFirst("[.\\s]+$", "")
            + ".";
    return Suspicion.certain(
        Kind.DOES_NOT_RUN,
        place(query),
        new Conclusion(Severity.ERROR, message, Evidence.NONE, List.of()));
  }

  /** The one part that can fail, if there is but one; else the whole query. */
  private static Span place(Query query) {
    List<Node> parts = query.preorder().filter(DoesNotRun::canFail).limit(2).toList();
    return parts.size() == 1 ? parts.get(0).span() : query.span();
  }

  private static boolean canFail(Node node) {
    return node instanceof Value.ScalarQuery
        || (node instanceof Value.Cast cast && !cast.trying())
        || (node instanceof Value.Arithmetic arithmetic
            && arithmetic.operator() == Value.ArithmeticOperator.DIVIDED);
  }
}
