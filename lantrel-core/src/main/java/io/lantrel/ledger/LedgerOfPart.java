package io.lantrel.ledger;

import java.math.BigDecimal;
import java.math.RoundingMode;
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
 */
public record LedgerOfPart(Ledger counted, String table, long looked, long of) {

  /** Whether all rows were looked at, so that the figures are no estimates. */
  public boolean isWhole() {
    return looked == of;
  }

  /** The account with its figures as they are likely to be for all rows. */
  public Ledger estimated() {
    List<Entry> entries = counted.entries().stream().map(this::estimated).toList();
    return new Ledger(counted.name(), entries, List.of(), List.of(), counted.untold());
  }

  private Entry estimated(Entry entry) {
    Entry.Partners partners = entry.partners();
    return new Entry(
        entry.kind(),
        entry.words(),
        entry.place(),
        estimate(entry.before()),
        entry.changes().stream().map(this::estimated).toList(),
        estimate(entry.after()),
        entry.promise(),
        partners == null
            ? null
            : new Entry.Partners(
                partners.joined(),
                new Entry.Share(estimate(partners.left().rows()), estimate(partners.left().of())),
                null));
  }

  private Change estimated(Change change) {
    return new Change(
        change.figure(),
        estimate(change.rows()),
        change.causes().stream()
            .map(each -> new Cause(each.reason(), estimate(each.rows()), each.examples()))
            .toList());
  }

  /**
   * How many rows of all are likely, if so many were counted: rounded to what their number can
   * bear, which is a standard deviation of the binomial distribution, or of Poisson's for rows that
   * were repeated.
   */
  public long estimate(long rows) {
    if (isWhole() || rows == 0) {
      return rows;
    }
    double scale = (double) of / looked;
    double variance = rows <= looked ? rows * (1.0 - (double) rows / looked) : rows;
    double deviation = Math.max(1, Math.sqrt(variance) * scale);
    int zeros = rows == looked ? 0 : (int) Math.floor(Math.log10(deviation));
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
    return isWhole() || looked == 0 ? 0 : Math.min(of, 3 * of / looked);
  }
}
