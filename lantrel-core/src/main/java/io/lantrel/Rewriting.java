package io.lantrel;

import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;

/**
 * A query in another form, and whether it gives the same rows here.
 *
 * @param has what the query has in that form, in words: {@code LEFT JOIN in place of RIGHT JOIN}
 * @param before the query as it was
 * @param sql the query in the form; the same text if it had that form already
 * @param rows how many rows both give; empty if not both were run, or they differ
 * @param difference a row that one of the two gives more often than the other, in a sentence; empty
 *     if the rows are the same, or were not compared
 * @param provenFor the data for which the two are proven to give the same rows, in words: {@code
 *     any data}, or {@code any data in which …}; empty if that was not proven, or if what it rests
 *     on does not hold here
 * @param remarks what else is to be known, in sentences: what was not run, and on which other data
 *     the two would differ; empty if they give the same rows on any data
 */
public record Rewriting(
    String has,
    String before,
    String sql,
    OptionalLong rows,
    Optional<String> difference,
    Optional<String> provenFor,
    List<String> remarks) {

  public Rewriting {
    remarks = List.copyOf(remarks);
  }

  /** Whether there was anything to change. */
  public boolean isChanged() {
    return !before.equals(sql);
  }
}
