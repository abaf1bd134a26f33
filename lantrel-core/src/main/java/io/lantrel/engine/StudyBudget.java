package io.lantrel.engine;

import io.lantrel.engine.DatabaseException.Reason;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.tree.Query;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;

/**
 * The same database, for the study of one statement: all that is asked for it shares one time
 * limit. No question gets more than half of what is left, so that a slow one leaves time for the
 * others.
 */
final class StudyBudget implements Database {

  /** Whoever still has this much gets all of it. */
  private static final Duration LEAST = Duration.ofSeconds(1);

  private final Session session;
  private final Duration limit;
  private Duration left;
  private long statementsSent;

  StudyBudget(Session session, Duration limit) {
    this.session = session;
    this.limit = limit;
    this.left = limit;
  }

  /** Waiting for other threads takes nothing of the time. */
  private <T> T within(Function<Duration, Duration> share, Function<Duration, T> work) {
    return session.inTurn(() -> alone(share.apply(left), work));
  }

  private <T> T alone(Duration share, Function<Duration, T> work) {
    if (left.isNegative() || left.isZero()) {
      throw new DatabaseException(
          Reason.TOOK_TOO_LONG,
          "the time for this statement, " + Session.words(limit) + ", is used up",
          null);
    }
    long start = System.nanoTime();
    long sentBefore = session.statementsSent();
    Duration given = share.compareTo(LEAST) < 0 ? min(LEAST, left) : share;
    try {
      return work.apply(given);
    } catch (DatabaseException failure) {
      throw failure.tookTooLong() && given.compareTo(limit) < 0 ? ofShare(failure) : failure;
    } finally {
      left = left.minusNanos(System.nanoTime() - start);
      statementsSent += session.statementsSent() - sentBefore;
    }
  }

  private static Duration half(Duration left) {
    return left.dividedBy(2);
  }

  private DatabaseException ofShare(DatabaseException failure) {
    String share = ", its share of the " + Session.words(limit) + " for this statement";
    return new DatabaseException(failure.reason(), failure.getMessage() + share, failure);
  }

  private static Duration min(Duration some, Duration other) {
    return some.compareTo(other) < 0 ? some : other;
  }

  @Override
  public String engine() {
    return session.engine();
  }

  @Override
  public Dialect dialect() {
    return session.dialect();
  }

  @Override
  public boolean isLive() {
    return session.isLive();
  }

  @Override
  public boolean mixesUpWith() {
    return session.mixesUpWith();
  }

  @Override
  public boolean mixesUpParts() {
    return session.mixesUpParts();
  }

  @Override
  public boolean isSmall() {
    return session.isSmall();
  }

  @Override
  public Rows ask(Query probe) {
    return within(StudyBudget::half, share -> session.run(probe, Session.MOST_ROWS, share));
  }

  /** What the user wants to see may take all the time that is left. */
  @Override
  public Rows run(Query query, int cap) {
    return within(all -> all, share -> session.run(query, cap, share));
  }

  @Override
  public void each(Query query, Consumer<List<@Nullable Object>> reader) {
    within(all -> all, share -> session.each(query, reader, share));
  }

  @Override
  public List<ResultColumn> columns(Query query) {
    return within(StudyBudget::half, share -> session.columns(query, share));
  }

  @Override
  public Optional<String> refusal(Query query) {
    return within(StudyBudget::half, share -> session.refusal(query, share));
  }

  @Override
  public <T> T inSnapshot(Supplier<T> work) {
    return session.inSnapshot(work);
  }

  @Override
  public boolean isSameAs(Database other) {
    return other instanceof StudyBudget budget ? budget.session == session : other == session;
  }

  @Override
  public long statementsSent() {
    return statementsSent;
  }

  @Override
  public void watchedBy(StatementWatcher watcher) {
    session.watchedBy(watcher);
  }

  @Override
  public Database forStudy() {
    return session.forStudy();
  }

  @Override
  public void cancel() {
    session.cancel();
  }

  @Override
  public void close() {
    session.close();
  }
}
