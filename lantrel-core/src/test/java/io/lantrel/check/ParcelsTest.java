package io.lantrel.check;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.testng.annotations.AfterClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/**
 * Depots below each other, couriers with licences, tours and the parcels on them: numbers that
 * count within a parcel, references that a query passes over, shares and ranks.
 */
public class ParcelsTest {

  static final List<String> WORLD =
      List.of(
          "CREATE TABLE depot (id INTEGER PRIMARY KEY, town VARCHAR(20) NOT NULL, parent_id INTEGER"
              + " REFERENCES depot (id));",
          "CREATE TABLE courier (id INTEGER PRIMARY KEY, name VARCHAR(20) NOT NULL, depot_id INTEGER"
              + " NOT NULL REFERENCES depot (id));",
          "CREATE TABLE licence (code VARCHAR(2) PRIMARY KEY, fee INTEGER NOT NULL);",
          "CREATE TABLE courier_licence (courier_id INTEGER NOT NULL REFERENCES courier (id),"
              + " licence_code VARCHAR(2) NOT NULL REFERENCES licence (code), valid_year INTEGER NOT"
              + " NULL, PRIMARY KEY (courier_id, licence_code, valid_year));",
          "CREATE TABLE tour (id INTEGER PRIMARY KEY, depot_id INTEGER NOT NULL REFERENCES depot (id),"
              + " courier_id INTEGER REFERENCES courier (id), started INTEGER NOT NULL, ended"
              + " INTEGER);",
          "CREATE TABLE parcel (id INTEGER PRIMARY KEY, tour_id INTEGER REFERENCES tour (id), grams"
              + " INTEGER NOT NULL, status VARCHAR(10) NOT NULL);",
          "CREATE TABLE scan (parcel_id INTEGER NOT NULL REFERENCES parcel (id), scan_no INTEGER NOT"
              + " NULL, depot_id INTEGER NOT NULL REFERENCES depot (id), PRIMARY KEY (parcel_id,"
              + " scan_no));",
          "CREATE TABLE damage (id INTEGER PRIMARY KEY, parcel_id INTEGER NOT NULL REFERENCES parcel"
              + " (id), reported INTEGER NOT NULL, amount INTEGER);",
          "CREATE TABLE photo (id INTEGER PRIMARY KEY, damage_id INTEGER NOT NULL REFERENCES damage"
              + " (id), parcel_id INTEGER NOT NULL, scan_no INTEGER NOT NULL, FOREIGN KEY (parcel_id,"
              + " scan_no) REFERENCES scan (parcel_id, scan_no));",
          "CREATE TABLE tariff (id INTEGER PRIMARY KEY, depot_id INTEGER NOT NULL REFERENCES depot"
              + " (id), from_grams INTEGER NOT NULL, to_grams INTEGER NOT NULL, price INTEGER NOT"
              + " NULL, valid_from DATE NOT NULL, valid_to DATE);",
          "INSERT INTO depot VALUES (1, 'Halm', NULL), (2, 'Ost', 1), (3, 'Pen', 2);",
          "INSERT INTO courier VALUES (3, 'Mor', 1), (4, 'Oake', 1), (5, 'Pym', 2), (6, 'Ure', 3);",
          "INSERT INTO licence VALUES ('A', 20), ('B', 45), ('C', 90);",
          "INSERT INTO courier_licence VALUES (3, 'A', 2024), (3, 'A', 2025), (3, 'B', 2025), (4, 'A',"
              + " 2025), (5, 'A', 2025), (5, 'B', 2025), (5, 'C', 2025);",
          "INSERT INTO tour VALUES (1, 1, 3, 8, 12), (2, 1, 4, 9, NULL), (3, 2, 5, 8, 11), (4, 1, 3,"
              + " 13, 15);",
          "INSERT INTO parcel VALUES (1, 1, 9, 'lost'), (2, 1, 10, 'done'), (3, 2, 250, 'done'), (4,"
              + " 3, 80, 'lost'), (5, NULL, 7, 'new');",
          "INSERT INTO scan VALUES (1, 1, 2), (1, 2, 1), (1, 3, 3), (2, 1, 1), (2, 2, 1), (3, 1, 2),"
              + " (4, 1, 3);",
          "INSERT INTO damage VALUES (1, 1, 5, 40), (2, 1, 6, 10), (3, 4, 5, NULL);",
          "INSERT INTO tariff VALUES (1, 1, 0, 100, 3, '2024-01-01', '2024-12-31'), (2, 1, 0, 100, 4,"
              + " '2025-01-01', NULL), (3, 1, 100, 999, 9, '2024-01-01', NULL), (4, 2, 0, 100, 5,"
              + " '2024-01-01', NULL);",
          "INSERT INTO photo VALUES (1, 1, 1, 2), (2, 2, 2, 1);");

