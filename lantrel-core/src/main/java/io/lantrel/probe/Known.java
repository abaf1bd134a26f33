package io.lantrel.probe;

import io.lantrel.engine.Rows;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.SqlPrinter;
import io.lantrel.sql.tree.CommonTable;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.SelectItem;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * What is known already: questions are the same if they say the same, wherever in a text they come
 * from. A query that is looked at again after a small change has most of its questions in common
 * with the one before.
 */
public final class Known {

  private final Dialect dialect;
  private final Map<String, Rows> answered = new HashMap<>();
  private final Map<Question<?>, String> printed = new IdentityHashMap<>();
  private final Map<Question<?>, Question<?>> waiting = new IdentityHashMap<>();

  /**
   * Nothing is known.
   *
   * @param dialect in which questions are written
   */
  public Known(Dialect dialect) {
    this.dialect = dialect;
  }

  /** Takes these for known. */
  public void add(Answers answers) {
    answers.rows().forEach((question, rows) -> answered.put(words(question), rows));
    printed.clear();
  }

  /** Answers what it can, and gives the rest, without those that wait for the answer of another. */
  List<Question<?>> open(Collection<? extends Question<?>> questions, Answers answers) {
    Map<String, Question<?>> first = new HashMap<>();
    List<Question<?>> open = new ArrayList<>();
    for (Question<?> question : questions) {
      String words = words(question);
      Optional<Rows> known = Optional.ofNullable(answered.get(words));
      Question<?> same = first.putIfAbsent(words, question);
      if (known.isPresent()) {
        answers.put(question, known.get());
      } else if (same == null) {
        open.add(question);
      } else if (same != question) {
        waiting.put(question, same);
      }
    }
    return open;
  }

  /** Once the others are answered. */
  void repeat(Answers answers) {
    waiting.forEach(answers::repeat);
    waiting.clear();
  }

  private String words(Question<?> question) {
    return printed.computeIfAbsent(question, this::print);
  }

  /** All that is sent for it: what a short name stands for, too. */
  private String print(Question<?> question) {
    if (question.asked() instanceof Question.Figures figures) {
      Relation relation = figures.relation();
      List<SelectItem> items =
          figures.values().stream().<SelectItem>map(each -> Sql.as(each, "c")).toList();
      return "figures "
          + words(Query.of(relation.select(items, null)), relation.with(), relation.isRecursive());
    }
    Question.Listed listed = (Question.Listed) question.asked();
    return (listed.numbers() ? "numbers " : "values ")
        + words(listed.query(), listed.with(), listed.recursive());
  }

  private String words(Query query, List<CommonTable> with, boolean recursive) {
    return SqlPrinter.print(WithNeeded.define(with, recursive, query), dialect);
  }
}
