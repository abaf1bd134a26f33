package io.lantrel.engine;

import io.lantrel.catalog.Catalog;
import io.lantrel.engine.DatabaseException.Reason;
import io.lantrel.engine.EngineThread.LeftAloneException;
import io.lantrel.engine.SentStatement.Way;
import io.lantrel.engine.harmless.DatabaseObjects;
import io.lantrel.engine.harmless.Permission;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.outgoing.Outgoing;
import io.lantrel.sql.outgoing.UnsendableException;
import io.lantrel.sql.tree.Query;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.ResultSetMetaData;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.concurrent.locks.ReentrantLock;
import java.util.function.Consumer;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;

/**
 * One connection for reading. Every statement runs in a transaction that only reads and is rolled
 * back, under a time limit, on a thread of its own, and fetches no more rows than were asked for.
 */
final class Session implements Database {

  /** Rows of one answer: more are not held in memory. */
  static final int MOST_ROWS = 2_000_000;

  /** How much longer than the time limit an answer is waited for. */
  private static final Duration GRACE = Duration.ofMillis(1_700);

  private final Product product;
  private final Connection connection;
  private final boolean live;
  private final boolean small;
  private final Limits limits;
  private final EngineThread thread;
  private final TimeLimit time;
  private final ReadTransactions transactions;

  /** Threads take turns: a connection does one thing at a time. */
  private final ReentrantLock turn = new ReentrantLock(true);

  /** How the connection ends. */
  private final Product.Settling ending;

  private @Nullable Permission permission;

  /** Of sample data, whose tables are in no schema. */
  private @Nullable WithoutSchemas names;

  private volatile boolean leftAlone;
  private boolean mixesUpParts;
  private long statementsSent;

  private StatementWatcher watcher = StatementWatcher.NONE;

  Session(
      Product product,
      Connection connection,
      EngineThread thread,
      boolean live,
      boolean small,
      Limits limits,
      Product.Settling ending) {
    this.product = product;
    this.connection = connection;
    this.thread = thread;
    this.live = live;
    this.small = small;
    this.limits = limits;
    this.ending = ending;
    this.time = new TimeLimit(product.holdsTimeLimits());
    this.transactions = new ReadTransactions(product, connection, live);
  }

  /**
   * What a query can use.
   *
   * @throws DatabaseException if the database does not tell
   */
  Catalog catalog() {
    return readOnly(limits.time(), () -> product.catalog(connection));
  }

  /**
   * From now on queries run, if all that they use is harmless.
   *
   * @throws DatabaseException if a live database does not tell what it has
   */
  void permit(Catalog catalog) {
    DatabaseObjects objects =
        live ? readOnly(limits.time(), () -> product.objects(connection)) : DatabaseObjects.none();
    permission = new Permission(catalog, objects, limits.allowed());
    names = live ? null : new WithoutSchemas(catalog);
    mixesUpParts = live && readOnly(limits.time(), () -> product.mixesUpParts(connection));
  }

  /** What the user may do besides reading, in a sentence with what would be better. */
  Optional<String> noteOnRights() {
    return readOnly(limits.time(), () -> product.noteOnRights(connection));
  }

  @Override
  public String engine() {
    return readOnly(
        limits.time(),
        () -> {
          String version = connection.getMetaData().getDatabaseProductVersion();
          String name =
              product instanceof OtherProduct
                  ? connection.getMetaData().getDatabaseProductName()
                  : product.title();
          String number = version.replaceFirst("^\\D+", "").replaceFirst("[^0-9.].*$", "");
          return (name + " " + number).strip();
        });
  }

  @Override
  public Dialect dialect() {
    return product.dialect();
  }

  @Override
  public boolean isLive() {
    return live;
  }

  @Override
  public boolean mixesUpWith() {
    return product.mixesUpWith();
  }

  @Override
  public boolean mixesUpParts() {
    return mixesUpParts;
  }

  @Override
  public boolean isSmall() {
    return small;
  }

  @Override
  public boolean isSameAs(Database other) {
    return other == this || (other instanceof StudyBudget budget && budget.isSameAs(this));
  }

  @Override
  public long statementsSent() {
    return statementsSent;
  }

  @Override
  public Database forStudy() {
    return new StudyBudget(this, limits.time());
  }

  @Override
  public Rows ask(Query probe) {
    return run(probe, MOST_ROWS, limits.time());
  }

  @Override
  public Rows run(Query query, int cap) {
    return run(query, cap, limits.time());
  }

