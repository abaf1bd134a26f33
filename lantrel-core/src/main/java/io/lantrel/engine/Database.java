package io.lantrel.engine;

import io.lantrel.sql.tree.Query;
import java.util.Optional;

/**
 * An open database that answers questions and changes nothing. Not safe for use by several threads
 * at once.
 */
public interface Database extends AutoCloseable {

  /** The product and its version, as {@code DuckDB 2.0.0}. */
  String engine();

  /**
   * Runs a probe and returns all its rows.
   *
   * @throws DatabaseException if the database refuses it or takes too long
   */
  Rows ask(Query probe);

  /**
   * Runs a user's query, which must have been read as one before.
   *
   * @param sql the query
   * @param cap how many rows are fetched at most
   * @throws DatabaseException if the database refuses it or takes too long
   */
  Rows run(String sql, int cap);

  /**
   * Why the database would not run a query; empty if it would. The query is planned, not run.
   *
   * @param sql a printed query, or one statement without a semicolon that begins like a query: some
   *     drivers run the first of several statements while they prepare the last
   */
  Optional<Refusal> refusal(String sql);

  @Override
  void close();
}
