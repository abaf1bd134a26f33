package io.lantrel.engine;

import java.util.List;

/**
 * A statement that a database is sent.
 *
 * @param number from 1 on
 * @param sql the text as the database gets it
 * @param tables the tables it reads, each once, as they are written in it
 * @param way what the database does with it
 */
public record SentStatement(long number, String sql, List<String> tables, Way way) {
  public SentStatement {
    tables = List.copyOf(tables);
  }

  /** What becomes of a statement. */
  public enum Way {
    /** It is run, and its rows are read. */
    RUN,
    /** It is only planned: its columns are wanted, or whether the database takes it. */
    PLANNED
  }
}
