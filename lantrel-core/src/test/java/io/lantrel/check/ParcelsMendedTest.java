package io.lantrel.check;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.testng.annotations.AfterClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/**
 * The faults of the parcels: what is said of them, what mends them, and where else they are found.
 */
public class ParcelsMendedTest {

  private final WorldOnEngines world = new WorldOnEngines("parcels_mended", ParcelsTest.WORLD);

  @AfterClass
  void close() {
    world.close();
  }

  private static Finding warning(WorldOnEngines world, String sql, String kind) {
    return Repaired.warning(sql, kind, world.duckdb());
  }

  /** A query with the faulty part in «», what that becomes, and the kind. */
  @DataProvider
  static Object[][] mended() {
    return new Object[][] {
      {
        "SELECT a.parcel_id FROM scan a JOIN scan b ON «b.scan_no = a.scan_no + 1»",
        "b.scan_no = a.scan_no + 1 AND b.parcel_id = a.parcel_id",
        "partial-key"
      },
      {
        "SELECT a.parcel_id FROM scan a, scan b WHERE «b.scan_no = a.scan_no + 1» AND a.depot_id = 2",
        "b.scan_no = a.scan_no + 1 AND b.parcel_id = a.parcel_id",
        "partial-key"
      },
      {
        "select p.id from parcel p where exists (select 1 from scan s where s.parcel_id = p.id and"
            + " s.scan_no = (select max(x.scan_no) from scan x«»))",
        " where x.parcel_id = s.parcel_id",
        "uncorrelated-exists"
      },
      {
        "SELECT t.id, c.name FROM tour t JOIN courier c ON «c.depot_id = t.depot_id»",
        "t.courier_id = c.id",
        "not-a-reference"
      },
      {
        "SELECT t.id, c.name FROM courier c, tour t WHERE «t.depot_id = c.depot_id» ORDER BY t.id",
        "t.courier_id = c.id",
        "not-a-reference"
      },
      {
        "SELECT c.name FROM courier c WHERE NOT EXISTS (SELECT 1 FROM tour t WHERE «t.courier_id ="
            + " t.id»)",
        "t.courier_id = c.id",
        "not-a-reference"
      },
      {
        "SELECT t.id FROM tour t WHERE EXISTS (SELECT 1 FROM parcel p WHERE p.tour_id = t.id «OR»"
            + " p.status = 'lost')",
        "AND",
        "loose-or"
      },
      {
        "SELECT f.id, s.depot_id FROM photo f JOIN damage d ON d.id = f.damage_id JOIN scan s ON"
            + " «s.parcel_id = d.parcel_id» AND s.scan_no = f.scan_no",
        "f.parcel_id = s.parcel_id",
        "partial-key"
      },
      {"SELECT MIN(«CAST(p.grams AS CHAR(9))») AS least FROM parcel p", "p.grams", "type-mismatch"},
      {
        "SELECT p.id FROM parcel p ORDER BY «CAST(p.grams AS CHAR(9))» DESC, p.id",
        "p.grams",
        "type-mismatch"
      },
      {
        "SELECT s.parcel_id, s.scan_no, LAG(s.depot_id) OVER («»ORDER BY s.parcel_id, s.scan_no) AS"
            + " came_from FROM scan s",
        "PARTITION BY s.parcel_id ",
        "partial-key"
      },
      {
        "WITH RECURSIVE below AS (SELECT d.id, d.parent_id FROM depot d WHERE d.id = 2 UNION ALL"
            + " SELECT d.id, d.parent_id FROM depot d JOIN below b ON «b.parent_id = d.id») SELECT id"
            + " FROM below",
        "d.parent_id = b.id",
        "reversed-recursion"
      },
      {
        "SELECT x.courier_id FROM courier_licence x WHERE x.valid_year > 2000 GROUP BY x.courier_id"
            + " HAVING «COUNT(x.licence_code)» = (SELECT COUNT(*) FROM licence)",
        "COUNT(DISTINCT x.licence_code)",
        "repeated-in-total"
      },
    };
  }

  @Test(dataProvider = "mended")
  public void theRepairChangesThatPartAlone(String marked, String instead, String kind) {
    Repaired.changesAPartAlone(marked, instead, kind, world.duckdb());
  }

  private static boolean isOf(Finding finding, String kind) {
    return Repaired.isOf(finding, kind);
  }

  /** What counts above the line and below it is mended in one. */
  @Test
  public void bothCountsOfAShareAreMended() {
    String share =
        "SELECT 100.0 * COUNT(d.id) / COUNT(p.id) AS share FROM parcel p LEFT JOIN damage d ON"
            + " d.parcel_id = p.id";
    assertThat(warning(world, share, "repeated-in-total").repair().orElseThrow().sql())
        .contains("COUNT(DISTINCT d.parcel_id) / COUNT(DISTINCT p.id)");
  }

