package io.lantrel.claim.kinds;

import io.lantrel.probe.Question;
import io.lantrel.resolve.Resolution;
import io.lantrel.words.Words;
import java.util.List;

/** The result has so many rows. */
final class RowCount implements Meaning {

  private final long least;
  private final long most;

  /**
   * @param most {@link Long#MAX_VALUE} if there can be any number
   */
  RowCount(long least, long most) {
    this.least = least;
    this.most = most;
  }

  @Override
  public boolean follows(Resolution resolution) {
    RowBounds bounds = RowBounds.of(resolution.result());
    return bounds.least() >= least && bounds.most() <= most;
  }

  @Override
  public Shown shownByPart() {
    if (least == 0) {
      return Shown.BREACH;
    }
    return most == Long.MAX_VALUE ? Shown.TRUTH : Shown.NOTHING;
  }

  @Override
  public Inquiry inquiry(ResultRows rows) {
    Question<Long> count = rows.count();
    return new Inquiry(
        List.of(count),
        answers -> {
          long found = answers.to(count);
          String there =
              found == 0 ? "the result has no row" : "the result has " + Words.rows(found);
          if (found >= least && found <= most) {
            return Outcome.holds(there);
          }
          return most == 0
              ? Outcome.broken(there, found, rows.where(null), rows.headings())
              : Outcome.broken(there);
        });
  }
}
