package io.lantrel.check;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.RiverWatchFolder;
import io.lantrel.Study;
import io.lantrel.engine.Engine;
import io.lantrel.engine.Limits;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.testng.annotations.AfterClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/**
 * Shares of whole numbers, where the engine that a query is written for cuts their fraction off.
 */
public class WholeDivisionTest {

  private static final List<Engine> CUTTING =
      List.of(Engine.POSTGRESQL, Engine.SQLITE, Engine.H2, Engine.HSQLDB);
  private static final List<Engine> EXACT = List.of(Engine.DUCKDB, Engine.MARIADB);

  private final Map<Engine, Lantrel> open = new TreeMap<>();

  private Lantrel at(Engine engine) {
    return open.computeIfAbsent(
        engine, each -> Lantrel.openFor(each, RiverWatchFolder.data(), Limits.usual()));
  }

  @AfterClass(alwaysRun = true)
  public void close() {
    open.values().forEach(Lantrel::close);
  }

  /** A query, and whether something is to be found. */
  @DataProvider
  static Object[][] queries() {
    String by = " FROM station s GROUP BY s.river_id";
    return new Object[][] {
      {"SELECT s.river_id, COUNT(s.keeper_id) / COUNT(*) AS share" + by, true},
      {"SELECT SUM(s.capacity) / COUNT(*) AS mean FROM station s", true},
      {
        "SELECT s.bank, ROUND(SUM(s.capacity) / COUNT(*), 2) AS mean FROM station s GROUP BY s.bank",
        true
      },
      {
        "SELECT r.id, SUM(CASE WHEN s.bank = 'R' THEN 1 ELSE 0 END) / COUNT(*) AS share FROM river r"
            + " JOIN station s ON s.river_id = r.id GROUP BY r.id",
        true
      },
      {
        "SELECT q.river_id, q.share FROM (SELECT s.river_id, COUNT(s.keeper_id) / COUNT(*) AS share"
            + by
            + ") q",
        true
      },
      // No row of this has a fraction.
      {"SELECT s.id, COUNT(s.keeper_id) / COUNT(*) AS share FROM station s GROUP BY s.id", false},
      {"SELECT s.river_id, COUNT(s.keeper_id) * 100 / COUNT(*) AS percent" + by, false},
      {"SELECT s.river_id, 1.0 * COUNT(s.keeper_id) / COUNT(*) AS share" + by, false},
      {
        "SELECT s.river_id, CAST(COUNT(s.keeper_id) AS DECIMAL(9, 3)) / COUNT(*) AS share" + by,
        false
      },
      {"SELECT s.river_id, SUM(s.capacity) / 2 AS half" + by, false},
      {"SELECT r.id, r.flow / r.length_km AS per_km FROM river r", false},
      {
        "SELECT d.station_id, SUM(d.temperature) / COUNT(*) AS mean FROM reading d GROUP BY d.station_id",
        false
      },
    };
  }

  private static List<Finding> found(Study study) {
    return study.findings().stream().filter(each -> each.kind() == Kind.WHOLE_DIVISION).toList();
  }

  /** How many rows have a fraction in their last column, where the engine gives it. */
  private long fractions(String sql) {
    return at(Engine.DUCKDB).study(sql).result().rows().stream()
        .map(row -> new BigDecimal(String.valueOf(row.get(row.size() - 1))))
        .filter(value -> value.stripTrailingZeros().scale() > 0)
        .count();
  }

  @Test(dataProvider = "queries")
  public void isFoundWhereItIsCut(String sql, boolean isFound) {
    long rows = fractions(sql);
    for (Engine engine : CUTTING) {
      List<Finding> found = found(at(engine).study(sql));
      List<Long> figures = new ArrayList<>();
      found.forEach(each -> figures.addAll(each.evidence().figures().values()));
      assertThat(figures).as("%s: %s", engine, sql).isEqualTo(isFound ? List.of(rows) : List.of());
      found.forEach(
          each -> {
            String repaired = each.repair().orElseThrow().sql();
            assertThat(found(at(engine).study(repaired))).as("%s: %s", engine, repaired).isEmpty();
          });
    }
    for (Engine engine : EXACT) {
      assertThat(found(at(engine).study(sql))).as("%s: %s", engine, sql).isEmpty();
    }
  }
}
