package io.lantrel.check;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import org.testng.annotations.AfterClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Calls with too few arguments, too many, and none: the engine refuses them, Lantrel says so. */
public class OddCallsTest {

  private static final List<String> NAMES =
      List.of(
          "SUM",
          "AVG",
          "COUNT",
          "MIN",
          "MAX",
          "STRING_AGG",
          "NULLIF",
          "COALESCE",
          "LOWER",
          "TRIM",
          "LENGTH",
          "ROUND",
          "YEAR",
          "DATE_TRUNC",
          "DATE_PART",
          "ROW_NUMBER",
          "RANK",
          "LAG",
          "FIRST_VALUE",
          "UNNEST");

  private static final List<String> ARGUMENTS =
      List.of(
          "()",
          "(*)",
          "(NULL)",
          "(b.sort)",
          "(DISTINCT b.price)",
          "(b.price, b.got)",
          "(CASE WHEN b.price > 1 THEN 1 END, 'x', b.id)",
          "() OVER ()",
          "(b.price) OVER (PARTITION BY b.sort ORDER BY b.got)",
          "(b.price) FILTER (WHERE b.got IS NULL)");

  private static final List<String> PLACES =
      List.of(
          "SELECT b.sort, %1$s AS first_day, b.price / %1$s AS share FROM box b ORDER BY %1$s",
          "SELECT s.id, SUM(b.price) / %1$s AS mean, SUM(%1$s) AS total, COUNT(*) AS n FROM shelf s"
              + " LEFT JOIN box b ON b.shelf_id = s.id GROUP BY s.id HAVING %1$s > 1",
          "SELECT b.id FROM box b JOIN shelf s ON s.id = %1$s WHERE %1$s = 1 AND b.sort <> %1$s",
          "SELECT s.id, (SELECT %1$s FROM box b WHERE b.shelf_id = s.id) AS last_day FROM shelf s");

  private final WorldOnEngines boxes =
      new WorldOnEngines(
          "boxes",
          List.of(
              "CREATE TABLE shelf (id INTEGER PRIMARY KEY, within_id INTEGER REFERENCES shelf (id));",
              "CREATE TABLE box (id INTEGER PRIMARY KEY, shelf_id INTEGER REFERENCES shelf (id),"
                  + " sort VARCHAR(9), price DECIMAL(6,2), got DATE);",
              "INSERT INTO shelf VALUES (1, NULL), (2, 1), (3, 1);",
              "INSERT INTO box VALUES (1, 1, 'a', 2.50, '2026-01-01'), (2, 1, 'b', NULL,"
                  + " '2026-01-02'), (3, 2, 'a', 0, NULL), (4, NULL, NULL, 7.10, '2026-03-01');"));

  @AfterClass
  public void close() {
    boxes.close();
  }

  @DataProvider
  static Object[][] calls() {
    List<Object[]> calls = new ArrayList<>();
    for (String name : NAMES) {
      for (String arguments : ARGUMENTS) {
        calls.add(new Object[] {name + arguments});
      }
    }
    return calls.toArray(Object[][]::new);
  }

  /** That something is wrong there is told, so that it is looked at at all. */
  @Test
  public void theyAreLookedAt() {
    long told =
        Arrays.stream(calls())
            .map(call -> PLACES.get(1).formatted(call))
            .filter(sql -> !boxes.duckdb().study(sql).findings().isEmpty())
            .count();
    assertThat(told).isGreaterThan(100);
  }

  @Test(dataProvider = "calls")
  public void noCallIsAFaultOfLantrel(String call) {
    for (String place : PLACES) {
      String sql = place.formatted(call);
      assertThat(boxes.duckdb().study(sql).inspection().unchecked())
          .as(sql)
          .noneMatch(each -> each.contains("Exception"));
    }
  }
}
