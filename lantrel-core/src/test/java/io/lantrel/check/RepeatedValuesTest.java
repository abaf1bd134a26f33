package io.lantrel.check;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.RiverWatchFolder;
import java.util.List;
import org.testng.annotations.AfterClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Whose rows a total is about, and how often they are counted, by queries of other forms. */
public class RepeatedValuesTest {

  private static final String CROSSED =
      " FROM station s JOIN sighting g ON g.station_id = s.id JOIN reading d ON d.station_id = s.id";

  private final Lantrel lantrel = Lantrel.open(RiverWatchFolder.data());

  @AfterClass
  void close() {
    lantrel.close();
  }

  /** The total, the words of it, and the condition under which a row is counted. */
  @DataProvider
  static Object[][] totals() {
    String once = " counts a sighting once for every reading joined to it: ";
    return new Object[][] {
      {"SUM(g.head_count * s.capacity)", once, "sighting", "TRUE"},
      {"AVG(COALESCE(g.head_count, 0) + s.capacity)", once, "sighting", "TRUE"},
      {"SUM(g.head_count) FILTER (WHERE d.id > 9)", once, "sighting", "d.id > 9"},
      {"SUM(CASE WHEN d.id > 9 THEN g.head_count END)", once, "sighting", "d.id > 9"},
      {"SUM(CASE WHEN d.id > 9 THEN g.head_count ELSE 0 END)", once, "sighting", "d.id > 9"},
      {
        "SUM(CASE d.station_id WHEN 3 THEN g.head_count ELSE NULL END)",
        once,
        "sighting",
        "d.station_id = 3"
      },
      {"AVG(CASE WHEN s.id > 2 THEN g.head_count ELSE NULL END)", once, "sighting", "s.id > 2"},
      {
        "COUNT(CASE WHEN g.head_count > s.capacity THEN 1 END)",
        once,
        "sighting",
        "g.head_count > s.capacity"
      },
      {"SUM(CASE WHEN g.head_count > 3 THEN 1 ELSE 0 END)", once, "sighting", "g.head_count > 3"},
      {
        "STRING_AGG(CAST(g.species_id AS VARCHAR), ', ')",
        " lists a sighting once for every reading joined to it: ",
        "sighting",
        "TRUE"
      },
      {
        "SUM(d.depth_cm * s.capacity)",
        " counts a reading once for every sighting joined to it: ",
        "reading",
        "d.depth_cm IS NOT NULL"
      },
    };
  }

  @Test(dataProvider = "totals")
  public void itsRowsAreCounted(String total, String words, String table, String condition) {
    String key = table.equals("reading") ? "d.id" : "(g.station_id, g.species_id, g.seen_on)";
    List<Long> counts = counts(key, condition);
    Finding finding = repeated("SELECT " + total + " AS x" + CROSSED);
    assertThat(finding.message()).contains(total + words);
    assertThat(finding.evidence().figures())
        .containsEntry("counted", counts.get(0))
        .containsEntry("counted once each", counts.get(1));
    assertThat(counts.get(0)).isGreaterThan(counts.get(1));
  }

  private List<Long> counts(String key, String condition) {
    String sql = "SELECT COUNT(*), COUNT(DISTINCT " + key + ")" + CROSSED + " WHERE " + condition;
    return lantrel.study(sql).result().rows().get(0).stream()
        .map(each -> Long.parseLong(String.valueOf(each)))
        .toList();
  }

  private Finding repeated(String sql) {
    return lantrel.study(sql).findings().stream()
        .filter(each -> each.kind() == Kind.REPEATED_IN_TOTAL)
        .findFirst()
        .orElseThrow(() -> new AssertionError(sql));
  }

  @DataProvider
  static Object[][] headings() {
    return new Object[][] {
      {"stations", true},
      {"station_count", true},
      {"\"Number of stations\"", true},
      {"n_of_stations", true},
      {"readings", false},
      {"n", false},
      {"station_readings", false},
      {"sightings", false},
    };
  }

