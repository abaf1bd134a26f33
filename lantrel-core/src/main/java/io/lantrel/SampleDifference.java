package io.lantrel;

import io.lantrel.check.Finding;
import io.lantrel.check.Severity;
import io.lantrel.engine.DatabaseException;
import io.lantrel.ledger.Change;
import io.lantrel.ledger.Entry;
import io.lantrel.ledger.Figure;
import io.lantrel.ledger.Ledger;
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
   * @param there the query in the database
   * @param here the same on the sample
   */
  public static List<SampleDifference> between(String file, Study there, Study here) {
    List<SampleDifference> differences = new ArrayList<>();
    int line = there.place().line();
    Set<String> before = findings(there);
    Set<String> after = findings(here);
    before.stream()
        .filter(each -> !after.contains(each))
        .map(each -> new SampleDifference(file, line, each + ": in the database, not here"))
        .forEach(differences::add);
    after.stream()
        .filter(each -> !before.contains(each))
        .map(each -> new SampleDifference(file, line, each + ": here, not in the database"))
        .forEach(differences::add);
    Optional<Ledger> account = ledger(there);
    Optional<Ledger> own = ledger(here);
    if (account.isPresent() && own.isPresent()) {
      Set<String> happened = happened(account.get());
      Set<String> shown = happened(own.get());
      happened.removeAll(shown);
      happened.stream()
          .map(each -> new SampleDifference(file, line, each + " there, and none here"))
          .forEach(differences::add);
    }
    return differences;
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
