package io.lantrel.compare.asked;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.IntPredicate;
import org.jspecify.annotations.Nullable;

/**
 * Compares two results whose rows come one by one, from wherever, in memory that does not grow with
 * them. Every row falls into one of a fixed number of parts by what it holds; a part is known by
 * the number of its rows and a sum of their 64-bit checksums. Where a part differs, its rows are
 * read a second time and counted one by one. Two parts that differ in their rows and agree in both
 * figures are as likely as one in 2^64.
 */
final class RowByRow {

  /** So many different rows are held at a time. */
  private static final int HELD = 100_000;

  private static final int PARTS = 4_096;

  private final Side first;
  private final Side second;
  private final List<Likeness> columns;

  /** What stands for a row, and how often it came. */
  private final Map<List<@Nullable Object>, Count> held = new HashMap<>();

  private final long[][] rows = new long[2][PARTS];
  private final long[][] sums = new long[2][PARTS];
  private boolean overflow;
  private final List<Leftover> leftovers = new ArrayList<>();
  private long onlyFirst;
  private long onlySecond;

  private static final class Count {
    private final List<@Nullable Object> values;
    private final long[] times = new long[2];

    private Count(List<@Nullable Object> values) {
      this.values = values;
    }
  }

  /**
   * @param columns how the values of each column are compared
   */
  RowByRow(Side first, Side second, List<Likeness> columns) {
    this.first = first;
    this.second = second;
    this.columns = columns;
  }

  Bags compared() {
    first.each(row -> look(0, row));
    second.each(row -> look(1, row));
    if (overflow) {
      held.clear();
      again();
    } else {
      settle();
    }
    return new Bags(all(0), all(1), onlyFirst, onlySecond, leftovers);
  }

  private long all(int side) {
    long all = 0;
    for (long each : rows[side]) {
      all += each;
    }
    return all;
  }

  private void look(int side, List<@Nullable Object> values) {
    List<@Nullable Object> row = like(values);
    long checksum = checksum(row);
    int part = part(checksum);
    rows[side][part]++;
    sums[side][part] += checksum;
    if (!overflow) {
      count(side, row, values);
      overflow = held.size() > HELD;
    }
  }

  private void count(int side, List<@Nullable Object> row, List<@Nullable Object> values) {
    Count count = held.computeIfAbsent(row, any -> new Count(values));
    count.times[side]++;
  }

  /** Reads the parts that differ again, as many at a time as can be held. */
  private void again() {
    boolean[] wanted = new boolean[PARTS];
    long together = 0;
    for (int part = 0; part < PARTS; part++) {
      boolean differs = rows[0][part] != rows[1][part] || sums[0][part] != sums[1][part];
      if (differs) {
        wanted[part] = true;
        together += rows[0][part] + rows[1][part];
      }
      if (together > HELD || (part == PARTS - 1 && together > 0)) {
        count(each -> wanted[each]);
        settle();
        held.clear();
        Arrays.fill(wanted, false);
        together = 0;
      }
    }
  }

  private void count(IntPredicate wanted) {
    first.each(values -> countIf(0, values, wanted));
    second.each(values -> countIf(1, values, wanted));
  }

  private void countIf(int side, List<@Nullable Object> values, IntPredicate wanted) {
    List<@Nullable Object> row = like(values);
    if (wanted.test(part(checksum(row)))) {
      count(side, row, values);
    }
  }

  private void settle() {
    for (Count each : held.values()) {
      Leftover row = new Leftover(each.values, each.times[0], each.times[1]);
      onlyFirst += row.onlyFirst();
      onlySecond += row.onlySecond();
      if (row.first() != row.second() && leftovers.size() < Bags.MOST) {
        leftovers.add(row);
      }
    }
  }

  private List<@Nullable Object> like(List<@Nullable Object> values) {
    List<@Nullable Object> row = new ArrayList<>(values.size());
    for (int i = 0; i < values.size(); i++) {
      row.add(columns.get(i).of(values.get(i)));
    }
    return row;
  }

  private static int part(long checksum) {
    return (int) (checksum >>> 52);
  }

  /** FNV-1a over the characters, with the length and sort of each value, and mixed at the end. */
  private static long checksum(List<@Nullable Object> row) {
    long sum = 0xcbf29ce484222325L;
    for (@Nullable Object value : row) {
      String text = value == null ? "" : value.toString();
      sum = (sum ^ (value == null ? 1 : value instanceof String ? 2 : 3)) * 0x100000001b3L;
      sum = (sum ^ text.length()) * 0x100000001b3L;
      for (int i = 0; i < text.length(); i++) {
        sum = (sum ^ text.charAt(i)) * 0x100000001b3L;
      }
    }
    sum = (sum ^ (sum >>> 30)) * 0xbf58476d1ce4e5b9L;
    sum = (sum ^ (sum >>> 27)) * 0x94d049bb133111ebL;
    return sum ^ (sum >>> 31);
  }
}
