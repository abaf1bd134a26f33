package io.lantrel.trace;

import io.lantrel.words.Words;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * What became of one row.
 *
 * @param outcome whether it is in the result
 * @param row the row by name, as {@code station 14 (Spare Float)}, or {@code row 3}
 * @param stage where it was lost or merged; empty if it was not
 * @param condition what it did not meet there, as it is written; empty if it is no condition
 * @param values the values that tell why: those that failed, or those that the row shows
 * @param sources the rows that it was put together from, or the row itself where it was lost
 * @param sentences the same in words, in order
 */
public record Answer(
    Outcome outcome,
    String row,
    Optional<Stage> stage,
    String condition,
    List<TracedValue> values,
    List<Source> sources,
    List<String> sentences) {
  public Answer {
    values = List.copyOf(values);
    sources = List.copyOf(sources);
    sentences = List.copyOf(sentences);
  }

  /** The same with a further sentence. */
  public Answer saying(String sentence) {
    List<String> more = new ArrayList<>(sentences);
    more.add(sentence);
    return new Answer(outcome, row, stage, condition, values, sources, more);
  }

  /** Whether a row is in a result. */
  public enum Outcome {
    /** It is there. */
    PRESENT,
    /** It went no further than a step. */
    LOST,
    /** It is there as one with other rows that look the same. */
    MERGED,
    /** There is none like it to begin with. */
    NO_SUCH_ROW;

    /** The name in files: {@code no-such-row}. */
    public String id() {
      return name().toLowerCase(Locale.ROOT).replace('_', '-');
    }
  }

  /** The steps of a block at which rows can be lost or put together. */
  public enum Kind {
    JOIN,
    WHERE,
    HAVING,
    QUALIFY,
    DISTINCT,
    UNION,
    LIMIT
  }

  /**
   * A step.
   *
   * @param kind which sort
   * @param join the number of the join, from 1 in the order of the text; 0 if it is none
   * @param block what the block is called that it is in: the alias of a query in FROM; empty for
   *     the whole query
   * @param words the step as it is called in the ledger
   */
  public record Stage(Kind kind, int join, String block, String words) {

    /** The name in files: the number of a join, or {@code where}. */
    public String id() {
      return kind == Kind.JOIN ? String.valueOf(join) : kind.name().toLowerCase(Locale.ROOT);
    }
  }

  /**
   * A value with its name.
   *
   * @param name what it is called: a column as {@code s.river_id}, or a heading
   * @param value as text; null for NULL
   */
  public record TracedValue(String name, @Nullable String value) {

    /** In words: {@code s.river_id is NULL}; a text that has blanks at an end in quotes. */
    public String words() {
      return name + " is " + (value == null ? "NULL" : Words.shown(value));
    }
  }

  /**
   * A row that another one was put together from, or the rows that a subquery found for it.
   *
   * @param use what its table goes by in the query; {@code the subquery in WHERE} if it stands for
   *     the rows that a subquery found
   * @param table the table, or the alias of a query in FROM; empty for a subquery
   * @param filled why an outer join found no row; empty if there is one
   * @param values what tells the row from others, and what the query names of it; of a subquery
   *     that stands for one value, that
   * @param sources the rows that it was put together from itself, if it is of a query in FROM; the
   *     rows that a subquery found
   */
  public record Source(
      String use, String table, String filled, List<TracedValue> values, List<Source> sources) {
    public Source {
      values = List.copyOf(values);
      sources = List.copyOf(sources);
    }

    /** The same with the rows that it was put together from. */
    public Source withSources(List<Source> within) {
      return new Source(use, table, filled, values, within);
    }
  }
}