  Rows run(Query query, int cap, Duration limit) {
    int most = Math.min(cap, MOST_ROWS);
    return read(product.capped(query, most + 1), most + 1, limit, result -> fetch(result, most));
  }

  @Override
  public void each(Query query, Consumer<List<@Nullable Object>> reader) {
    each(query, reader, limits.time());
  }

  /** The number of rows. */
  long each(Query query, Consumer<List<@Nullable Object>> reader, Duration limit) {
    return read(
        query,
        Integer.MAX_VALUE,
        limit,
        result -> {
          ValueReader values = new ValueReader(result, result.getMetaData());
          long rows = 0;
          while (result.next()) {
            time.check();
            reader.accept(values.row());
            rows++;
          }
          return rows;
        });
  }

  private <T> T read(Query query, int most, Duration limit, Reading<T> reading) {
    unrunnable(query).ifPresent(Session::refuse);
    return send(
        query,
        Way.RUN,
        limit,
        sql -> {
          try (Statement statement = product.statement(connection, most)) {
            time.watch(statement);
            if (product.holdsTimeLimits()) {
              statement.setQueryTimeout((int) Math.max(1, limit.toSeconds()));
            }
            try (ResultSet result = statement.executeQuery(sql)) {
              T read = reading.of(result);
              while (product.readsToTheEnd() && result.next()) {
                time.check();
              }
              return read;
            }
          }
        });
  }

  @Override
  public List<ResultColumn> columns(Query query) {
    return columns(query, limits.time());
  }

  List<ResultColumn> columns(Query query, Duration limit) {
    unrunnable(query).ifPresent(Session::refuse);
    return send(query, Way.PLANNED, limit, sql -> product.columns(connection, sql, time));
  }

  /** Why a query is not run here at all, in a sentence. */
  private Optional<String> unrunnable(Query query) {
    return Objects.requireNonNull(permission, "nobody has looked at what the database has")
        .refusal(query)
        .or(
            () ->
                query
                    .openParameter()
                    .map(
                        parameter ->
                            "the parameter "
                                + parameter.text()
                                + " has no value here; write a value in its place"));
  }

  private String sent(Query query) {
    try {
      Query told = names == null ? query : names.apply(query);
      return Outgoing.statement(told, product.dialect());
    } catch (UnsendableException unsendable) {
      throw new DatabaseException(
          Reason.REFUSED, String.valueOf(unsendable.getMessage()), unsendable);
    }
  }

  private static void refuse(String reason) {
    throw new DatabaseException(Reason.REFUSED, reason, null);
  }

  @Override
  public Optional<String> refusal(Query query) {
    return refusal(query, limits.time());
  }

  Optional<String> refusal(Query query, Duration limit) {
    Optional<String> unrunnable = unrunnable(query);
    if (unrunnable.isPresent()) {
      return unrunnable;
    }
    try {
      send(
          query,
          Way.PLANNED,
          limit,
          sql -> {
            product.plan(connection, sql, time);
            return true;
          });
      return Optional.empty();
    } catch (DatabaseException refused) {
      if (refused.isFatal()) {
        throw refused;
      }
      return Optional.of(String.valueOf(refused.getMessage()));
    }
  }

  private Rows fetch(ResultSet result, int cap) throws SQLException {
    ResultSetMetaData meta = result.getMetaData();
    List<String> headings = new ArrayList<>();
    for (int column = 1; column <= meta.getColumnCount(); column++) {
      headings.add(product.dialect().fromProduct(meta.getColumnLabel(column)));
    }
    ValueReader values = new ValueReader(result, meta);
    List<List<@Nullable Object>> rows = new ArrayList<>();
    while (rows.size() < cap && result.next()) {
      time.check();
      rows.add(values.row());
    }
    return new Rows(headings, rows, rows.size() == cap && result.next(), values.worded());
  }

  /** Sends a statement and tells of it, while no other thread sends one. */
  private <T> T send(Query query, Way way, Duration limit, Sending<T> sending) {
    String sql = sent(query);
    return inTurn(
        () -> {
          SentStatement statement = SentStatement.of(++statementsSent, sql, query, way);
          watcher.begins(statement);
          long begun = System.nanoTime();
          DatabaseException why = null;
          try {
            return alone(limit, () -> sending.of(sql));
          } catch (DatabaseException failure) {
            why = failure;
            throw failure;
          } finally {
            watcher.ended(statement, Duration.ofNanos(System.nanoTime() - begun), why);
          }
        });
  }

  @Override
  public void watchedBy(StatementWatcher other) {
    inTurn(
        () -> {
          watcher = other;
          return true;
        });
  }

