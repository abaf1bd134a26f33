package io.lantrel.engine;

import java.time.Duration;
import org.jspecify.annotations.Nullable;

/**
 * Is told of every statement that a database is sent. It is called by the thread that asks, and by
 * one at a time; it asks nothing itself.
 */
public interface StatementWatcher {

  /** Watches nothing. */
  StatementWatcher NONE =
      new StatementWatcher() {
        @Override
        public void begins(SentStatement statement) {}

        @Override
        public void ended(
            SentStatement statement, Duration took, @Nullable DatabaseException failure) {}
      };

  /** A statement is about to be sent. */
  void begins(SentStatement statement);

  /**
   * All of its answer is here, or there is none.
   *
   * @param took from sending it to the last row that was wanted
   * @param failure why there is no answer; null if there is one
   */
  void ended(SentStatement statement, Duration took, @Nullable DatabaseException failure);

  /** Tells this one, then another. */
  default StatementWatcher and(StatementWatcher other) {
    StatementWatcher first = this;
    return new StatementWatcher() {
      @Override
      public void begins(SentStatement statement) {
        first.begins(statement);
        other.begins(statement);
      }

      @Override
      public void ended(
          SentStatement statement, Duration took, @Nullable DatabaseException failure) {
        first.ended(statement, took, failure);
        other.ended(statement, took, failure);
      }
    };
  }
}
