package io.lantrel.engine;

import io.lantrel.sql.tree.CommonTable;
import io.lantrel.sql.tree.FromItem;
import io.lantrel.sql.tree.Query;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;

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

  /** The same with the tables of a query; what it defines itself is none. */
  static SentStatement of(long number, String sql, Query query, Way way) {
    Set<String> defined = new HashSet<>();
    Set<String> read = new LinkedHashSet<>();
    query
        .preorder()
        .forEach(
            node -> {
              if (node instanceof CommonTable common) {
                defined.add(common.name().text());
              } else if (node instanceof FromItem.TableName table) {
                read.add(table.last().text());
              }
            });
    read.removeAll(defined);
    return new SentStatement(number, sql, List.copyOf(read), way);
  }

  /** What becomes of a statement. */
  public enum Way {
    /** It is run, and its rows are read. */
    RUN,
    /** It is only planned: its columns are wanted, or whether the database takes it. */
    PLANNED
  }
}