  /** A query, the kind, and what its message says of the rows. */
  @DataProvider
  static Object[][] messages() {
    return new Object[][] {
      {
        "SELECT a.parcel_id FROM scan a JOIN scan b ON b.scan_no = a.scan_no + 1",
        "partial-key",
        "also meets those of another parcel_id: 7 rows of the join"
      },
      {
        "SELECT p.id FROM parcel p JOIN scan s ON s.parcel_id = p.id AND s.scan_no = (SELECT"
            + " MAX(x.scan_no) FROM scan x)",
        "uncorrelated-exists",
        "scan_no counts within each parcel_id: 3 of these have no row with that number"
      },
      {
        "SELECT t.id, c.name FROM tour t JOIN courier c ON c.depot_id = t.depot_id",
        "not-a-reference",
        "puts each tour beside every courier that shares this with it: 3 rows"
      },
      {
        "SELECT c.name, CASE WHEN t.ended IS NULL THEN 'open' ELSE 'done' END AS state FROM courier c"
            + " LEFT JOIN tour t ON t.courier_id = c.id",
        "partner-test-on-nullable",
        "is NULL in 1 row without a tour, and in 1 whose tour has no value there"
      },
      {
        "SELECT c.name, t.id, COUNT(*) OVER (PARTITION BY c.id) AS tours FROM courier c JOIN tour t ON"
            + " t.courier_id = c.id JOIN parcel p ON p.tour_id = t.id",
        "repeated-in-total",
        "3 tours counted 4 times"
      },
      {
        "SELECT COUNT(d.id) * 1.0 / COUNT(*) AS share FROM parcel p LEFT JOIN damage d ON d.parcel_id"
            + " = p.id",
        "repeated-in-total",
        "a parcel with several damages comes several times, as 1 does"
      },
      {
        "SELECT p.id, r.price FROM parcel p LEFT JOIN tour t ON t.id = p.tour_id LEFT JOIN tariff r ON"
            + " r.depot_id = t.depot_id AND p.grams >= r.from_grams AND p.grams < r.to_grams",
        "rows-repeated",
        "2 rows meet several tariffs here, and nothing is said of r.valid_from and r.valid_to"
      },
      {
        "SELECT s.parcel_id, MIN(s.depot_id) AS first_depot FROM scan s GROUP BY s.parcel_id",
        "values-of-several-rows",
        "is the least number, and not that of the first scan: in 1 group it is another"
      },
      {
        "SELECT c.name FROM courier c JOIN courier_licence x ON x.courier_id = c.id GROUP BY c.id,"
            + " c.name HAVING COUNT(*) = (SELECT COUNT(*) FROM licence)",
        "repeated-in-total",
        "1 group is wrongly taken or left out"
      },
    };
  }

  @Test(dataProvider = "messages")
  public void theMessageSaysWhatHappensToTheRows(String sql, String kind, String words) {
    assertThat(warning(world, sql, kind).message()).contains(words);
  }

  /** A fault that is found as it stands, and in each of the places below. */
  @DataProvider
  static Object[][] placed() {
    List<List<String>> faults =
        List.of(
            List.of(
                "partial-key",
                "SELECT a.scan_no FROM scan a JOIN scan b ON b.scan_no = a.scan_no + 1"),
            List.of(
                "not-a-reference",
                "SELECT t.id FROM tour t JOIN courier c ON c.depot_id = t.depot_id"),
            List.of(
                "uncorrelated-exists",
                "SELECT s.parcel_id FROM scan s WHERE s.scan_no = (SELECT MAX(x.scan_no) FROM scan x)"),
            List.of(
                "loose-or",
                "SELECT t.id FROM tour t WHERE EXISTS (SELECT 1 FROM parcel p WHERE p.tour_id = t.id OR"
                    + " p.status = 'lost')"),
            List.of(
                "groups-of-one",
                "SELECT RANK() OVER (PARTITION BY p.id ORDER BY p.grams) AS place FROM parcel p"));
    return Within.others(faults, "depot", "id", "town", "town");
  }

  @Test(dataProvider = "placed")
  public void aFaultIsFoundWithinOtherQueries(String sql, String kind) {
    world.forEach(
        (engine, lantrel) ->
            assertThat(lantrel.study(sql).findings())
                .as(engine.title() + ": " + sql)
                .anyMatch(each -> isOf(each, kind)));
  }
}