  private final WorldOnEngines world = new WorldOnEngines("parcels", WORLD);

  @AfterClass
  void close() {
    world.close();
  }

  /** A query, and the kinds of its warnings. */
  @DataProvider
  static Object[][] joins() {
    String next = "SELECT a.parcel_id FROM scan a JOIN scan b ON %s WHERE a.depot_id <> b.depot_id";
    String last = "SELECT p.id, s.depot_id FROM parcel p JOIN scan s ON s.parcel_id = p.id AND ";
    String shot =
        "SELECT f.id, s.depot_id FROM photo f JOIN damage d ON d.id = f.damage_id JOIN scan s ON ";
    String priced =
        "SELECT p.id, r.price FROM parcel p LEFT JOIN tour t ON t.id = p.tour_id LEFT JOIN tariff r ON"
            + " r.depot_id = t.depot_id AND ";
    String crew = "SELECT t.id, c.name FROM tour t JOIN courier c ON ";
    String drives = "SELECT c.name, (SELECT COUNT(*) FROM tour t WHERE %s) AS tours FROM courier c";
    return new Object[][] {
      // The next number, of whichever parcel.
      {String.format(next, "b.scan_no = a.scan_no + 1"), "partial-key"},
      {String.format(next, "b.scan_no - 1 = a.scan_no"), "partial-key"},
      {String.format(next, "b.parcel_id = a.parcel_id AND b.scan_no = a.scan_no + 1"), ""},
      {String.format(next, "b.scan_no = a.scan_no + 1 AND b.parcel_id = 1"), ""},
      {
        "SELECT a.parcel_id FROM scan a WHERE NOT EXISTS (SELECT 1 FROM scan b WHERE b.scan_no ="
            + " a.scan_no + 1)",
        "partial-key"
      },
      {
        "SELECT a.parcel_id FROM scan a WHERE NOT EXISTS (SELECT 1 FROM scan b WHERE b.scan_no ="
            + " a.scan_no + 1 AND b.parcel_id = a.parcel_id)",
        ""
      },
      // The greatest number of all parcels, which few have.
      {last + "s.scan_no = (SELECT MAX(x.scan_no) FROM scan x)", "uncorrelated-exists"},
      {last + "(SELECT MAX(x.scan_no) FROM scan x) = s.scan_no", "uncorrelated-exists"},
      {
        last + "s.scan_no = (SELECT MAX(x.scan_no) FROM scan x WHERE x.parcel_id = s.parcel_id)", ""
      },
      {last + "s.scan_no = (SELECT MIN(x.scan_no) FROM scan x)", ""},
      // A number of one row, within what another row belongs to.
      {shot + "s.parcel_id = d.parcel_id AND s.scan_no = f.scan_no", "partial-key"},
      {shot + "s.scan_no = f.scan_no AND s.parcel_id = f.parcel_id", ""},
      {
        shot + "s.parcel_id = d.parcel_id AND s.scan_no = f.scan_no AND f.parcel_id = d.parcel_id",
        ""
      },
      // The price of a weight, of last year and of this.
      {priced + "p.grams >= r.from_grams AND p.grams < r.to_grams", "rows-repeated"},
      {priced + "p.grams BETWEEN r.from_grams AND r.to_grams", "rows-repeated"},
      {priced + "p.grams >= r.from_grams AND p.grams < r.to_grams WHERE r.valid_to IS NULL", ""},
      {priced + "p.grams >= r.from_grams AND p.grams < r.to_grams WHERE p.id = 4", ""},
      {priced + "p.grams >= r.from_grams", ""},
      // The tour names its courier.
      {crew + "c.depot_id = t.depot_id", "not-a-reference"},
      {crew + "c.id = t.courier_id", ""},
      {crew + "c.depot_id = t.depot_id AND c.id <> t.courier_id", ""},
      {
        "SELECT t.id, t.courier_id, c.name FROM tour t JOIN courier c ON c.depot_id = t.depot_id",
        ""
      },
      {String.format(drives, "t.courier_id = t.id"), "not-a-reference"},
      {String.format(drives, "t.courier_id = c.id"), ""},
      {"SELECT d.town FROM depot d WHERE d.parent_id = d.id OR d.parent_id IS NULL", ""},
      // Where an OR connects one branch alone.
      {
        "SELECT t.id FROM tour t WHERE EXISTS (SELECT 1 FROM parcel p WHERE p.tour_id = t.id OR"
            + " p.status = 'lost')",
        "loose-or"
      },
      {
        "SELECT t.id FROM tour t WHERE EXISTS (SELECT 1 FROM parcel p WHERE p.tour_id = t.id AND"
            + " (p.status = 'lost' OR p.grams > 100))",
        ""
      },
      {
        "SELECT t.id FROM tour t WHERE EXISTS (SELECT 1 FROM parcel p WHERE p.tour_id = t.id OR"
            + " p.tour_id IS NULL)",
        ""
      },
      // All licences that there are, of which the inner query asks nothing.
      {
        "SELECT l.code FROM licence l WHERE NOT EXISTS (SELECT 1 FROM courier c WHERE NOT EXISTS"
            + " (SELECT 1 FROM courier_licence x WHERE x.courier_id = c.id))",
        "uncorrelated-exists"
      },
      {
        "SELECT l.code FROM licence l WHERE NOT EXISTS (SELECT 1 FROM courier c WHERE c.id < 5 AND"
            + " NOT EXISTS (SELECT 1 FROM courier_licence x WHERE x.courier_id = c.id AND"
            + " x.licence_code = l.code))",
        ""
      },
    };
  }

