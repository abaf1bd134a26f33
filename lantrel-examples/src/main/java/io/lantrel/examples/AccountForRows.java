package io.lantrel.examples;

import io.lantrel.Lantrel;
import io.lantrel.Study;
import io.lantrel.ledger.Change;
import io.lantrel.ledger.Entry;
import io.lantrel.ledger.Figure;
import io.lantrel.ledger.Ledger;
import io.lantrel.ledger.Naming;
import io.lantrel.ledger.OtherJoin;
import io.lantrel.ledger.WithoutJoin;
import io.lantrel.sql.tree.JoinKind;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;

/** Accounts for the rows of a query, and asks what would be with other joins. */
public final class AccountForRows {

  private AccountForRows() {}

  /** Runs the example; it takes no arguments. */
  public static void main(String[] args) throws IOException {
    Path folder = RiverWatch.copyTo(Files.createTempDirectory("river-watch"));
    try (Lantrel lantrel = Lantrel.open(folder)) {
      Study study =
          lantrel.study(
              """
              SELECT s.name, d.temperature
              FROM station s
              JOIN reading d ON d.station_id = s.id
              WHERE d.temperature > 8
              UNION
              SELECT r.name, r.flow
              FROM river r
              """);
      Ledger whole = study.ledger();
      whole.parts().forEach(part -> System.out.println(part.name() + ": " + part.result()));
      print(whole);

      Study joined =
          lantrel.study(
              """
              SELECT s.name, d.temperature
              FROM station s
              JOIN reading d ON d.station_id = s.id
              WHERE d.temperature > 8
              """);
      print(joined.ledger(Naming.of(Figure.DROPPED, 3)));
      for (OtherJoin other : joined.otherJoins(JoinKind.LEFT, 0, Naming.some(2))) {
        System.out.println(
            other.words()
                + " as "
                + other.instead()
                + ": "
                + other.otherRows()
                + " rows behind it");
      }
      WithoutJoin without = joined.without(2);
      System.out.println("used in " + without.uses() + "; without it " + without.other() + " rows");
    }
  }

  private static void print(Ledger ledger) {
    for (Entry entry : ledger.entries()) {
      System.out.println(entry.words() + ": " + entry.before() + " → " + entry.after());
      for (Change change : entry.changes()) {
        change.causes().forEach(cause -> System.out.println("  " + cause.reason()));
      }
    }
  }
}