  /** COUNT(*) counts the joined rows; a heading may say that it counts something else. */
  @Test(dataProvider = "headings")
  public void aHeadingSaysWhatIsCounted(String heading, boolean repeats) {
    String sql =
        "SELECT s.river_id, COUNT(*) AS "
            + heading
            + " FROM station s JOIN reading d ON d.station_id = s.id GROUP BY s.river_id";
    List<Finding> findings =
        lantrel.study(sql).findings().stream()
            .filter(each -> each.kind() == Kind.REPEATED_IN_TOTAL)
            .toList();
    assertThat(findings).hasSize(repeats ? 1 : 0);
    if (repeats) {
      assertThat(findings.get(0).repair().orElseThrow().sql())
          .isEqualTo(sql.replace("COUNT(*)", "COUNT(DISTINCT s.id)"));
    }
  }

  /** Of a value that no one row fixes nothing is claimed, nor where each row comes once. */
  @DataProvider
  static Object[][] silent() {
    return new Object[][] {
      {"SELECT SUM(g.head_count * d.depth_cm) AS x" + CROSSED},
      {"SELECT SUM(CASE WHEN g.head_count > 1 THEN 1 WHEN d.id > 2 THEN 2 END) AS x" + CROSSED},
      {"SELECT MAX(g.head_count * s.capacity) AS x" + CROSSED},
      {
        "SELECT SUM(g.head_count * s.capacity) AS x FROM station s JOIN sighting g ON g.station_id"
            + " = s.id JOIN species p ON p.id = g.species_id"
      },
      {
        "SELECT d.id, SUM(CASE WHEN d.id > 3 THEN g.head_count ELSE 0 END) AS x"
            + CROSSED
            + " GROUP BY d.id"
      },
    };
  }

  @Test(dataProvider = "silent")
  public void nothingIsClaimed(String sql) {
    assertThat(lantrel.study(sql).findings())
        .noneMatch(each -> each.kind() == Kind.REPEATED_IN_TOTAL);
  }

  @DataProvider
  static Object[][] parts() {
    return new Object[][] {
      {"d.depth_cm - d.temperature", Severity.NOTE, "d.depth_cm IS NULL AND d.temperature > 0"},
      {"d.id * 2 - d.depth_cm", Severity.WARNING, "d.depth_cm IS NULL"},
      {"d.id + d.depth_cm", Severity.WARNING, "d.depth_cm IS NULL"},
    };
  }

  /** A row whose value is NULL is missing from a total. */
  @Test(dataProvider = "parts")
  public void aTotalLacksRows(String value, Severity severity, String lacking) {
    long rows = lantrel.study("SELECT d.id FROM reading d WHERE " + lacking).result().size();
    assertThat(lantrel.study("SELECT SUM(" + value + ") AS x FROM reading d").findings())
        .singleElement()
        .satisfies(
            finding -> {
              assertThat(finding.kind()).isEqualTo(Kind.NULL_SWALLOWS);
              assertThat(finding.severity()).isEqualTo(severity);
              assertThat(finding.message()).contains("and the total lacks the row");
              assertThat(finding.repair().isPresent()).isEqualTo(severity == Severity.WARNING);
              assertThat(finding.evidence().figures()).containsEntry("rows with NULL", rows);
            });
  }

  /** Two wardens of one name are no repeated line; a row of a query is called so. */
  @Test
  public void rowsAreNamedByWhatTheyAre() {
    String twoOfOneName =
        "SELECT k.family_name FROM warden k JOIN station s ON s.keeper_id = k.id WHERE s.id IN (2, 5)";
    assertThat(lantrel.study(twoOfOneName).result().rows())
        .hasSize(2)
        .containsOnly(List.of("Harrow"));
    assertThat(lantrel.study(twoOfOneName).findings())
        .noneMatch(each -> each.kind() == Kind.ROWS_REPEATED);
    String ofQuery =
        "SELECT SUM(q.n) AS n FROM (SELECT d.station_id, COUNT(*) AS n FROM reading d GROUP BY"
            + " d.station_id) q JOIN sighting g ON g.station_id = q.station_id";
    assertThat(repeated(ofQuery).message())
        .startsWith("SUM(q.n) counts a row of q once for every sighting joined to it: ")
        .containsPattern("\\d rows of q counted");
  }
}