  @DataProvider
  static Object[][] values() {
    String has =
        "SELECT c.name FROM courier c JOIN courier_licence x ON x.courier_id = c.id GROUP BY c.id,"
            + " c.name HAVING ";
    String share =
        "SELECT %s * 100.0 / %s AS share FROM parcel p LEFT JOIN damage d ON d.parcel_id = p.id";
    String state =
        "SELECT c.name, %s AS state FROM courier c LEFT JOIN tour t ON t.courier_id = c.id";
    String rank =
        "SELECT c.name, RANK() OVER (%s ORDER BY COUNT(t.id) DESC) AS place FROM courier c LEFT JOIN"
            + " tour t ON t.courier_id = c.id GROUP BY c.id, c.name, c.depot_id";
    String perCourier =
        "SELECT c.name, t.id, COUNT(%s) OVER (PARTITION BY c.id) AS %s FROM courier c JOIN tour t ON"
            + " t.courier_id = c.id JOIN parcel p ON p.tour_id = t.id";
    return new Object[][] {
      // Two years of one licence are not two licences.
      {has + "COUNT(x.licence_code) = (SELECT COUNT(*) FROM licence)", "repeated-in-total"},
      {has + "COUNT(*) >= (SELECT COUNT(*) FROM licence l)", "repeated-in-total"},
      {has + "COUNT(DISTINCT x.licence_code) = (SELECT COUNT(*) FROM licence)", ""},
      {has + "COUNT(x.licence_code) > (SELECT COUNT(*) FROM depot) - 2", ""},
      // A parcel with two damages.
      {String.format(share, "COUNT(d.id)", "COUNT(*)"), "repeated-in-total"},
      {String.format(share, "COUNT(DISTINCT d.parcel_id)", "COUNT(*)"), "repeated-in-total"},
      {String.format(share, "COUNT(DISTINCT d.parcel_id)", "COUNT(DISTINCT p.id)"), ""},
      // A courier without a tour is not one whose tour is open.
      {
        String.format(state, "CASE WHEN t.ended IS NULL THEN 'open' ELSE 'done' END"),
        "partner-test-on-nullable"
      },
      {String.format(state, "CASE WHEN t.ended IS NULL THEN 0 ELSE t.ended END"), ""},
      {
        String.format(
            state,
            "CASE WHEN t.id IS NULL THEN 'none' WHEN t.ended IS NULL THEN 'open' ELSE 'done' END"),
        ""
      },
      {
        "SELECT t.id, CASE WHEN t.ended IS NULL THEN 'open' ELSE 'done' END AS state FROM tour t",
        ""
      },
      // A parcel has one tour: to be on none, and on one that has no end, are alike.
      {
        "SELECT p.id, CASE WHEN t.ended IS NULL THEN 'there' ELSE 'gone' END AS state FROM parcel p"
            + " LEFT JOIN tour t ON t.id = p.tour_id",
        ""
      },
      // Each alone in its part.
      {String.format(rank, "PARTITION BY c.id"), "groups-of-one"},
      {String.format(rank, "PARTITION BY c.depot_id"), ""},
      {String.format(rank, ""), ""},
      {
        "SELECT p.id, SUM(p.grams) OVER (PARTITION BY p.id) AS grams FROM parcel p", "groups-of-one"
      },
      {"SELECT p.id, SUM(p.grams) OVER (PARTITION BY p.tour_id) AS grams FROM parcel p", ""},
      {String.format(perCourier, "*", "tours"), "repeated-in-total"},
      {String.format(perCourier, "*", "parcels"), ""},
      {String.format(perCourier, "p.id", "parcels"), ""},
      // Digits in the order of letters.
      {"SELECT MAX(CAST(p.grams AS CHAR(9))) AS most FROM parcel p", "type-mismatch"},
      {"SELECT MAX(p.grams) AS most FROM parcel p", ""},
      {"SELECT p.id FROM parcel p ORDER BY CAST(p.grams AS CHAR(9)), p.id", "type-mismatch"},
      {"SELECT p.id FROM parcel p WHERE p.id < 3 ORDER BY CAST(p.id AS CHAR(9))", ""},
      // The least number of a depot is not the first depot.
      {
        "SELECT s.parcel_id, MIN(s.depot_id) AS first_depot FROM scan s GROUP BY s.parcel_id",
        "values-of-several-rows"
      },
      {"SELECT s.parcel_id, MIN(s.depot_id) AS least_depot FROM scan s GROUP BY s.parcel_id", ""},
      {
        "SELECT s.parcel_id, MAX(s.depot_id) AS last_depot FROM scan s WHERE s.parcel_id = 1 GROUP BY"
            + " s.parcel_id",
        ""
      },
      {"SELECT s.parcel_id, MIN(s.scan_no) AS first_scan FROM scan s GROUP BY s.parcel_id", ""},
      // What the last tour has.
      {
        "SELECT t.depot_id, MAX(t.id) AS last_tour, MAX(t.ended - t.started) AS longest FROM tour t"
            + " GROUP BY t.depot_id",
        ""
      },
      {
        "SELECT t.depot_id, MAX(t.id) AS last_tour, MIN(t.started) AS started FROM tour t GROUP BY"
            + " t.depot_id",
        "values-of-several-rows"
      },
      {
        "SELECT t.depot_id, MAX(t.id) AS last_tour, MIN(t.started) AS earliest_start FROM tour t"
            + " GROUP BY t.depot_id",
        ""
      },
      // The amount of the last report.
      {
        "SELECT d.parcel_id, MAX(d.reported) AS last_reported, MAX(d.amount) AS greatest_amount FROM"
            + " damage d GROUP BY d.parcel_id",
        ""
      },
    };
  }

