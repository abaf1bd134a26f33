package io.lantrel.engine;

import io.lantrel.sql.Dialect;
import io.lantrel.sql.tree.Query;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;

/**
 * An open database that answers questions and changes nothing. Several threads may use it; they
 * take turns.
 */
public interface Database extends AutoCloseable {

  /** The product and its version, as {@code DuckDB 2.0.0}. */
  String engine();

  /** How it reads SQL. */
  Dialect dialect();

  /**
   * Whether it is somebody's own database, and not one that Lantrel filled with sample data.
   * Nothing but queries that were read reaches it.
   */
  boolean isLive();

  /**
   * Whether it holds so few rows that what a statement costs does not depend on them: then it is
   * better to ask for more at a time than to ask first whether there is anything to see.
   */
  boolean isSmall();

  /**
   * Whether it mixes up several uses of a query of WITH in one statement, if another one of WITH
   * uses it as well: HSQLDB lets the conditions of one use hold for the others.
   */
  boolean mixesUpWith();

  /**
   * Whether it may take what one part of a UNION joins for what another part does: DuckDB, where
   * its settings belong to somebody else.
   */
  boolean mixesUpParts();

  /**
   * Runs a probe and returns all its rows.
   *
   * @throws DatabaseException if the database refuses it, takes too long, or is lost
   */
  Rows ask(Query probe);

  /**
   * Runs a user's query.
   *
   * @param query the query; it is printed, so that nothing reaches the database that was not read
   * @param cap how many rows are fetched at most
   * @throws DatabaseException if the database refuses it, takes too long, or is lost
   */
  Rows run(Query query, int cap);

  /**
   * Runs a user's query and hands over its rows one by one; none is kept, so that there may be any
   * number of them.
   *
   * @param reader takes each row, which is its own; it asks nothing of the database
   * @throws DatabaseException if the database refuses it, takes too long, or is lost
   */
  void each(Query query, Consumer<List<@Nullable Object>> reader);

  /**
   * The columns that a query gives. It is planned, not run.
   *
   * @throws DatabaseException if the database refuses it, takes too long, or is lost
   */
  List<ResultColumn> columns(Query query);

  /**
   * Why the database would not run a query; empty if it would. The query is planned, not run.
   *
   * @throws DatabaseException if the database takes too long or is lost
   */
  Optional<String> refusal(Query query);

  /**
   * Does something during which all answers come from the rows as they are at its start, if the
   * database can hold them: figures of several statements agree with each other then. Within
   * another such work it belongs to that one.
   */
  <T> T inSnapshot(Supplier<T> work);

  /** Whether another one reads through the same connection, so that one query can read both. */
  boolean isSameAs(Database other);

  /** The same database with one time limit for all that is asked from now on. */
  Database forStudy();

  /**
   * How many statements were sent so far: queries run and queries planned, but neither what begins
   * or ends a transaction, nor what was read of the catalog.
   */
  long statementsSent();

  /** Has somebody told of every statement from now on, in the place of whoever was before. */
  void watchedBy(StatementWatcher watcher);

  /** Stops what is running, from another thread; nothing can be asked any more. */
  void cancel();

  @Override
  void close();
}
