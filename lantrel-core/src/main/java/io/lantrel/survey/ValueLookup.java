package io.lantrel.survey;

import io.lantrel.catalog.Basis;
import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.Reference;
import io.lantrel.engine.DatabaseException;
import io.lantrel.engine.Rows;
import io.lantrel.probe.Asker;
import java.util.Optional;

/** Looks up the values of columns among the keys that they may refer to. */
final class ValueLookup {

  private final Catalog catalog;
  private final Asker asker;

  ValueLookup(Catalog catalog, Asker asker) {
    this.catalog = catalog;
    this.asker = asker;
  }

  Optional<Rows> of(Candidate candidate) {
    return of(candidate.reference(Basis.POSSIBLE));
  }

  /** What an engine cannot compare is no reference, whatever the names say. */
  Optional<Rows> of(Reference reference) {
    try {
      return Optional.of(
          asker.ask(new TableQuestions(reference.from(), catalog).figures(reference)));
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