  @Test(dataProvider = "joins")
  public void warningsOfJoinsAre(String sql, String kinds) {
    world.hasWarnings(sql, kinds);
  }

  @Test(dataProvider = "values")
  public void warningsOfValuesAre(String sql, String kinds) {
    world.hasWarnings(sql, kinds);
  }

  @DataProvider
  static Object[][] walks() {
    String down = "d.parent_id = w.id";
    String up = "d.id = w.parent_id";
    return new Object[][] {
      {"below", down, ""},
      {"below", up, "reversed-recursion"},
      {"depots_under", up, "reversed-recursion"},
      {"ancestors", up, ""},
      {"ancestors", down, "reversed-recursion"},
      {"steps", up, ""},
      {"steps", down, ""},
    };
  }

  @Test(dataProvider = "walks")
  public void aWalkGoesWhereItsNameSays(String name, String step, String kinds) {
    String sql =
        "WITH RECURSIVE "
            + name
            + " (id, parent_id) AS (SELECT d.id, d.parent_id FROM depot d WHERE d.town = 'Ost' UNION"
            + " ALL SELECT d.id, d.parent_id FROM "
            + name
            + " w JOIN depot d ON "
            + step
            + ") SELECT id FROM "
            + name;
    world.hasWarnings(sql, kinds);
  }

  @Test
  public void theColumnBesideIsProposed() {
    world.forEach(
        (engine, lantrel) ->
            assertThat(
                    lantrel
                        .study(
                            "WITH m AS (SELECT c.depot_id, COUNT(*) AS n FROM courier c GROUP BY"
                                + " c.depot_id) SELECT c.name, m.n FROM courier c JOIN m ON m.depot_id"
                                + " = c.id")
                        .findings())
                .as(engine.title())
                .anyMatch(each -> each.message().contains("Join on m.depot_id = c.depot_id.")));
  }
}
