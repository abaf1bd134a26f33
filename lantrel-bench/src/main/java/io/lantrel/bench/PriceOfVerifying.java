package io.lantrel.bench;

import io.lantrel.Lantrel;
import io.lantrel.Study;
import io.lantrel.claim.CheckedClaim;
import io.lantrel.claim.Verdict;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;

/**
 * What verifying 200 queries with 600 claims costs, as a multiple of running the queries once.
 * Arguments: the folder of the river watch, and how often both are done.
 */
public final class PriceOfVerifying {

  private static final int QUERIES = 200;
  private static final int CLAIMS = 3;

  private static final List<String> FORMS =
      List.of(
          "SELECT s.id, s.name, s.capacity FROM station s WHERE s.capacity > %d",
          "SELECT s.id, s.name, r.name AS river FROM station s LEFT JOIN river r ON r.id = s.river_id AND"
              + " r.length_km > %d",
          "SELECT s.name, COUNT(g.id) AS n FROM station s LEFT JOIN reading g ON g.station_id = s.id AND"
              + " g.depth_cm > %d GROUP BY s.id, s.name ORDER BY s.name",
          "SELECT g.id, s.name, g.depth_cm FROM reading g JOIN station s ON s.id = g.station_id WHERE"
              + " g.depth_cm > %d",
          "SELECT p.name, SUM(g.head_count) AS heads FROM species p JOIN sighting g ON g.species_id = p.id"
              + " WHERE g.head_count > %d GROUP BY p.id, p.name",
          "SELECT w.given_name, m.given_name AS mentor FROM warden w LEFT JOIN warden m ON m.id ="
              + " w.mentor_id WHERE w.id > %d",
          "SELECT r.name, SUM(s.capacity) AS seats FROM river r LEFT JOIN station s ON s.river_id = r.id"
              + " WHERE r.length_km > %d GROUP BY r.id, r.name ORDER BY r.name",
          "SELECT DISTINCT s.bank FROM station s JOIN reading g ON g.station_id = s.id WHERE g.depth_cm >"
              + " %d");

  private PriceOfVerifying() {}

  /** Runs it. */
  public static void main(String[] arguments) {
    int times = Integer.parseInt(arguments[1]);
    try (Lantrel lantrel = Lantrel.open(Path.of(arguments[0]))) {
      List<String> queries = new ArrayList<>();
      List<String[]> claims = new ArrayList<>();
      int proven = 0;
      for (int i = 0; i < QUERIES; i++) {
        String sql = String.format(Locale.ROOT, FORMS.get(i % FORMS.size()), i / FORMS.size());
        List<CheckedClaim> known = lantrel.study(sql).suggestedClaims();
        List<String> texts = new ArrayList<>();
        known.forEach(each -> texts.add(each.claim().text()));
        texts.addAll(List.of("at least 1 row", "at most 1000 rows", "one row per 1"));
        queries.add(sql);
        claims.add(texts.stream().limit(CLAIMS).toArray(String[]::new));
        proven += (int) known.stream().limit(CLAIMS).filter(PriceOfVerifying::isProven).count();
      }
      long[] ran = new long[times];
      long[] verified = new long[times];
      long sent = 0;
      for (int i = 0; i < times; i++) {
        long begun = System.nanoTime();
        queries.forEach(sql -> lantrel.study(sql).result());
        long half = System.nanoTime();
        sent = 0;
        for (int q = 0; q < QUERIES; q++) {
          Study study = lantrel.study(queries.get(q));
          study.verify(claims.get(q));
          sent += study.statementsSent();
        }
        ran[i] = half - begun;
        verified[i] = System.nanoTime() - half;
      }
      Arrays.sort(ran);
      Arrays.sort(verified);
      System.out.printf(
          Locale.ROOT,
          "%d queries run: %.0f ms; %d claims (%d proven) verified: %.0f ms, %d statements; %.1f times%n",
          QUERIES,
          ran[times / 2] / 1e6,
          QUERIES * CLAIMS,
          proven,
          verified[times / 2] / 1e6,
          sent,
          (double) verified[times / 2] / ran[times / 2]);
    }
  }

  private static boolean isProven(CheckedClaim claim) {
    return claim.verdict() == Verdict.PROVEN;
  }
}
