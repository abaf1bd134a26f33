package io.lantrel.ledger.account;

import io.lantrel.engine.NamedRow;
import io.lantrel.ledger.Cause;
import io.lantrel.probe.Answers;
import io.lantrel.probe.Question;
import io.lantrel.probe.ResultLines;
import io.lantrel.sql.tree.Query;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** The lines of the first query of EXCEPT or INTERSECT that do not stay. */
final class MissingLines implements LostLines {

  private final String reason;
  private final @Nullable ResultLines lines;
  private final Query result;
  private final boolean all;
  private @Nullable Question<List<NamedRow>> asked;

  /**
   * @param reason why they go
   * @param lines of the first query; null if they cannot be named
   * @param result what stays
   * @param all whether equal lines are told apart
   */
  MissingLines(String reason, @Nullable ResultLines lines, Query result, boolean all) {
    this.reason = reason;
    this.lines = lines;
    this.result = result;
    this.all = all;
  }

  @Override
  public List<Question<?>> names(long lost, int most, Answers first) {
    if (lines == null || most == 0) {
      return List.of();
    }
    asked = lines.missingIn(result, all, most);
    return List.of(asked);
  }

  @Override
  public List<Cause> causes(long lost, Answers first, Answers names) {
    return LostLines.one(reason, lost, asked, names);
  }
}
