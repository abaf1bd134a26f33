package io.lantrel.probe;

import io.lantrel.engine.DatabaseException;
import io.lantrel.engine.Rows;
import java.util.Collections;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;

/** What the questions of a round were answered. */
public final class Answers {

  private final Map<Question<?>, Rows> rows = new IdentityHashMap<>();
  private final Map<Question<?>, DatabaseException> failures = new IdentityHashMap<>();

  /** Those that another answer made needless. */
  private final Set<Question<?>> spared = Collections.newSetFromMap(new IdentityHashMap<>());

  /** None: nothing was asked. */
  public Answers() {}

  void put(Question<?> question, Rows answer) {
    rows.put(question, answer);
  }

  void put(Question<?> question, DatabaseException failure) {
    failures.put(question, failure);
  }

  /** What the database gave, each under what it was asked. */
  Map<Question<?>, Rows> rows() {
    return rows;
  }

  /** Gives a question the answer, or the failure, of another that says the same. */
  void repeat(Question<?> question, Question<?> other) {
    Rows answer = rows.get(other);
    if (answer != null) {
      put(question, answer);
    }
    DatabaseException failure = failures.get(other);
    if (failure != null) {
      put(question, failure);
    }
  }

  /**
   * Takes note that a question need not be asked, if the answers to its tests say so.
   *
   * @return whether that is so
   */
  boolean spares(Question<?> question) {
    boolean needless =
        question
            .screen()
            .filter(screen -> screen.tests().stream().noneMatch(each -> ifAny(each).orElse(true)))
            .isPresent();
    if (needless) {
      spared.add(question);
    }
    return needless;
  }

  /** Takes over what others were answered. */
  public void putAll(Answers others) {
    rows.putAll(others.rows);
    failures.putAll(others.failures);
    spared.addAll(others.spared);
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
    return ifAny(question)
        .orElseThrow(() -> new IllegalArgumentException("this question was not asked"));
  }

  /**
   * Why the database gave no answer to one of some questions; empty if it gave all it was asked.
   */
  public Optional<DatabaseException> failure(List<Question<?>> questions) {
    return questions.stream().map(failures::get).filter(Objects::nonNull).findFirst();
  }

  /**
   * What a question was answered; empty if it was not asked, since there are no rows, or not
   * answered.
   */
  public <A> Optional<A> ifAny(Question<A> question) {
    return spared.contains(question)
        ? question.screen().map(Question.Screen::otherwise)
        : Optional.ofNullable(rows.get(question)).map(question::read);
  }
}
