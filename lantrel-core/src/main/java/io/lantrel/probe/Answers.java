package io.lantrel.probe;

import io.lantrel.engine.DatabaseException;
import io.lantrel.engine.Rows;
import java.util.IdentityHashMap;
import java.util.Map;
import java.util.Optional;

/** What the questions of a round were answered. */
public final class Answers {

  private final Map<Question<?>, Rows> rows = new IdentityHashMap<>();
  private final Map<Question<?>, DatabaseException> failures = new IdentityHashMap<>();

  /** None: nothing was asked. */
  public Answers() {}

  void put(Question<?> question, Rows answer) {
    rows.put(question, answer);
  }

  void put(Question<?> question, DatabaseException failure) {
    failures.put(question, failure);
  }

  void putAll(Answers others) {
    rows.putAll(others.rows);
    failures.putAll(others.failures);
  }

  /**
   * What a question was answered.
   *
   * @throws DatabaseException if the database gave no answer to it
   * @throws IllegalArgumentException if it was not asked
   */
  public <A> A to(Question<A> question) {
    DatabaseException failure = failures.get(question);
    if (failure != null) {
      throw failure;
    }
    Rows answer = rows.get(question);
    if (answer == null) {
      throw new IllegalArgumentException("this question was not asked");
    }
    return question.read(answer);
  }

  /** The same; empty if it was not asked, since there are no rows, or not answered. */
  public <A> Optional<A> ifAny(Question<A> question) {
    return Optional.ofNullable(rows.get(question)).map(question::read);
  }
}
