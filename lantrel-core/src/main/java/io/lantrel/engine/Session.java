package io.lantrel.engine;

import io.lantrel.catalog.Catalog;
import io.lantrel.engine.DatabaseException.Reason;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.SqlPrinter;
import io.lantrel.sql.tree.Query;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.ResultSetMetaData;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * One connection for reading. Every statement runs in a transaction that only reads and is rolled
 * back, under a time limit, and fetches no more rows than were asked for.
 */
final class Session implements Database {

  private final Product product;
  private final Connection connection;
  private final boolean live;
  private final StopWatch watch;

  /** Sample data never changes, so one transaction lasts until something fails in it. */
  private boolean begun;

  private Session(Product product, Connection connection, boolean live, Duration timeout) {
    this.product = product;
    this.connection = connection;
    this.live = live;
    this.watch = new StopWatch(timeout, product.holdsTimeLimits());
  }

  /**
   * Connects to somebody's own database.
   *
   * @throws DatabaseException if that fails
   */
  static Session connect(Access access) {
    Product product = access.engine().product();
    try {
      return new Session(product, product.connect(access), true, access.timeout());
    } catch (SQLException failure) {
      Reason reason = product.reason(failure);
      throw new DatabaseException(
          reason == Reason.NO_PERMISSION ? reason : Reason.CONNECTION_LOST,
          "cannot connect to " + access.url() + ": " + product.words(failure),
          failure);
    }
  }

  /** Reads from a database that was filled with sample data. */
  static Session over(EmbeddedProduct product, Connection connection) {
    return new Session(product, connection, false, Access.TIMEOUT);
  }

  /**
   * What a query can use.
   *
   * @throws DatabaseException if the database does not tell
   */
  Catalog catalog() {
    return readOnly(() -> watch.limit(null, () -> product.catalog(connection)));
  }

  @Override
  public String engine() {
    try {
      String version = connection.getMetaData().getDatabaseProductVersion();
      String name =
          product instanceof OtherProduct
              ? connection.getMetaData().getDatabaseProductName()
              : product.title();
      String number = version.replaceFirst("^\\D+", "").replaceFirst("[^0-9.].*$", "");
      return name + " " + number;
    } catch (SQLException failure) {
      throw failed(failure);
    }
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
  public Rows ask(Query probe) {
    return run(probe, Integer.MAX_VALUE);
  }

  @Override
  public Rows run(Query query, int cap) {
    Unrunnable.because(query).ifPresent(Session::refuse);
    String sql = SqlPrinter.print(query, product.dialect());
    int wanted = cap == Integer.MAX_VALUE ? cap : cap + 1;
    return readOnly(
        () -> {
          try (Statement statement = product.statement(connection, wanted)) {
            if (product.holdsTimeLimits()) {
              statement.setQueryTimeout((int) watch.limit().toSeconds());
            }
            return watch.limit(
                statement,
                () -> {
                  try (ResultSet result = statement.executeQuery(sql)) {
                    return fetch(result, cap);
                  }
                });
          }
        });
  }

  private static void refuse(String reason) {
    throw new DatabaseException(Reason.REFUSED, reason, null);
  }

  @Override
  public Optional<Refusal> refusal(Query query) {
    Optional<String> unrunnable = Unrunnable.because(query);
    return unrunnable.isPresent()
        ? unrunnable.map(reason -> new Refusal(reason, false))
        : refusal(SqlPrinter.print(query, product.dialect()));
  }

  @Override
  public Optional<Refusal> refusalOfUnread(String sql) {
    if (live) {
      throw new IllegalStateException("only what was read may reach this database");
    }
    return refusal(sql);
  }

  private Optional<Refusal> refusal(String sql) {
    try {
      readOnly(
          () ->
              watch.limit(
                  null,
                  () -> {
                    product.plan(connection, sql);
                    return true;
                  }));
      return Optional.empty();
    } catch (DatabaseException refused) {
      if (refused.isTheEnd()) {
        throw refused;
      }
      boolean syntax = refused.reason() == Reason.NOT_READ;
      return Optional.of(new Refusal(String.valueOf(refused.getMessage()), syntax));
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
      watch.check();
      rows.add(values.row());
    }
    return new Rows(headings, rows, rows.size() == cap && result.next());
  }

  private <T> T readOnly(Work<T> work) {
    if (watch.isCancelled()) {
      throw new DatabaseException(Reason.CANCELLED, "stopped", null);
    }
    watch.reset();
    DatabaseException refused = null;
    try {
      if (live || !begun) {
        product.begin(connection);
        begun = true;
      }
      return work.run();
    } catch (SQLException failure) {
      refused = failed(failure);
      throw refused;
    } catch (DatabaseException failure) {
      refused = failure;
      throw failure;
    } catch (RuntimeException failure) {
      // Some drivers fail in other ways over what they cannot handle.
      refused = new DatabaseException(Reason.REFUSED, "the driver failed: " + failure, failure);
      throw refused;
    } finally {
      if (live || refused != null) {
        begun = false;
        rollBack(refused);
      }
    }
  }

  private void rollBack(@Nullable DatabaseException first) {
    try {
      if (!connection.isClosed()) {
        product.end(connection);
      }
    } catch (SQLException failure) {
      if (first == null) {
        throw failed(failure);
      }
      first.addSuppressed(failure);
    }
  }

  private DatabaseException failed(SQLException failure) {
    Reason reason = watch.isCancelled() ? Reason.CANCELLED : product.reason(failure);
    if (reason != Reason.CANCELLED && watch.hasStopped()) {
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
          case TOOK_TOO_LONG -> product.title() + " was stopped after " + watch.limitInWords();
          case CONNECTION_LOST -> "the connection to " + product.title() + " was lost: " + words;
          case NO_PERMISSION -> product.title() + " does not permit it: " + words;
          case NOT_READ, REFUSED -> words;
        },
        failure);
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
    watch.cancel();
  }

  @Override
  public void close() {
    watch.close();
    try {
      connection.close();
    } catch (SQLException failure) {
      // Who stopped it does not care how the connection ends.
      if (!watch.isCancelled()) {
        throw failed(failure);
      }
    }
  }

  /** What may fail as JDBC does. */
  interface Work<T> {
    T run() throws SQLException;
  }
}
