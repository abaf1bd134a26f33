package io.lantrel.check;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.RiverWatchFolder;
import java.util.List;
import org.testng.annotations.AfterClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** The figure of a finding is what a query of another form counts. */
public class CountedHarmTest {

  private final Lantrel lantrel = Lantrel.open(RiverWatchFolder.data());

  @AfterClass
  void close() {
    lantrel.close();
  }

  private static final String TOTAL_OF_NOTHING =
      "SELECT s.id FROM station s LEFT JOIN reading d ON d.station_id = s.id GROUP BY s.id HAVING ";
  private static final String STATIONS =
      "SELECT r.id, s.name FROM river r LEFT JOIN station s ON s.river_id = r.id WHERE ";
  private static final String RIVERS_THAT_FAIL =
      "SELECT COUNT(*) FROM river r WHERE EXISTS (SELECT 1 FROM station s WHERE s.river_id = r.id)"
          + " AND NOT EXISTS (SELECT 1 FROM station s WHERE s.river_id = r.id AND ";
  private static final String UNION =
      "(SELECT s.river_id FROM station s UNION SELECT r.flows_into FROM river r) u";

  /** A query, the kind, the name of its figure, and the query that counts the same. */
  @DataProvider
  static Object[][] harm() {
    return new Object[][] {
      {
        TOTAL_OF_NOTHING + "SUM(d.depth_cm) < 300",
        Kind.OUTER_JOIN_CANCELLED,
        "groups lost",
        "SELECT COUNT(*) FROM station s WHERE NOT EXISTS (SELECT 1 FROM reading d WHERE"
            + " d.station_id = s.id AND d.depth_cm IS NOT NULL)"
      },
      {
        TOTAL_OF_NOTHING + "0 = SUM(d.temperature)",
        Kind.OUTER_JOIN_CANCELLED,
        "groups lost",
        "SELECT COUNT(*) FROM station s WHERE s.id NOT IN (SELECT d.station_id FROM reading d WHERE"
            + " d.temperature IS NOT NULL)"
      },
      {
        STATIONS + "s.keeper_id IS NULL",
        Kind.OUTER_JOIN_CANCELLED,
        "rows lost",
        RIVERS_THAT_FAIL + "s.keeper_id IS NULL)"
      },
      {
        STATIONS + "s.bank = 'R' OR s.bank IS NULL",
        Kind.OUTER_JOIN_CANCELLED,
        "rows lost",
        RIVERS_THAT_FAIL + "(s.bank = 'R' OR s.bank IS NULL))"
      },
      {
        STATIONS + "r.id > 2 AND (s.capacity > 6 OR s.id IS NULL)",
        Kind.OUTER_JOIN_CANCELLED,
        "rows lost",
        RIVERS_THAT_FAIL + "s.capacity > 6) AND r.id > 2"
      },
      {
        "SELECT COUNT(*) AS n FROM " + UNION,
        Kind.UNION_REMOVES_ROWS,
        "lines",
        "SELECT COUNT(*) FROM " + UNION.replace("UNION", "UNION ALL")
      },
      {
        "SELECT SUM(u.river_id) AS n FROM " + UNION,
        Kind.UNION_REMOVES_ROWS,
        "different lines",
        "SELECT COUNT(*) FROM " + UNION
      },
      {
        "SELECT s.name, m.top FROM station s JOIN (SELECT x.river_id, MAX(x.capacity) AS top FROM"
            + " station x WHERE x.river_id IS NOT NULL GROUP BY x.river_id) m ON m.top = s.capacity",
        Kind.PARTIAL_KEY,
        "rows that meet that of another",
        "SELECT COUNT(*) FROM station s JOIN (SELECT x.river_id, MAX(x.capacity) AS top FROM station x"
            + " GROUP BY x.river_id) m ON m.top = s.capacity AND m.river_id <> s.river_id"
      },
      {
        "SELECT d.id, ROW_NUMBER() OVER (PARTITION BY d.station_id ORDER BY d.id > 0) AS n FROM"
            + " reading d",
        Kind.UNSTABLE_ORDER,
        "parts in which several come first",
        "SELECT COUNT(*) FROM (SELECT d.station_id FROM reading d GROUP BY d.station_id HAVING"
            + " COUNT(*) > 1) q"
      },
      {
        "SELECT COUNT(CASE WHEN d.depth_cm > 150 OR d.temperature > 10 THEN 1 WHEN d.id < 3 THEN 0"
            + " ELSE 9 END) AS n FROM reading d",
        Kind.COUNT_IGNORES_CONDITION,
        "rows that meet it",
        "SELECT COUNT(*) FROM reading d WHERE d.depth_cm > 150 OR d.temperature > 10 OR d.id < 3"
      },
      {
        "SELECT r.id, COUNT(IF(s.capacity > 8, 'yes', 'no')) AS n FROM river r JOIN station s ON"
            + " s.river_id = r.id WHERE s.bank = 'W' GROUP BY r.id",
        Kind.COUNT_IGNORES_CONDITION,
        "rows that meet it",
        "SELECT COUNT(*) FROM station s WHERE s.capacity > 8 AND s.bank = 'W' AND s.river_id IS NOT"
            + " NULL"
      },
      {
        "SELECT COUNT(d.temperature > 10) AS n FROM reading d",
        Kind.COUNT_IGNORES_CONDITION,
        "rows that meet it",
        "SELECT COUNT(*) FROM reading d WHERE d.temperature > 10"
      },
      {
        "SELECT COUNT(d.temperature > 10) AS n FROM reading d",
        Kind.COUNT_IGNORES_CONDITION,
        "rows counted",
        "SELECT COUNT(d.temperature) FROM reading d"
      },
      {
        "WITH x AS (SELECT s.capacity, g.seen_on FROM station s JOIN sighting g ON g.station_id = s.id"
            + " WHERE g.head_count > 2) SELECT SUM(x.capacity) AS places FROM x",
        Kind.REPEATED_IN_TOTAL,
        "counted",
        "SELECT COUNT(*) FROM sighting g WHERE g.head_count > 2"
      },
      {
        "SELECT r.name, q.id FROM river r LEFT JOIN LATERAL (SELECT s.id FROM station s WHERE"
            + " s.river_id = r.id ORDER BY s.bank LIMIT 1) q ON TRUE",
        Kind.UNSTABLE_ORDER,
        "rows outside with several that come first",
        "SELECT COUNT(*) FROM (SELECT s.river_id FROM station s WHERE s.river_id IS NOT NULL AND"
            + " COALESCE(s.bank, 'Z') = (SELECT MIN(COALESCE(o.bank, 'Z')) FROM station o WHERE"
            + " o.river_id = s.river_id) GROUP BY s.river_id HAVING COUNT(*) > 1) q"
      },
      {
        "SELECT DISTINCT ON (s.bank) s.bank, s.name FROM station s",
        Kind.UNORDERED_LIMIT,
        "with several rows",
        "SELECT COUNT(*) FROM (SELECT s.bank FROM station s GROUP BY s.bank HAVING COUNT(*) > 1) q"
      },
    };
  }

