package io.lantrel.survey;

import io.lantrel.catalog.Basis;
import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Reference;
import io.lantrel.engine.DatabaseException;
import io.lantrel.engine.Rows;
import io.lantrel.probe.Answers;
import io.lantrel.probe.Asker;
import io.lantrel.probe.Question;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** Looks up the values of columns among the keys that they may refer to. */
final class ValueLookup {

  private final Catalog catalog;
  private final Asker asker;

  ValueLookup(Catalog catalog, Asker asker) {
    this.catalog = catalog;
    this.asker = asker;
  }

  /** All of them in one round; those that the engine cannot compare are left out. */
  Map<Candidate, Rows> of(Collection<Candidate> candidates) {
    Map<Candidate, Question<Rows>> asked = new LinkedHashMap<>();
    candidates.forEach(each -> asked.put(each, question(each.reference(Basis.POSSIBLE))));
    Answers answers = asker.ask(asked.values());
    Map<Candidate, Rows> found = new LinkedHashMap<>();
    asked.forEach(
        (candidate, question) ->
            read(answers, question).ifPresent(rows -> found.put(candidate, rows)));
    return found;
  }

  Optional<Rows> of(Reference reference) {
    Question<Rows> question = question(reference);
    return read(asker.ask(List.of(question)), question);
  }

  private Question<Rows> question(Reference reference) {
    return new TableQuestions(reference.from(), catalog).figures(reference);
  }

  /** What an engine cannot compare is no reference, whatever the names say. */
  private static Optional<Rows> read(Answers answers, Question<Rows> question) {
    try {
      return Optional.of(answers.to(question));
    } catch (DatabaseException failure) {
      if (failure.reason() == DatabaseException.Reason.REFUSED
          || failure.reason() == DatabaseException.Reason.NOT_READ) {
        return Optional.empty();
      }
      throw failure;
    }
  }

  /** Which part of the values is there, 0 to 1. */
  static double share(Rows rows) {
    long values = rows.figure(2);
    return values == 0 ? 0 : (double) rows.figure(3) / values;
  }

  static String words(Rows rows) {
    long values = rows.figure(2);
    long there = rows.figure(3);
    return values == there
        ? (values == 1 ? "its one value found" : "all " + values + " values found")
        : there + " of " + values + " values found";
  }
}
