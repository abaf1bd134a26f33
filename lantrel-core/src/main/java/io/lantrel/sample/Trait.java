package io.lantrel.sample;

import java.util.Locale;

/**
 * Something that rows can have, and in which mistakes show.
 *
 * @param table the table
 * @param about a column of it, as {@code capacity}; empty if it is about its partners
 * @param words what it is, as {@code NULL}, {@code without a reading}
 * @param outcome whether the sample has it
 */
public record Trait(String table, String about, String words, Outcome outcome) {

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

  /** The same with another outcome. */
  public Trait as(Outcome other) {
    return new Trait(table, about, words, other);
  }
}
