package io.lantrel.draft;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * What a result should show, in the words of the tables. Immutable: every method gives a new wish.
 *
 * <pre>{@code
 * Wish.show("station.name", "river.name").keepEvery("station")
 * Wish.show("river.name", "average reading.temperature").keepEvery("river")
 * Wish.show("species.name").without("sighting")
 * Wish.show("warden.given_name", "mentor.given_name")
 * Wish.show("river.name").below("river", "river.name = 'Ombrel'")
 * }</pre>
 *
 * <p>A column is {@code table.column}. In place of the table its role can stand, as a reference to
 * it names it: {@code mentor} for the warden that {@code mentor_id} refers to. A figure is {@code
 * count of}, {@code count of different}, {@code sum of}, {@code average of}, {@code least of} or
 * {@code greatest of}; "of" can be left out. What is counted is a table, or a column.
 *
 * @param shown columns and figures, in order
 * @param kept tables none of whose rows may be missing
 * @param absent what must not be there
 * @param conditions conditions in SQL, over columns in this form
 * @param order what the rows are put in order by: something shown or a column, with or without DESC
 * @param pairs of which table pairs are wanted, and at which they meet; empty for none
 * @param walk the hierarchy to walk; empty for none
 * @param branches the hierarchy for whose rows figures are worked out over all rows below them too;
 *     empty for none
 * @param everyPair whether lists that have nothing to do with each other are put side by side, each
 *     row of one with each of the other; else one is put behind the other
 * @param query the query that goes on and shows these things besides; empty for a new one
 */
public record Wish(
    List<String> shown,
    List<String> kept,
    List<Absent> absent,
    List<String> conditions,
    List<String> order,
    Optional<Pairs> pairs,
    Optional<Walk> walk,
    Optional<String> branches,
    boolean everyPair,
    Optional<String> query) {

  public Wish {
    shown = List.copyOf(shown);
    kept = List.copyOf(kept);
    absent = List.copyOf(absent);
    conditions = List.copyOf(conditions);
    order = List.copyOf(order);
  }

  /**
   * Rows that must not be there.
   *
   * @param table of which table
   * @param condition which rows of it, in SQL; empty for any
   */
  public record Absent(String table, String condition) {}

  /**
   * Pairs of rows of one table.
   *
   * @param of the table; the second of each pair is called {@code other}
   * @param at the table, or the role, that both refer to
   */
  public record Pairs(String of, String at) {}

  /**
   * A walk along a hierarchy.
   *
   * @param table which refers to itself
   * @param start where it starts: a condition in SQL; empty for the rows that refer to none, which
   *     then are among those that are found
   * @param down whether it goes to the rows that refer to the start, and on; else to those that the
   *     start refers to, and on
   */
  public record Walk(String table, String start, boolean down) {}

  /** A wish for columns and figures. */
  public static Wish show(String... items) {
    return new Wish(
        Arrays.asList(items),
        List.of(),
        List.of(),
        List.of(),
        List.of(),
        Optional.empty(),
        Optional.empty(),
        Optional.empty(),
        false,
        Optional.empty());
  }

  /** None of the rows of these tables may be missing. */
  public Wish keepEvery(String... tables) {
    return with(more(kept, Arrays.asList(tables)), absent, conditions, order);
  }

  /** Only rows to which none of the table belongs. */
  public Wish without(String table) {
    return without(table, "");
  }

  /**
   * Only rows to which none of the table belongs that meets a condition.
   *
   * @param condition in SQL, over columns of the table
   */
  public Wish without(String table, String condition) {
    return with(kept, more(absent, List.of(new Absent(table, condition))), conditions, order);
  }

  /** Only rows that meet a condition, in SQL. */
  public Wish where(String condition) {
    return with(kept, absent, more(conditions, List.of(condition)), order);
  }

  /** The order of the rows: things shown, or columns; {@code DESC} may follow. */
  public Wish orderBy(String... items) {
    return with(kept, absent, conditions, more(order, Arrays.asList(items)));
  }

  /**
   * Pairs of rows of a table that refer to the same row, or that rows of one table refer to beside
   * the same row; each pair once.
   */
  public Wish pairsOf(String table, String at) {
    return new Wish(
        shown,
        kept,
        absent,
        conditions,
        order,
        Optional.of(new Pairs(table, at)),
        walk,
        branches,
        everyPair,
        query);
  }

  /** All rows of a table that refer to some rows of it, directly or over others. */
  public Wish below(String table, String start) {
    return walking(new Walk(table, start, true));
  }

  /** All rows of a table with their level below a row that refers to none, which has level 0. */
  public Wish below(String table) {
    return below(table, "");
  }

  /**
   * Figures for each row of a table that refers to itself are of the rows below it too, over any
   * number of levels: the stations of a river and of all that flow into it.
   */
  public Wish overBranchesOf(String table) {
    return new Wish(
        shown, kept, absent, conditions, order, pairs, walk, Optional.of(table), everyPair, query);
  }

  /** All rows of a table that some rows of it refer to, directly or over others. */
  public Wish above(String table, String start) {
    return walking(new Walk(table, start, false));
  }

  /**
   * The same things besides what a query shows: what is needed for them is put into its text, in
   * its own way of writing, and nothing else is changed. A table that it has can also be named by
   * its alias there.
   */
  public Wish continuing(String sql) {
    return new Wish(
        shown, kept, absent, conditions, order, pairs, walk, branches, everyPair, Optional.of(sql));
  }

  /**
   * Lists that have nothing to do with each other, as the readings and the sightings of a station,
   * stand side by side: each row of one with each row of the other.
   */
  public Wish withEveryPair() {
    return new Wish(shown, kept, absent, conditions, order, pairs, walk, branches, true, query);
  }

  /** The same for other things, in no order, and no list is put behind another. */
  Wish of(List<String> items, List<String> keep, List<String> where) {
    return new Wish(items, keep, absent, where, List.of(), pairs, walk, branches, true, query);
  }

  /** For each condition the wish without it; that of a walk becomes one that is never false. */
  public Map<String, Wish> eachWithoutACondition() {
    Map<String, Wish> others = new LinkedHashMap<>();
    for (String condition : conditions) {
      others.put(condition, with(kept, absent, except(conditions, condition), order));
    }
    for (Absent none : absent) {
      if (!none.condition().isEmpty()) {
        others.put(none.condition(), with(kept, except(absent, none), conditions, order));
      }
    }
    walk.filter(each -> !each.start().isEmpty())
        .ifPresent(
            each ->
                others.put(each.start(), walking(new Walk(each.table(), "1 = 1", each.down()))));
    return others;
  }

  private static <T> List<T> except(List<T> some, T one) {
    return some.stream().filter(each -> !each.equals(one)).toList();
  }

  private Wish with(
      List<String> keep, List<Absent> none, List<String> where, List<String> orderedBy) {
    return new Wish(shown, keep, none, where, orderedBy, pairs, walk, branches, everyPair, query);
  }

  private Wish walking(Walk wanted) {
    return new Wish(
        shown,
        kept,
        absent,
        conditions,
        order,
        pairs,
        Optional.of(wanted),
        branches,
        everyPair,
        query);
  }

  private static <T> List<T> more(List<T> some, List<T> further) {
    List<T> all = new ArrayList<>(some);
    all.addAll(further);
    return all;
  }
}
