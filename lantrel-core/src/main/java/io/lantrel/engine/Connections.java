package io.lantrel.engine;

import io.lantrel.engine.DatabaseException.Reason;
import io.lantrel.engine.EngineThread.LeftAloneException;
import java.sql.Connection;
import java.sql.SQLException;
import java.time.Duration;

/** How a session comes by its connection, and how that ends. */
final class Connections {

  private static final Duration CONNECTING = Duration.ofSeconds(Access.CONNECT_SECONDS + 2);

  private Connections() {}

  /**
   * Connects to somebody's own database.
   *
   * @throws DatabaseException if that fails
   */
  static Session to(Access access) {
    Product product = access.engine().product();
    EngineThread thread = new EngineThread();
    try {
      Connection connection =
          thread.call(() -> connected(product, access), CONNECTING, () -> false);
      return new Session(
          product,
          connection,
          thread,
          true,
          false,
          access.limits(),
          () -> end(product, connection));
    } catch (SQLException failure) {
      thread.close();
      Reason reason = product.reason(failure);
      boolean known = reason == Reason.NO_PERMISSION || reason == Reason.UNSAFE;
      throw new DatabaseException(
          known ? reason : Reason.CONNECTION_LOST,
          "cannot connect to "
              + access.shown()
              + ": "
              + access.withoutSecrets(words(product, failure)),
          failure);
    }
  }

  private static String words(Product product, SQLException failure) {
    return failure instanceof LeftAloneException
        ? "there is no answer within " + Session.words(CONNECTING)
        : product.words(failure);
  }

  /**
   * Reads from a database that was filled with sample data.
   *
   * @param small whether with few rows
   */
  static Session over(
      EmbeddedProduct product,
      Connection connection,
      EngineThread thread,
      boolean small,
      Limits limits) {
    return new Session(
        product, connection, thread, false, small, limits, () -> end(product, connection));
  }

  private static Connection connected(Product product, Access access) throws SQLException {
    product.requireDriver();
    return product.connect(access);
  }

  private static void end(Product product, Connection connection) throws SQLException {
    connection.close();
    product.closed(connection);
  }

  /**
   * Reads through a connection that somebody else opened, and hands it back as it was.
   *
   * @param handedBack what is done with it in the end, when it is as it was
   * @throws DatabaseException if it is in a transaction, or cannot be prepared
   */
  static Session lent(Connection connection, Limits limits, Product.Settling handedBack) {
    EngineThread thread = new EngineThread();
    PutBack back = new PutBack();
    try {
      Product product =
          thread.call(() -> prepared(connection, limits, back), CONNECTING, () -> false);
      Product.Settling ending = () -> handBack(connection, back, handedBack);
      return new Session(product, connection, thread, true, false, limits, ending);
    } catch (SQLException failure) {
      thread.close();
      Product product = Engine.OTHER.product();
      Reason reason = product.reason(failure);
      throw new DatabaseException(
          reason == Reason.UNSAFE ? reason : Reason.CONNECTION_LOST,
          "cannot read through this connection: " + words(product, failure),
          failure);
    }
  }

  private static Product prepared(Connection connection, Limits limits, PutBack back)
      throws SQLException {
    if (!connection.getAutoCommit()) {
      throw Product.unsafe(
          "it is in a transaction (auto-commit is off), which would end here; commit, switch"
              + " auto-commit on, or hand over another one");
    }
    String url = String.valueOf(connection.getMetaData().getURL());
    Product product = Engine.ofUrl(url).product();
    try {
      product.lend(connection, limits, back);
      return product;
    } catch (SQLException failure) {
      try {
        back.run();
      } catch (SQLException further) {
        failure.addSuppressed(further);
      }
      throw failure;
    }
  }

  private static void handBack(Connection connection, PutBack back, Product.Settling handedBack)
      throws SQLException {
    if (connection.isClosed()) {
      handedBack.run();
      return;
    }
    try {
      back.run();
    } catch (SQLException changed) {
      // Nobody may go on with it, least of all a pool.
      connection.abort(Runnable::run);
      throw changed;
    }
    handedBack.run();
  }
}
