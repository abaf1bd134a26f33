package io.lantrel.claim;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.RiverWatchFolder;
import io.lantrel.catalog.Constraint;
import java.util.List;
import org.testng.annotations.AfterClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Claims that are so for all data, and what their proofs rest on. */
public class ProvenClaimsTest {

  private final Lantrel lantrel = Lantrel.open(RiverWatchFolder.withoutViolations());

  @AfterClass
  public void close() {
    lantrel.close();
  }

  @DataProvider
  static Object[][] claims() {
    return ClaimPage.read("proven.sql").stream()
        .map(each -> new Object[] {each})
        .toArray(Object[][]::new);
  }

  @Test
  public void provesNineOfTen() {
    List<ClaimPage.Expected> all = ClaimPage.read("proven.sql");
    assertThat(all).hasSizeGreaterThanOrEqualTo(120);
    long open = all.stream().filter(each -> each.verdict().equals("not proven")).count();
    assertThat(open * 10).isLessThanOrEqualTo(all.size());
  }

  @Test(dataProvider = "claims")
  public void provesIt(Object each) {
    ClaimPage.Expected expected = (ClaimPage.Expected) each;
    Verification found = lantrel.study(expected.sql()).verify(expected.claim());
    assertThat(found.problems()).isEmpty();
    Verdict wanted = expected.verdict().equals("proven") ? Verdict.PROVEN : Verdict.HOLDS;
    assertThat(found.claims().get(0).verdict()).as(each + "\n" + found).isEqualTo(wanted);
  }

  @DataProvider
  static Object[][] constraints() {
    return new Object[][] {
      {"SELECT s.id FROM station s", "one row per station", List.of("station.id is a key")},
      {"SELECT s.id FROM station s", "every station appears", List.of()},
      {
        "SELECT g.id FROM reading g JOIN station s ON s.id = g.station_id",
        "every reading appears",
        List.of(
            "station.id is a key",
            "reading.station_id is never NULL",
            "reading.station_id refers to station")
      },
      {
        "SELECT r.name FROM station s JOIN river r ON r.id = s.river_id",
        "no null in name",
        List.of("river.name is never NULL")
      },
      {
        "SELECT g.station_id, SUM(g.head_count) AS n FROM sighting g GROUP BY g.station_id",
        "total of n is total of sighting.head_count",
        List.of()
      },
      {"SELECT DISTINCT bank FROM station", "one row per bank", List.of()},
      {
        "SELECT s.keeper_id FROM station s",
        "keeper_id refers to warden",
        List.of("station.keeper_id refers to warden")
      },
    };
  }

  /** No more than is needed, and none that is missing. */
  @Test(dataProvider = "constraints")
  public void namesWhatItRestsOn(String sql, String claim, List<String> constraints) {
    CheckedClaim found = lantrel.study(sql).verify(claim).claims().get(0);
    assertThat(found.verdict()).isEqualTo(Verdict.PROVEN);
    List<String> words =
        found.constraints().stream()
            .filter(each -> !isOfKey(each, found.constraints()))
            .map(Constraint::words)
            .toList();
    assertThat(words).containsExactlyInAnyOrderElementsOf(constraints);
  }

  private static boolean isOfKey(Constraint constraint, List<Constraint> all) {
    return constraint.kind() == Constraint.Kind.NOT_NULL
        && all.stream()
            .anyMatch(
                each ->
                    each.kind() == Constraint.Kind.KEY
                        && each.columns().containsAll(constraint.columns()));
  }

  /** In the river watch as it is a reading names a station that is not there. */
  @Test
  public void restsOnNothingThatIsBrokenHere() {
    String sql = "SELECT g.id FROM reading g JOIN station s ON s.id = g.station_id";
    try (Lantrel broken = Lantrel.open(RiverWatchFolder.data())) {
      CheckedClaim found = broken.study(sql).verify("every reading appears").claims().get(0);
      assertThat(found.verdict()).isEqualTo(Verdict.BROKEN);
      assertThat(found.reason())
          .contains("1 of 27 readings does not appear")
          .contains("it does not hold that reading.station_id refers to station")
          .contains("lost at step 2, JOIN station s (1 row)");
    }
  }
}