  private <T> T readOnly(Duration limit, Work<T> work) {
    return inTurn(() -> alone(limit, work));
  }

  /** Does something while no other thread uses the connection. */
  <T> T inTurn(Supplier<T> work) {
    turn.lock();
    try {
      return work.get();
    } finally {
      turn.unlock();
    }
  }

  private <T> T alone(Duration limit, Work<T> work) {
    if (time.isCancelled()) {
      throw new DatabaseException(Reason.CANCELLED, "stopped", null);
    }
    if (leftAlone) {
      throw new DatabaseException(
          Reason.CONNECTION_LOST, product.title() + " does not answer any more", null);
    }
    time.reset();
    try {
      return thread.call(
          () -> time.within(limit, () -> transactions.run(work)),
          limit.plus(GRACE),
          time::isCancelled);
    } catch (LeftAloneException silent) {
      leftAlone = true;
      throw new DatabaseException(
          time.isCancelled() ? Reason.CANCELLED : Reason.CONNECTION_LOST,
          time.isCancelled()
              ? "stopped"
              : product.title() + " did not answer within " + words(limit),
          silent);
    } catch (SQLException failure) {
      throw failed(failure, limit);
    }
  }

  @Override
  public <T> T inSnapshot(Supplier<T> work) {
    return inTurn(() -> snapshot(work));
  }

  private <T> T snapshot(Supplier<T> work) {
    if (!transactions.enterSnapshot()) {
      return work.get();
    }
    T result;
    try {
      result = work.get();
    } catch (RuntimeException | Error failure) {
      try {
        endSnapshot();
      } catch (DatabaseException further) {
        failure.addSuppressed(further);
      }
      throw failure;
    }
    endSnapshot();
    return result;
  }

  private void endSnapshot() {
    // A database that is lost or left alone ends it by itself.
    if (!transactions.leaveSnapshot() || leftAlone || time.isCancelled()) {
      return;
    }
    try {
      thread.call(
          () -> {
            transactions.end();
            return true;
          },
          GRACE,
          time::isCancelled);
    } catch (LeftAloneException silent) {
      leftAlone = true;
      throw new DatabaseException(
          Reason.CONNECTION_LOST, product.title() + " does not answer any more", silent);
    } catch (SQLException failure) {
      throw failed(failure, GRACE);
    }
  }

  private DatabaseException failed(SQLException failure, Duration limit) {
    Reason reason = time.isCancelled() ? Reason.CANCELLED : product.reason(failure);
    if (reason != Reason.CANCELLED && time.hasStopped()) {
      reason = Reason.TOOK_TOO_LONG;
    }
    if (reason == Reason.REFUSED && isClosed()) {
      reason = Reason.CONNECTION_LOST;
    }
    String words = product.words(failure);
    return new DatabaseException(
        reason,
        switch (reason) {
          case CANCELLED -> "stopped";
          case TOOK_TOO_LONG -> product.title() + " was stopped after " + words(limit);
          case CONNECTION_LOST -> "the connection to " + product.title() + " was lost: " + words;
          case NO_PERMISSION -> product.title() + " does not permit it: " + words;
          case NOT_READ, REFUSED, UNSAFE -> words;
        },
        failure);
  }

  /** A time in words, in whole seconds. */
  static String words(Duration limit) {
    long seconds = Math.max(1, Math.round(limit.toMillis() / 1_000.0));
    return seconds == 1 ? "1 second" : seconds + " seconds";
  }

  private boolean isClosed() {
    try {
      return connection.isClosed();
    } catch (SQLException failure) {
      throw new DatabaseException(Reason.CONNECTION_LOST, product.words(failure), failure);
    }
  }

  @Override
  public void cancel() {
    time.cancel();
  }

  @Override
  public void close() {
    try {
      if (!leftAlone) {
        thread.call(
            () -> {
              ending.run();
              return true;
            },
            GRACE,
            time::isCancelled);
      }
    } catch (LeftAloneException silent) {
      // A server that does not even take leave is let go; the thread is a daemon.
      leftAlone = true;
    } catch (SQLException failure) {
      // Who stopped it does not care how the connection ends.
      if (!time.isCancelled()) {
        throw failed(failure, GRACE);
      }
    } finally {
      time.close();
      thread.close();
    }
  }

  /** What reads a result. */
  private interface Reading<T> {
    T of(ResultSet result) throws SQLException;
  }

  /** What is done with a text that is sent. */
  private interface Sending<T> {
    T of(String sql) throws SQLException;
  }

  /** What may fail as JDBC does. */
  interface Work<T> {
    T run() throws SQLException;
  }
}
