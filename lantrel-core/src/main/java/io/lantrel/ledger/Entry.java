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
 * @param partners how many rows found one; null if the step is no join
 */
public record Entry(
    Kind kind,
    String words,
    Span place,
    long before,
    List<Change> changes,
    long after,
    @Nullable String promise,
    @Nullable Partners partners) {
  public Entry {
    changes = List.copyOf(changes);
  }

  /** A step that is no join. */
  public Entry(Kind kind, String words, Span place, long before, List<Change> changes, long after) {
    this(kind, words, place, before, changes, after, null, null);
  }

  /** The sorts of steps. */
  public enum Kind {
    /** The rows that an account begins with. */
    FROM,
    JOIN,
    WHERE,
    GROUP,
    HAVING,
    QUALIFY,
    /** Functions of the select list that make several rows of one, or none. */
    SELECT,
    /** DISTINCT, and DISTINCT ON. */
    DISTINCT,
    UNION,
    EXCEPT,
    INTERSECT,
    /** What a recursion finds from the rows of the level before. */
    LEVEL,
    LIMIT
  }

  /**
   * How many rows of both sides of a join found a partner.
   *
   * @param joined what is joined, as {@code river r}
   * @param left of the rows so far
   * @param right of the rows of what is joined; null if that has no rows of its own, as LATERAL
   */
  public record Partners(String joined, Share left, @Nullable Share right) {}

  /** So many of all. */
  public record Share(long rows, long of) {}

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
