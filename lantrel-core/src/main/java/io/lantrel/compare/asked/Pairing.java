package io.lantrel.compare.asked;

import io.lantrel.compare.CompareOptions;
import io.lantrel.compare.Differences;
import io.lantrel.compare.Differences.Change;
import io.lantrel.compare.Differences.LoneRow;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.NavigableMap;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.IntPredicate;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/**
 * Pairs the rows in which two results differ: those that are nearly the same, and those of a key.
 */
final class Pairing {

  /** Up to so many columns, two of them together are tried as a key. */
  private static final int FEW = 12;

  private final List<String> headings;
  private final List<Likeness> columns;
  private final CompareOptions options;

  /** A row of one side that the other has less often. */
  private static final class Alone {
    private final Leftover row;
    private final boolean inFirst;
    private long times;

    private Alone(Leftover row) {
      this.row = row;
      this.inFirst = row.first() > row.second();
      this.times = Math.abs(row.first() - row.second());
    }
  }

  /**
   * @param headings of the first result
   * @param columns how the values of each are compared
   */
  Pairing(List<String> headings, List<Likeness> columns, CompareOptions options) {
    this.headings = headings;
    this.columns = columns;
    this.options = options;
  }

  /** Whether some values may differ a little and be the same. */
  boolean isLenient() {
    return options.tolerance().signum() > 0 || columns.stream().anyMatch(Likeness::isRounded);
  }

  /**
   * What is left of the differences once rows are paired.
   *
   * @param wanted positions of a key; empty to look for one
   */
  Differences paired(Bags bags, List<Integer> wanted) {
    List<Alone> alone = new ArrayList<>();
    bags.leftovers().forEach(row -> alone.add(new Alone(row)));
    alone.sort(Comparator.comparing(each -> each.row.values(), Pairing::compare));
    long near = isLenient() ? nearlySame(alone) : 0;
    alone.removeIf(each -> each.times == 0);
    List<Integer> key = wanted.isEmpty() ? found(alone) : wanted;
    List<Change> changes = key.isEmpty() ? List.of() : changes(alone, key);
    List<LoneRow> lone = new ArrayList<>();
    for (boolean inFirst : List.of(true, false)) {
      alone.stream()
          .filter(each -> each.times > 0 && each.inFirst == inFirst)
          .map(each -> new LoneRow(each.row.values(), each.row.first(), each.row.second()))
          .limit(options.shown())
          .forEach(lone::add);
    }
    return new Differences(
        headings,
        changes.isEmpty() && wanted.isEmpty() ? List.of() : key,
        bags.onlyFirst() - near - changes.size(),
        bags.onlySecond() - near - changes.size(),
        changes.size(),
        lone,
        changes.stream().limit(options.shown()).toList(),
        bags.isWhole());
  }

  // ---- nearly the same ----

  private long nearlySame(List<Alone> alone) {
    Map<List<@Nullable Object>, List<Alone>> groups = new LinkedHashMap<>();
    alone.forEach(
        each ->
            groups
                .computeIfAbsent(
                    like(each.row, i -> !columns.get(i).isNumber()), any -> new ArrayList<>())
                .add(each));
    long paired = 0;
    for (List<Alone> group : groups.values()) {
      NavigableMap<Double, List<Alone>> second = new TreeMap<>();
      group.stream()
          .filter(each -> !each.inFirst)
          .forEach(each -> second.computeIfAbsent(size(each), any -> new ArrayList<>()).add(each));
      for (Alone one : group.stream().filter(each -> each.inFirst).toList()) {
        for (List<Alone> others : near(second, size(one)).values()) {
          for (Alone other : others) {
            if (one.times > 0 && other.times > 0 && areNear(one.row, other.row)) {
              long both = Math.min(one.times, other.times);
              one.times -= both;
              other.times -= both;
              paired += both;
            }
          }
        }
      }
    }
    return paired;
  }

  /** The first number of a row, by which rows that may be near are found quickly; NaN if none. */
  private double size(Alone each) {
    return IntStream.range(0, columns.size())
        .filter(i -> columns.get(i).isNumber())
        .boxed()
        .map(i -> Optional.ofNullable(columns.get(i).of(each.row.values().get(i))))
        .findFirst()
        .flatMap(value -> value)
        .filter(BigDecimal.class::isInstance)
        .map(number -> ((BigDecimal) number).doubleValue())
        .orElse(Double.NaN);
  }

  /** Those within more than any slack; which of them are near is looked at exactly. */
  private NavigableMap<Double, List<Alone>> near(
      NavigableMap<Double, List<Alone>> all, double size) {
    if (Double.isNaN(size)) {
      return all.tailMap(Double.NaN, true);
    }
    double within = 2 * options.tolerance().doubleValue() + 1e-3 + Math.abs(size) * 1e-9;
    return all.subMap(size - within, true, size + within, true);
  }

