package io.lantrel.claim.kinds;

import io.lantrel.probe.Question;
import io.lantrel.probe.Sql;
import io.lantrel.resolve.OutputColumn;
import io.lantrel.resolve.Resolution;
import io.lantrel.sql.tree.Expression;
import io.lantrel.words.Words;
import java.util.List;

/** Some columns are never NULL. */
final class NoNull implements Meaning {

  private final List<Integer> positions;
  private final String words;

  NoNull(List<Integer> positions, String words) {
    this.positions = List.copyOf(positions);
    this.words = words;
  }

  @Override
  public boolean follows(Resolution resolution) {
    List<OutputColumn> outputs = resolution.result().outputs();
    return positions.stream()
        .noneMatch(position -> resolution.result().isNullable(outputs.get(position)));
  }

  @Override
  public Shown shownByPart() {
    return Shown.BREACH;
  }

  @Override
  public Inquiry inquiry(ResultRows rows) {
    Expression isNull =
        Sql.any(positions.stream().map(ResultRows::column).map(Sql::isNull).toList());
    Question<Long> nulls = rows.count(isNull);
    return new Inquiry(
        List.of(rows.count(), nulls),
        answers -> {
          long all = answers.to(rows.count());
          long found = answers.to(nulls);
          if (all == 0) {
            return Outcome.nothing("the result has no row");
          }
          return found == 0
              ? Outcome.holds("none of " + Words.rows(all) + " has NULL in " + words)
              : Outcome.broken(
                  Words.number(found)
                      + " of "
                      + Words.rows(all)
                      + (found == 1 ? " has NULL in " : " have NULL in ")
                      + words,
                  found,
                  rows.where(isNull),
                  rows.headings());
        });
  }
}