  @Test(dataProvider = "harm")
  public void isWhatAnotherQueryCounts(String sql, Kind kind, String figure, String counting) {
    long expected =
        Long.parseLong(String.valueOf(lantrel.study(counting).result().rows().get(0).get(0)));
    assertThat(expected).isPositive();
    assertThat(lantrel.study(sql).findings())
        .as(sql)
        .filteredOn(each -> each.kind() == kind)
        .singleElement()
        .satisfies(
            finding -> assertThat(finding.evidence().figures()).containsEntry(figure, expected));
  }

  /** Where no row is lost, nothing is claimed to be. */
  @DataProvider
  static Object[][] harmless() {
    return new Object[][] {
      {TOTAL_OF_NOTHING + "SUM(d.depth_cm) > 300"},
      {TOTAL_OF_NOTHING + "SUM(d.depth_cm) < 300 OR COUNT(d.id) = 0"},
      {TOTAL_OF_NOTHING + "MAX(d.depth_cm) < 300"},
      {STATIONS + "s.id > 0 OR s.id IS NULL"},
      {"SELECT COUNT(*) AS n FROM (SELECT 1 AS a UNION SELECT 2 AS a) u"},
    };
  }

  @Test(dataProvider = "harmless")
  public void noWarningWithoutHarm(String sql) {
    List<Severity> severities =
        lantrel.study(sql).findings().stream().map(Finding::severity).distinct().toList();
    assertThat(severities).as(sql).isSubsetOf(List.of(Severity.NOTE));
  }
}