  private boolean areNear(Leftover one, Leftover other) {
    return IntStream.range(0, columns.size())
        .filter(i -> columns.get(i).isNumber())
        .allMatch(i -> areNear(i, one.values().get(i), other.values().get(i)));
  }

  private boolean areNear(int column, @Nullable Object one, @Nullable Object other) {
    Likeness likeness = columns.get(column);
    @Nullable Object here = likeness.of(one);
    @Nullable Object there = likeness.of(other);
    if (!(here instanceof BigDecimal number) || !(there instanceof BigDecimal second)) {
      return here == null ? there == null : here.equals(there);
    }
    BigDecimal most = options.tolerance().max(likeness.slack(number));
    return number.subtract(second).abs().compareTo(most) <= 0;
  }

  // ---- by a key ----

  private List<Change> changes(List<Alone> alone, List<Integer> key) {
    Map<List<@Nullable Object>, List<Alone>> byKey = byKey(alone, key);
    List<Change> changes = new ArrayList<>();
    for (List<Alone> group : byKey.values()) {
      if (group.size() == 2
          && group.stream().allMatch(each -> each.times == 1)
          && group.get(0).inFirst != group.get(1).inFirst) {
        Alone first = group.get(0).inFirst ? group.get(0) : group.get(1);
        Alone second = first == group.get(0) ? group.get(1) : group.get(0);
        changes.add(
            new Change(first.row.values(), second.row.values(), cells(first.row, second.row)));
        first.times = 0;
        second.times = 0;
      }
    }
    return changes;
  }

  private List<Integer> cells(Leftover first, Leftover second) {
    return IntStream.range(0, columns.size())
        .filter(i -> !areNear(i, first.values().get(i), second.values().get(i)))
        .boxed()
        .toList();
  }

  private Map<List<@Nullable Object>, List<Alone>> byKey(List<Alone> alone, List<Integer> key) {
    Set<Integer> positions = new HashSet<>(key);
    Map<List<@Nullable Object>, List<Alone>> groups = new LinkedHashMap<>();
    alone.stream()
        .filter(each -> each.times > 0)
        .forEach(
            each ->
                groups
                    .computeIfAbsent(like(each.row, positions::contains), any -> new ArrayList<>())
                    .add(each));
    return groups;
  }

  /** Columns by which most rows find one partner, the first ones first. */
  private List<Integer> found(List<Alone> alone) {
    List<List<Integer>> candidates = new ArrayList<>();
    for (int i = 0; i < columns.size(); i++) {
      candidates.add(List.of(i));
    }
    for (int i = 0; i < columns.size() && columns.size() <= FEW; i++) {
      for (int j = i + 1; j < columns.size(); j++) {
        candidates.add(List.of(i, j));
      }
    }
    List<Integer> best = List.of();
    long most = 0;
    for (List<Integer> each : candidates) {
      long pairs = pairs(alone, each).orElse(0L);
      if (pairs > most) {
        best = each;
        most = pairs;
      }
    }
    return best;
  }

  /** How many rows find a partner by some columns; empty if their values repeat in one result. */
  private Optional<Long> pairs(List<Alone> alone, List<Integer> key) {
    if (key.size() == columns.size()) {
      return Optional.empty();
    }
    long pairs = 0;
    for (List<Alone> group : byKey(alone, key).values()) {
      boolean repeats =
          group.stream().filter(each -> each.inFirst).count() > 1
              || group.stream().filter(each -> !each.inFirst).count() > 1
              || group.stream().anyMatch(each -> each.times > 1);
      if (repeats) {
        return Optional.empty();
      }
      pairs += group.size() == 2 ? 1 : 0;
    }
    return Optional.of(pairs);
  }

  private List<@Nullable Object> like(Leftover row, IntPredicate which) {
    List<@Nullable Object> values = new ArrayList<>();
    for (int i = 0; i < columns.size(); i++) {
      if (which.test(i)) {
        values.add(columns.get(i).of(row.values().get(i)));
      }
    }
    return values;
  }

  /** An order that is always the same: NULL first, numbers by size, anything else as text. */
  private static int compare(List<@Nullable Object> one, List<@Nullable Object> other) {
    for (int i = 0; i < one.size(); i++) {
      int order = compare(one.get(i), other.get(i));
      if (order != 0) {
        return order;
      }
    }
    return 0;
  }

  private static int compare(@Nullable Object one, @Nullable Object other) {
    if (one == null || other == null) {
      return one == other ? 0 : one == null ? -1 : 1;
    }
    if (one instanceof Number number && other instanceof Number second) {
      return Double.compare(number.doubleValue(), second.doubleValue());
    }
    return one.toString().compareTo(other.toString());
  }
}
