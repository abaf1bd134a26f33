package io.lantrel.ledger;

import io.lantrel.sql.tree.Span;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * One step of the account.
 *
 * @param kind what sort of step
 * @param words the step in the user's names, as {@code LEFT JOIN river r}
 * @param place where it stands in the text
 * @param before rows that come in
 * @param changes what happened to them; memos are among them
 * @param after rows that go on
 * @param promise how many partners a row can have, by the keys; null if the step is no join
 */
public record Entry(
    Kind kind,
    String words,
    Span place,
    long before,
    List<Change> changes,
    long after,
    @Nullable String promise) {
  public Entry {
    changes = List.copyOf(changes);
  }

  /** The sorts of steps. */
  public enum Kind {
    FROM,
    JOIN,
    WHERE,
    GROUP,
    HAVING,
    DISTINCT,
    LIMIT
  }

  /** Whether before, the changes and after add up. */
  public boolean balances() {
    long sum = before;
    for (Change change : changes) {
      sum += change.figure().sign() * change.rows();
    }
    return sum == after;
  }

  /** How many rows a figure counts here; 0 if there is no such change. */
  public long rows(Figure figure) {
    return change(figure).map(Change::rows).orElse(0L);
  }

  /** The change of that figure, if there is one. */
  public Optional<Change> change(Figure figure) {
    return changes.stream().filter(each -> each.figure() == figure).findFirst();
  }
}
