package io.lantrel;

import io.lantrel.engine.Rows;
import io.lantrel.engine.ValueText;
import io.lantrel.write.Form;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import org.jspecify.annotations.Nullable;

/**
 * A query in another form, and whether it gives the same rows here.
 *
 * @param form the form
 * @param before the query as it was
 * @param sql the query in the form; the same text if it had that form already
 * @param rows how many rows both give; empty if that was not tried or they differ
 * @param difference a row that one of the two gives more often than the other, in a sentence; empty
 *     if the rows are the same, or were not compared
 * @param remark what else is to be known of the form; empty if it gives the same rows on any data
 */
public record Rewriting(
    Form form,
    String before,
    String sql,
    OptionalLong rows,
    Optional<String> difference,
    Optional<String> remark) {

  /** So many rows of each are compared at most. */
  static final int COMPARED = 200_000;

  /** Whether there was anything to change. */
  public boolean isChanged() {
    return !before.equals(sql);
  }

  static Rewriting notRun(Form form, String before, String sql) {
    return new Rewriting(
        form, before, sql, OptionalLong.empty(), Optional.empty(), remark(form, before, sql));
  }

  static Rewriting of(Form form, String before, String sql, Rows old, Rows now) {
    Optional<String> remark =
        old.cut() || now.cut()
            ? Optional.of("only the first " + COMPARED + " rows were compared")
            : remark(form, before, sql);
    Optional<String> difference = difference(old, now);
    return new Rewriting(
        form,
        before,
        sql,
        difference.isPresent() ? OptionalLong.empty() : OptionalLong.of(old.size()),
        difference,
        remark);
  }

  private static Optional<String> remark(Form form, String before, String sql) {
    return form == Form.NOT_EXISTS && !before.equals(sql)
        ? Optional.of(
            "the two differ where NULL comes in: with a NULL in the list NOT IN is true of no row,"
                + " and of a row that is empty on its left it never is; NOT EXISTS keeps such rows")
        : Optional.empty();
  }

  /** The rows as a bag: their order is not compared. */
  private static Optional<String> difference(Rows old, Rows now) {
    if (!plain(old.headings()).equals(plain(now.headings()))) {
      return Optional.of("the headings were " + old.headings() + " and are " + now.headings());
    }
    Map<List<@Nullable Object>, Integer> counts = new HashMap<>();
    old.rows().forEach(row -> counts.merge(row, 1, Integer::sum));
    now.rows().forEach(row -> counts.merge(row, -1, Integer::sum));
    return counts.entrySet().stream()
        .filter(each -> each.getValue() != 0)
        .findFirst()
        .map(each -> (each.getValue() > 0 ? "only before: " : "only now: ") + words(each.getKey()));
  }

  /** SQLite numbers headings that come twice, where joins stand in parentheses. */
  private static List<String> plain(List<String> headings) {
    return headings.stream().map(each -> each.replaceFirst(":\\d+$", "")).toList();
  }

  private static String words(List<@Nullable Object> row) {
    return String.join(
        ", ", row.stream().map(each -> each == null ? "NULL" : ValueText.of(each)).toList());
  }
}
