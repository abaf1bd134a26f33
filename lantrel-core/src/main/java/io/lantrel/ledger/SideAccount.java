package io.lantrel.ledger;

import io.lantrel.probe.Answers;
import io.lantrel.probe.NamedRow;
import io.lantrel.probe.Question;
import io.lantrel.probe.Reason;
import io.lantrel.probe.ReasonWords;
import io.lantrel.probe.Sql;
import io.lantrel.probe.Unmatched;
import io.lantrel.sql.tree.Expression;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;

/** The rows of one side of a step that have no partner: how many, why, and some by name. */
final class SideAccount {

  private final Unmatched unmatched;
  private final ReasonWords words;
  private final int examples;
  private final Map<Reason, Question<Long>> figures = new EnumMap<>(Reason.class);
  private final Map<Reason, Question<List<NamedRow>>> names = new EnumMap<>(Reason.class);
  private final Map<Reason, Long> rows = new EnumMap<>(Reason.class);

  SideAccount(Unmatched unmatched, ReasonWords words, int examples) {
    this.unmatched = unmatched;
    this.words = words;
    this.examples = examples;
  }

  /** How many there are. */
  Question<Long> total() {
    return Question.count(unmatched.relation(), unmatched.condition());
  }

  /** For what reason how many of them lack a partner. */
  List<Question<?>> figures() {
    for (Reason reason : unmatched.reasons()) {
      Expression because = Sql.all(List.of(unmatched.condition(), unmatched.because(reason)));
      figures.put(reason, Question.count(unmatched.relation(), because));
    }
    return List.copyOf(figures.values());
  }

  /** Takes the answers to {@link #figures}. */
  void read(Answers answers) {
    figures.forEach((reason, question) -> rows.put(reason, answers.to(question)));
  }

  /** Where there is but one reason, all have it. */
  boolean hasOneReason() {
    return unmatched.reasons().size() == 1;
  }

  void allFor(long total) {
    rows.put(unmatched.reasons().get(0), total);
  }

  /** Some of them by name, for each reason that any has. */
  List<Question<?>> names() {
    List<Question<?>> asked = new ArrayList<>();
    rows.forEach(
        (reason, count) -> {
          if (count > 0 && examples > 0) {
            names.put(reason, unmatched.named(unmatched.because(reason), examples));
          }
        });
    asked.addAll(names.values());
    return asked;
  }

  /** All of it, with the answers to {@link #names}. */
  List<Cause> causes(Answers answers) {
    List<Cause> causes = new ArrayList<>();
    rows.forEach(
        (reason, count) -> {
          if (count > 0) {
            Question<List<NamedRow>> asked = names.get(reason);
            List<NamedRow> named = asked == null ? List.of() : answers.to(asked);
            causes.add(new Cause(words.of(reason, count), count, named));
          }
        });
    return causes;
  }
}
