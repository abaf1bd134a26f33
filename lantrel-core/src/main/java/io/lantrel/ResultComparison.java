package io.lantrel;

import io.lantrel.engine.DatabaseException;
import io.lantrel.engine.Rows;
import io.lantrel.engine.ValueText;
import io.lantrel.rewrite.Caveat;
import io.lantrel.rewrite.RewriteException;
import io.lantrel.rewrite.Rewriter.Rewritten;
import io.lantrel.words.Words;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.regex.Pattern;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/** Runs a query as it was and in its new form, and compares the rows. */
final class ResultComparison {

  /** So many rows of each are compared at most. */
  private static final int COMPARED = 200_000;

  private static final Pattern NAME = Pattern.compile("[\\p{L}_][\\p{L}\\p{N}_]*");

  private static final Pattern NUMBER =
      Pattern.compile("[-+]?[0-9]*\\.?[0-9]+(?:[eE][-+]?[0-9]+)?");

  /** So many places behind the point are compared: products round means differently. */
  private static final int PLACES = 3;

  private final Lantrel before;
  private final Lantrel now;
  private final List<String> remarks = new ArrayList<>();
  private boolean ranBefore = true;

  /**
   * @param before where the query runs as it was
   * @param now where it runs in its new form: the same, or the same rows in another database
   */
  ResultComparison(Lantrel before, Lantrel now) {
    this.before = before;
    this.now = now;
  }

  /** Nothing is run where there are no rows, or nothing was changed for the same database. */
  Rewriting of(String has, String sql, Rewritten rewritten) {
    String after = rewritten.sql();
    boolean untouched = before == now && after.equals(sql);
    if (!before.hasRows() || !now.hasRows() || untouched) {
      if (!untouched) {
        remarks.add(
            before.hasRows()
                ? "no database of the other product is at hand, so it was not run"
                : "there are no rows here, so it was not run");
      }
      rewritten.caveats().forEach(caveat -> remarks.add(caveat.words()));
      return new Rewriting(has, sql, after, OptionalLong.empty(), Optional.empty(), remarks);
    }
    Optional<Rows> old = oldRows(sql);
    Rows rows = newRows(after);
    if (old.isEmpty()) {
      remarks.add(
          "as it was, "
              + before.engine()
              + " does not run it, so that there is nothing to compare; now it gives "
              + Words.count(rows.size(), "row"));
    } else if (old.get().cut() || rows.cut()) {
      remarks.add("only the first " + COMPARED + " rows were compared");
    }
    Optional<String> difference = old.flatMap(each -> difference(each, rows));
    for (Caveat caveat : rewritten.caveats()) {
      remarks.add(caveat.words());
      if (difference.isEmpty()) {
        madeUp(caveat, rows).ifPresent(remarks::add);
      }
    }
    return new Rewriting(
        has,
        sql,
        after,
        old.isEmpty() || difference.isPresent()
            ? OptionalLong.empty()
            : OptionalLong.of(rows.size()),
        difference,
        remarks);
  }

  private Rows newRows(String after) {
    try {
      return now.study(after).result(COMPARED);
    } catch (DatabaseException refused) {
      if (refused.isFatal()) {
        throw refused;
      }
      throw new RewriteException(
          now.engine()
              + " does not take it in that form"
              + (ranBefore ? "" : ", and did not as it was")
              + ": "
              + refused.getMessage());
    }
  }

  private Optional<Rows> oldRows(String sql) {
    try {
      return Optional.of(before.study(sql).result(COMPARED));
    } catch (DatabaseException refused) {
      if (refused.isFatal()) {
        throw refused;
      }
      ranBefore = false;
      return Optional.empty();
    }
  }

  /** What the form that minds such rows gives if there is one. */
  private Optional<String> madeUp(Caveat caveat, Rows rows) {
    if (caveat.example().isEmpty()) {
      return Optional.empty();
    }
    Rows without = before.study(caveat.example()).result(COMPARED);
    Map<List<@Nullable Object>, Integer> counts = counts(rows, without);
    return counts.entrySet().stream()
        .filter(each -> each.getValue() > 0)
        .findFirst()
        .map(
            each ->
                "made up: with "
                    + caveat.row()
                    + ", NOT IN gives "
                    + without.size()
                    + " in place of "
                    + rows.size()
                    + " rows; not among them: "
                    + words(each.getKey()));
  }

  /** The rows as a bag: their order is not compared. */
  private Optional<String> difference(Rows old, Rows now) {
    if (!sameHeadings(plain(old.headings()), plain(now.headings()))) {
      return Optional.of("the headings were " + old.headings() + " and are " + now.headings());
    }
    return counts(old, now).entrySet().stream()
        .filter(each -> each.getValue() != 0)
        .findFirst()
        .map(each -> (each.getValue() > 0 ? "only before: " : "only now: ") + words(each.getKey()));
  }

  private Map<List<@Nullable Object>, Integer> counts(Rows some, Rows others) {
    Map<List<@Nullable Object>, Integer> counts = new HashMap<>();
    some.rows().forEach(row -> counts.merge(alike(row), 1, Integer::sum));
    others.rows().forEach(row -> counts.merge(alike(row), -1, Integer::sum));
    return counts;
  }

  /** Two products give numbers, times and truth in types of their own. */
  private List<@Nullable Object> alike(List<@Nullable Object> row) {
    if (before == now) {
      return row;
    }
    List<@Nullable Object> alike = new ArrayList<>();
    row.forEach(value -> alike.add(value == null ? null : plain(value)));
    return alike;
  }

  private static Object plain(Object value) {
    if (value instanceof Boolean truth) {
      return truth ? "1" : "0";
    }
    String text = ValueText.of(value).stripTrailing();
    if (NUMBER.matcher(text).matches()) {
      BigDecimal number = new BigDecimal(text);
      boolean whole = number.stripTrailingZeros().scale() <= 0;
      number = whole ? number : number.setScale(PLACES, RoundingMode.HALF_UP);
      return number.signum() == 0 ? "0" : number.stripTrailingZeros().toPlainString();
    }
    return text.replaceFirst("(?<=[0-9])T(?=[0-9])", " ").replaceFirst("(:\\d\\d)\\.0+$", "$1");
  }

  /** Some engines make the heading of a value without a name of its text, which may change. */
  private static boolean sameHeadings(List<String> old, List<String> now) {
    return old.size() == now.size()
        && IntStream.range(0, old.size())
            .allMatch(
                i ->
                    !NAME.matcher(old.get(i)).matches() || old.get(i).equalsIgnoreCase(now.get(i)));
  }

  /** SQLite numbers headings that come twice; exact names have quotes where others are folded. */
  private static List<String> plain(List<String> headings) {
    return headings.stream()
        .map(each -> each.replaceFirst(":\\d+$", "").replaceFirst("^\"(.+)\"$", "$1"))
        .toList();
  }

  private static String words(List<@Nullable Object> row) {
    return String.join(
        ", ", row.stream().map(each -> each == null ? "NULL" : ValueText.of(each)).toList());
  }
}
