package io.lantrel.ledger;

import org.jspecify.annotations.Nullable;

/**
 * Which rows of an account are named, and how many.
 *
 * @param most how many at most for each reason, from 0 to {@value #ALL}
 * @param figure the one figure whose rows are named; null for all
 * @param step of which step of the whole query, from 1 for its first table; 0 if of all
 */
public record Naming(int most, @Nullable Figure figure, int step) {

  /** So many are named at most. */
  public static final int ALL = 10_000;

  /** Some for each reason. */
  public static Naming some(int most) {
    return new Naming(Math.min(most, ALL), null, 0);
  }

  /**
   * All rows that one figure counts at one step.
   *
   * @param step from 1 for the first table of the whole query
   */
  public static Naming of(Figure figure, int step) {
    return new Naming(ALL, figure, step);
  }

  /** How many rows are named that a figure counts at a step of the whole query. */
  public int most(Figure counted, int at) {
    return figure == null || (figure == counted && step == at) ? most : 0;
  }

  /** The same for the queries in it. */
  public Naming inner() {
    return figure == null ? this : some(0);
  }
}
