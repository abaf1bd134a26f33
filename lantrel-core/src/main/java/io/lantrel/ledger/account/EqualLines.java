package io.lantrel.ledger.account;

import io.lantrel.engine.NamedRow;
import io.lantrel.ledger.Cause;
import io.lantrel.probe.Answers;
import io.lantrel.probe.Question;
import io.lantrel.probe.ResultLines;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** The lines that are equal to others, and merged with them. */
final class EqualLines implements LostLines {

  private final String reason;
  private final @Nullable ResultLines lines;
  private int most;
  private @Nullable Question<List<NamedRow>> asked;

  /**
   * @param reason why they are merged
   * @param lines all lines before they are merged; null if they cannot be named
   */
  EqualLines(String reason, @Nullable ResultLines lines) {
    this.reason = reason;
    this.lines = lines;
  }

  @Override
  public List<Question<?>> names(long lost, int most, Answers first) {
    if (lines == null || most == 0) {
      return List.of();
    }
    this.most = most;
    asked = lines.repeated(most);
    return List.of(asked);
  }

  @Override
  public List<Cause> causes(long lost, Answers first, Answers names) {
    boolean isCut =
        asked != null && names.ifAny(asked).filter(told -> told.size() == most).isPresent();
    String which = isCut ? "; these come most often" : "";
    return LostLines.one(reason + which, lost, asked, names);
  }
}
