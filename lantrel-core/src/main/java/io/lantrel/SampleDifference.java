package io.lantrel;

import io.lantrel.check.Finding;
import io.lantrel.check.Severity;
import io.lantrel.engine.DatabaseException;
import io.lantrel.ledger.Change;
import io.lantrel.ledger.Entry;
import io.lantrel.ledger.Figure;
import io.lantrel.ledger.Ledger;
import io.lantrel.sample.SeenQuery;
import io.lantrel.sql.Place;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;

/**
 * What a query shows in the database and not on a sample of it, or the other way round.
 *
 * @param file where the query stands
 * @param line its line, from 1
 * @param words what differs, in a sentence without its stop
 */
public record SampleDifference(String file, int line, String words) {

  /** What can happen to rows at a step and show on a sample: that it happens, not how often. */
  private static final List<Figure> SHOWING =
      List.of(Figure.DROPPED, Figure.REPEATED, Figure.ADDED, Figure.FILLED);

  /**
   * Compares the two.
   *
   * @param file where the query stands, as the user calls it
   * @param there what it shows in the database
   * @param onSample the same query on the sample
   */
  public static List<SampleDifference> between(String file, SeenQuery there, Study onSample) {
    SeenQuery here = seen(onSample, ledger(onSample));
    List<String> words = new ArrayList<>();
    lacking(there.findings(), here.findings())
        .forEach(each -> words.add(each + ": in the database, not here"));
    lacking(here.findings(), there.findings())
        .forEach(each -> words.add(each + ": here, not in the database"));
    if (there.happened().isPresent() && here.happened().isPresent()) {
      lacking(there.happened().get(), here.happened().get())
          .forEach(each -> words.add(each + " there, and none here"));
    }
    return words.stream().map(each -> new SampleDifference(file, there.line(), each)).toList();
  }

  private static List<String> lacking(Set<String> some, Set<String> others) {
    return some.stream().filter(each -> !others.contains(each)).toList();
  }

  /** What a query shows. */
  static SeenQuery seen(Study query, Optional<Ledger> account) {
    return new SeenQuery(
        query.place().line(), findings(query), account.map(SampleDifference::happened));
  }

  private static Set<String> findings(Study study) {
    Set<String> findings = new LinkedHashSet<>();
    for (Finding each : study.findings()) {
      if (each.severity() != Severity.NOTE) {
        Place place = study.place(each.place());
        findings.add(each.kind().id() + " at " + place.line() + ":" + place.column());
      }
    }
    return findings;
  }

  private static Optional<Ledger> ledger(Study study) {
    try {
      return Optional.of(study.ledger(0));
    } catch (NoLedgerException | DatabaseException none) {
      return Optional.empty();
    }
  }

  private static Set<String> happened(Ledger ledger) {
    Set<String> all = new LinkedHashSet<>();
    for (Entry entry : ledger.entries()) {
      for (Change change : entry.changes()) {
        if (SHOWING.contains(change.figure()) && change.rows() > 0) {
          all.add(
              "rows are "
                  + change.figure().name().toLowerCase(Locale.ROOT)
                  + " at "
                  + entry.words());
        }
      }
    }
    ledger.parts().forEach(part -> all.addAll(happened(part)));
    return all;
  }
}
