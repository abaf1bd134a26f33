package io.lantrel.ledger;

import java.math.BigDecimal;
import java.math.RoundingMode;
import java.util.ArrayList;
import java.util.List;

/**
 * The account of a query for a part of the rows that it begins with. Each joined row comes of one
 * of these, so that what happens to them happens to about as many times more of all rows as there
 * are more. What does not grow with them (rows of joined tables that nobody refers to, groups,
 * different rows) is not told.
 *
 * @param counted the account of the rows that were looked at
 * @param table the table whose rows they are, as {@code reading d}
 * @param looked how many of its rows were looked at
 * @param of how many it has
 * @param by the columns whose numbers tell which rows were taken; rows with the same numbers come
 *     together
 */
public record LedgerOfPart(Ledger counted, String table, long looked, long of, List<String> by) {
  public LedgerOfPart {
    by = List.copyOf(by);
  }

  /** Whether all rows were looked at, so that the figures are no estimates. */
  public boolean isWhole() {
    return looked == of;
  }

  /** The account with its figures as they are likely to be for all rows. */
  public Ledger estimated() {
    List<Entry> entries = new ArrayList<>();
    boolean repeated = false;
    for (Entry entry : counted.entries()) {
      boolean before = repeated;
      repeated |= entry.rows(Figure.REPEATED) > 0;
      entries.add(estimated(entry, before, repeated));
    }
    return new Ledger(counted.name(), entries, List.of(), List.of(), counted.untold());
  }

  private Entry estimated(Entry entry, boolean before, boolean after) {
    Entry.Partners partners = entry.partners();
    return new Entry(
        entry.kind(),
        entry.words(),
        entry.place(),
        estimate(entry.before(), before),
        entry.changes().stream()
            .map(each -> estimated(each, each.figure() == Figure.REPEATED || before))
            .toList(),
        estimate(entry.after(), after),
        entry.promise(),
        partners == null
            ? null
            : new Entry.Partners(
                partners.joined(), estimated(partners.left(), before), partners.right()));
  }

  private Entry.Share estimated(Entry.Share share, boolean repeated) {
    return new Entry.Share(estimate(share.rows(), repeated), estimate(share.of(), repeated));
  }

  private Change estimated(Change change, boolean repeated) {
    return new Change(
        change.figure(),
        estimate(change.rows(), repeated),
        change.causes().stream()
            .map(each -> new Cause(each.reason(), estimate(each.rows(), repeated), each.examples()))
            .toList());
  }

  /**
   * How many rows of all are likely, if so many were counted, rounded to what the number can bear:
   * a standard deviation. Where each row looked at counts once or not at all, that is of the
   * binomial distribution; where it counts as often as it has partners, it is reckoned that these
   * vary as much as they are many.
   *
   * @param repeated whether a row that was looked at can count several times
   */
  public long estimate(long rows, boolean repeated) {
    if (isWhole() || rows == 0) {
      return rows;
    }
    double share = (double) rows / looked;
    double deviation = repeated ? rows / Math.sqrt((double) looked) : Math.sqrt(rows * (1 - share));
    double scaled = Math.max(1, deviation) * ((double) of / looked);
    int zeros = rows == looked && !repeated ? 0 : (int) Math.floor(Math.log10(scaled));
    return BigDecimal.valueOf(rows)
        .multiply(BigDecimal.valueOf(of))
        .divide(BigDecimal.valueOf(looked), -zeros, RoundingMode.HALF_UP)
        .longValueExact();
  }

  /**
   * What happens to none of the rows that were looked at happens to at most about so many of all,
   * nineteen times in twenty (the rule of three: J. A. Hanley and A. Lippman-Hand, JAMA 249, 1983).
   */
  public long unseen() {
    if (isWhole()) {
      return 0;
    }
    return looked == 0 ? of : Math.min(of, 3 * of / looked);
  }
}
