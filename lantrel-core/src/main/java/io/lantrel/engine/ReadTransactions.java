package io.lantrel.engine;

import io.lantrel.engine.Session.Work;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Savepoint;
import java.util.Arrays;
import org.jspecify.annotations.Nullable;

/**
 * The transactions in which a connection reads: one for each statement, one for all of a snapshot,
 * or, over sample data, which never change, one that lasts until something fails in it. All are
 * rolled back. Used on the thread of the engine only, but for {@link #enterSnapshot} and {@link
 * #leaveSnapshot}, during which nothing runs.
 */
final class ReadTransactions {

  private final Product product;
  private final Connection connection;
  private final boolean live;

  private boolean begun;

  /** Whether one transaction is to last for several statements. */
  private boolean inSnapshot;

  /** In a snapshot, where a statement that fails goes back to. */
  private @Nullable Savepoint savepoint;

  ReadTransactions(Product product, Connection connection, boolean live) {
    this.product = product;
    this.connection = connection;
    this.live = live;
  }

  /** From now on one transaction lasts; false if one does already. */
  boolean enterSnapshot() {
    if (!live || inSnapshot) {
      return false;
    }
    inSnapshot = true;
    return true;
  }

  /** The transaction that lasts is over; false if none has begun, so that there is none to end. */
  boolean leaveSnapshot() {
    boolean open = begun;
    inSnapshot = false;
    begun = false;
    savepoint = null;
    return open;
  }

  /** Does work that reads. */
  <T> T run(Work<T> work) throws SQLException {
    boolean lasting = !live || inSnapshot;
    try {
      if (!lasting || !begun) {
        product.begin(connection);
        begun = lasting;
        savepoint = inSnapshot ? product.savepoint(connection) : null;
      }
      T result = work.run();
      if (!lasting) {
        product.end(connection);
      }
      return result;
    } catch (SQLException | Error failure) {
      goBack(failure);
      throw failure;
    } catch (RuntimeException failure) {
      if (isOurs(failure)) {
        goBack(failure);
        throw failure;
      }
      // Some drivers fail in other ways over what they cannot handle.
      SQLException told = new SQLException("the driver failed: " + failure, failure);
      goBack(told);
      throw told;
    }
  }

  /** Ends what is open. */
  void end() throws SQLException {
    if (!connection.isClosed()) {
      product.end(connection);
    }
  }

  /** A mistake in this program is not told as one of a driver: it came up in no driver's code. */
  private static boolean isOurs(RuntimeException failure) {
    return Arrays.stream(failure.getStackTrace())
        .map(StackTraceElement::getClassName)
        .filter(name -> !name.startsWith("java.") && !name.startsWith("jdk."))
        .findFirst()
        .filter(name -> name.startsWith("io.lantrel."))
        .isPresent();
  }

  /** To the savepoint, if there is one, so that the snapshot stays. */
  private void goBack(Throwable first) {
    if (savepoint == null) {
      rollBack(first);
      return;
    }
    try {
      if (!connection.isClosed()) {
        connection.rollback(savepoint);
      }
    } catch (SQLException failure) {
      first.addSuppressed(failure);
      rollBack(first);
    }
  }

  private void rollBack(Throwable first) {
    begun = false;
    savepoint = null;
    try {
      end();
    } catch (SQLException failure) {
      first.addSuppressed(failure);
    }
  }
}
