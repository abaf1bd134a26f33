package io.lantrel.engine;

import io.lantrel.engine.Product.Settling;
import java.sql.SQLException;
import java.util.ArrayDeque;
import java.util.Deque;
import org.jspecify.annotations.Nullable;

/** What was changed of somebody else's connection, so that it can be handed back as it was. */
final class PutBack {

  private final Deque<Settling> changes = new ArrayDeque<>();

  /**
   * Notes what undoes the next change.
   *
   * @param undoing runs before all that was noted earlier
   */
  void with(Settling undoing) {
    changes.push(undoing);
  }

  /**
   * Undoes all changes, the last first; one that fails does not keep the others.
   *
   * @throws SQLException if the connection is not as it was
   */
  void run() throws SQLException {
    SQLException first = null;
    while (!changes.isEmpty()) {
      first = undo(changes.pop(), first);
    }
    if (first != null) {
      throw first;
    }
  }

  private static @Nullable SQLException undo(Settling change, @Nullable SQLException first) {
    try {
      change.run();
      return first;
    } catch (SQLException failure) {
      if (first == null) {
        return failure;
      }
      first.addSuppressed(failure);
      return first;
    }
  }
}
