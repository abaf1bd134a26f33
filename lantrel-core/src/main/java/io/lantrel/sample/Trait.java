package io.lantrel.sample;

import java.util.Locale;

/**
 * Something that rows can have, and in which mistakes show.
 *
 * @param table the table
 * @param sort what it is about
 * @param about the column, as {@code capacity}; or the partners, as {@code reading}, or {@code
 *     river by flows_into}; or empty
 * @param words what it is, as {@code NULL}, {@code none}
 * @param outcome whether the sample has it
 */
public record Trait(String table, Sort sort, String about, String words, Outcome outcome) {

  /** What a trait is about. */
  public enum Sort {
    /** What a column holds. */
    VALUE,
    /** How many rows refer to one. */
    PARTNERS,
    /** Where a row refers to. */
    REFERENCE,
    /** What rows have in common. */
    LIKENESS;

    /** The name in files. */
    public String id() {
      return name().toLowerCase(Locale.ROOT);
    }
  }

  /** What became of it. */
  public enum Outcome {
    /** A row of the sample has it. */
    KEPT,
    /** No row of the database has it. */
    ABSENT,
    /** The database has it, and there was no room. */
    NO_ROOM;

    /** The name in files: {@code no-room}. */
    public String id() {
      return name().toLowerCase(Locale.ROOT).replace('_', '-');
    }
  }

  /** One that the sample has. */
  public static Trait of(String table, Sort sort, String about, String words) {
    return new Trait(table, sort, about, words, Outcome.KEPT);
  }

  /** The same with another outcome. */
  public Trait as(Outcome other) {
    return new Trait(table, sort, about, words, other);
  }
}
