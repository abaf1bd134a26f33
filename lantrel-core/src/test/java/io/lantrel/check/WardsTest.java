package io.lantrel.check;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.testng.annotations.AfterClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/**
 * Beds with keys of two parts, prices through time, two references between the same tables, bills
 * that are paid in parts: what the river watch has no tables for.
 */
public class WardsTest {

  private static final List<String> WORLD =
      List.of(
          "CREATE TABLE healer (healer_id INTEGER PRIMARY KEY, surname VARCHAR(20), fee INTEGER);",
          "CREATE TABLE patient (patient_id INTEGER PRIMARY KEY, surname VARCHAR(20), family_healer"
              + " INTEGER REFERENCES healer (healer_id), guardian_id INTEGER REFERENCES patient"
              + " (patient_id));",
          "CREATE TABLE \"Bed\" (ward INTEGER NOT NULL, bed_no INTEGER NOT NULL, fitting VARCHAR(8),"
              + " PRIMARY KEY (ward, bed_no));",
          "CREATE TABLE stay (stay_id INTEGER PRIMARY KEY, patient_id INTEGER NOT NULL REFERENCES"
              + " patient (patient_id), ward INTEGER NOT NULL, bed_no INTEGER NOT NULL, came_on DATE"
              + " NOT NULL, nights INTEGER, urgency VARCHAR(8), FOREIGN KEY (ward, bed_no) REFERENCES"
              + " \"Bed\" (ward, bed_no));",
          "CREATE TABLE drug (drug VARCHAR(4) PRIMARY KEY, label VARCHAR(20));",
          "CREATE TABLE drug_price (drug VARCHAR(4) NOT NULL REFERENCES drug (drug), valid_from DATE"
              + " NOT NULL, valid_to DATE, price INTEGER NOT NULL, PRIMARY KEY (drug, valid_from));",
          "CREATE TABLE prescription (stay_id INTEGER NOT NULL REFERENCES stay (stay_id), drug"
              + " VARCHAR(4) NOT NULL REFERENCES drug (drug), line_no INTEGER NOT NULL, dose INTEGER,"
              + " PRIMARY KEY (stay_id, drug, line_no));",
          "INSERT INTO healer VALUES (1, 'Ames', 90), (2, 'Birk', 80), (3, 'Corl', NULL);",
          "INSERT INTO patient VALUES (1, 'Orr', 1, NULL), (2, 'Pell', NULL, 1), (3, 'Quin', 2, 2),"
              + " (4, 'Rusk', NULL, NULL);",
          "INSERT INTO \"Bed\" VALUES (1, 1, 'plain'), (1, 2, 'plain'), (2, 1, 'plain'), (2, 2, 'wide');",
          "INSERT INTO stay VALUES (1, 1, 1, 1, '2026-01-02', 3, 'acute'), (2, 1, 1, 2, '2026-03-02', 9,"
              + " 'acute'), (3, 2, 2, 1, '2026-02-02', 9, 'planned'), (4, 3, 2, 1, '2026-04-02', NULL,"
              + " NULL), (5, 2, 1, 1, '2026-05-02', 2, 'acute'), (6, 1, 2, 2, '2026-06-02', 1, NULL);",
          "INSERT INTO drug VALUES ('AB', 'Abrin'), ('BC', 'Becol');",
          "INSERT INTO drug_price VALUES ('AB', '2025-01-01', '2025-12-31', 4), ('AB', '2026-01-01',"
              + " NULL, 5), ('BC', '2025-01-01', '2025-12-31', 7), ('BC', '2026-01-01', NULL, 6);",
          "INSERT INTO prescription VALUES (1, 'AB', 1, 2), (1, 'AB', 2, 1), (2, 'BC', 1, NULL), (3,"
              + " 'AB', 1, 1), (3, 'BC', 1, 4);");

  private final WorldOnEngines world = new WorldOnEngines("wards", WORLD);

  @AfterClass
  void close() {
    world.close();
  }

  private static final String PRICED =
      "SELECT r.stay_id, r.drug, r.dose * p.price AS cost FROM prescription r JOIN stay s ON s.stay_id"
          + " = r.stay_id JOIN drug_price p ON p.drug = r.drug";
  private static final String TWO_YEARS =
      "SELECT d.label, a.price AS before, b.price AS now FROM drug d JOIN drug_price a ON a.drug ="
          + " d.drug AND a.valid_from = '2025-01-01' JOIN drug_price b ON b.drug = d.drug";
  private static final String OVER_DATES = " FROM stay s WINDOW w AS (ORDER BY s.came_on)";
  private static final String OF_PATIENT =
      " FROM stay s WINDOW w AS (PARTITION BY s.patient_id ORDER BY s.came_on)";
  private static final String NEXT =
      "SELECT s.stay_id, n.came_on AS next_on FROM stay s JOIN stay n ON n.patient_id = s.patient_id AND"
          + " n.came_on > s.came_on";
  private static final String OF_BEDS = "/ (SELECT COUNT(*) FROM \"Bed\") AS ";
  private static final String IN_BEDS =
      " FROM \"Bed\" b JOIN stay s ON s.ward = b.ward AND s.bed_no = b.bed_no";

  /** A query and the warnings that it must have; none where it is right. */
  @DataProvider
  static Object[][] queries() {
    return new Object[][] {
      // the price of a time: what is listed is no rest of a key
      {PRICED, "partial-key"},
      {
        PRICED
            + " AND s.came_on >= p.valid_from AND (p.valid_to IS NULL OR s.came_on <= p.valid_to)",
        ""
      },
      {PRICED + " AND p.valid_to IS NULL", ""},
      {PRICED.replace("r.drug, r.dose", "r.dose") + " AND p.valid_to IS NULL", ""},
      // one table twice, along one reference, the rest of its key said once
      {TWO_YEARS, "partial-key"},
      {TWO_YEARS + " AND b.valid_from = '2026-01-01'", ""},
      {TWO_YEARS + " AND b.valid_to IS NULL", ""},
      {TWO_YEARS.replace("now FROM", "now, b.valid_from FROM"), ""},
      {
        TWO_YEARS.replace(" AND a.valid_from = '2025-01-01'", " AND a.price > 4"),
        "crossed-branches"
      },
      // steps to rows of another, by a window with a name and over derived rows
      {
        "SELECT s.patient_id, s.came_on, LAG(s.nights) OVER w AS before" + OVER_DATES, "partial-key"
      },
      {"SELECT s.patient_id, LEAD(s.urgency) OVER (w) AS next" + OVER_DATES, "partial-key"},
      {"SELECT s.patient_id, s.came_on, LAG(s.nights) OVER w AS before" + OF_PATIENT, ""},
      {"SELECT s.stay_id, s.came_on, LAG(s.nights) OVER w AS before" + OVER_DATES, ""},
      {"SELECT s.patient_id, LAG(s.came_on) OVER w AS before" + OVER_DATES, ""},
      {
        "SELECT s.patient_id, LAG(s.patient_id) OVER w AS last_one, LAG(s.nights) OVER w AS before"
            + OVER_DATES,
        ""
      },
      {
        "SELECT q.patient_id, LAG(q.nights) OVER (ORDER BY q.came) AS before FROM (SELECT patient_id,"
            + " nights, came_on AS came FROM stay) q",
        "partial-key"
      },
      {
        "SELECT s.ward, FIRST_VALUE(s.bed_no) OVER w AS bed FROM stay s WINDOW w AS (PARTITION BY s.ward)",
        "unstable-order"
      },
      // shares of a table whose rows a join repeats
      {"SELECT COUNT(*) * 100.0 " + OF_BEDS + "pct" + IN_BEDS, "repeated-in-total"},
      {"SELECT 1 - COUNT(*) * 1.0 " + OF_BEDS + "share_free" + IN_BEDS, "repeated-in-total"},
      {"SELECT COUNT(*) * 1.0 " + OF_BEDS + "stays_per_bed" + IN_BEDS, ""},
      {"SELECT COUNT(*) * 100.0 " + OF_BEDS + "pct FROM \"Bed\" b WHERE b.fitting = 'wide'", ""},
      {
        "SELECT COUNT(*) * 100.0 / (SELECT COUNT(*) FROM stay) AS pct"
            + IN_BEDS
            + " AND b.fitting = 'plain'",
        ""
      },
      // numbers of beds under a heading that speaks of beds
      {"SELECT COUNT(DISTINCT s.bed_no) AS \"Beds_used\" FROM stay s", "partial-key"},
      {"SELECT COUNT(DISTINCT s.bed_no) AS bed_numbers FROM stay s", ""},
      // values of several rows, as if they were of one
      {
        "SELECT s.patient_id, MAX(s.came_on) AS last_on, MAX(s.nights) AS last_nights FROM stay s GROUP"
            + " BY s.patient_id",
        "values-of-several-rows"
      },
      {
        "SELECT s.ward, MAX(s.nights) AS longest, MIN(s.came_on) AS \"longestFrom\" FROM stay s GROUP BY"
            + " s.ward",
        "values-of-several-rows"
      },
      {
        "SELECT MAX(s.came_on) AS latest, MAX(s.urgency) AS urgency FROM stay s",
        "values-of-several-rows"
      },
      {"SELECT MAX(s.came_on) AS latest, MAX(s.nights) AS nights FROM stay s", ""},
      {"SELECT MAX(s.came_on) AS max_on, MAX(s.nights) AS max_nights FROM stay s", ""},
      {
        "SELECT s.patient_id, MAX(s.came_on) AS last_on, MAX(s.nights) AS last_nights FROM stay s WHERE"
            + " s.patient_id = 3 GROUP BY s.patient_id",
        ""
      },
      {
        "SELECT p.patient_id, MAX(p.surname) AS last_name, MAX(s.came_on) AS last_on FROM patient p LEFT"
            + " JOIN stay s ON s.patient_id = p.patient_id GROUP BY p.patient_id",
        ""
      },
      // keys of two tables in EXCEPT and INTERSECT
      {"SELECT patient_id FROM patient EXCEPT SELECT stay_id FROM stay", "not-a-reference"},
      {
        "SELECT p.guardian_id FROM patient p INTERSECT SELECT h.healer_id FROM healer h",
        "not-a-reference"
      },
      {
        "SELECT q.no FROM (SELECT patient_id AS no FROM patient EXCEPT SELECT stay_id FROM prescription)"
            + " q",
        "not-a-reference"
      },
      {"SELECT patient_id FROM patient EXCEPT SELECT guardian_id FROM patient", ""},
      {"SELECT ward, bed_no FROM \"Bed\" EXCEPT SELECT ward, bed_no FROM stay", ""},
      {"SELECT patient_id FROM patient UNION ALL SELECT stay_id FROM stay", ""},
      {"SELECT patient_id FROM patient EXCEPT SELECT nights FROM stay", ""},
      {
        "SELECT drug FROM drug EXCEPT (SELECT drug FROM prescription UNION SELECT drug FROM drug_price)",
        ""
      },
      // the next row, and every later one
      {NEXT, "rows-repeated"},
      {
        NEXT.replace("n.came_on AS next_on", "n.came_on")
            .replace(" n ", " following ")
            .replace("n.", "following."),
        "rows-repeated"
      },
      {"SELECT COUNT(*) AS n FROM (" + NEXT + ") q", "rows-repeated"},
      {"SELECT q.stay_id, MIN(q.next_on) AS next_on FROM (" + NEXT + ") q GROUP BY q.stay_id", ""},
      {"SELECT q.stay_id FROM (" + NEXT + ") q WHERE q.next_on < '2026-05-05'", ""},
      {NEXT.replace("next_on", "later_on"), ""},
      {NEXT + " AND n.nights < 3", ""},
      {
        NEXT.replace("n.came_on AS next_on", "MIN(n.came_on) AS next_on") + " GROUP BY s.stay_id",
        ""
      },
      {NEXT.replace("s.stay_id, n", "DISTINCT s.ward, n"), ""},
      {
        NEXT
            + " AND NOT EXISTS (SELECT 1 FROM stay m WHERE m.patient_id = s.patient_id AND m.came_on <"
            + " n.came_on AND m.came_on > s.came_on)",
        ""
      },
      // the last value of a window that ends here
      {"SELECT s.stay_id, LAST_VALUE(s.nights) OVER w AS latest" + OF_PATIENT, "last-so-far"},
      {
        "SELECT s.stay_id, LAST_VALUE(s.nights) OVER (w ROWS BETWEEN UNBOUNDED PRECEDING AND UNBOUNDED"
            + " FOLLOWING) AS latest"
            + OF_PATIENT,
        ""
      },
      {"SELECT s.stay_id, SUM(s.nights) OVER w AS so_far" + OF_PATIENT, ""},
      // what EXISTS asks of an outer join
      {
        "SELECT p.surname FROM patient p WHERE EXISTS (SELECT 1 FROM stay s LEFT JOIN prescription r ON"
            + " r.stay_id = s.stay_id AND r.dose > 3 WHERE s.patient_id = p.patient_id)",
        "idle-table"
      },
      {
        "SELECT p.surname FROM patient p WHERE EXISTS (SELECT 1 FROM stay s LEFT JOIN prescription r ON"
            + " r.stay_id = s.stay_id AND r.dose > 3 WHERE s.patient_id = p.patient_id AND r.drug IS"
            + " NULL)",
        ""
      },
      // one row for all
      {
        "SELECT p.surname, (SELECT s.nights FROM stay s ORDER BY s.came_on DESC LIMIT 1) AS latest FROM"
            + " patient p",
        "uncorrelated-exists"
      },
      {
        "SELECT p.surname, (SELECT s.nights FROM stay s WHERE s.patient_id = p.patient_id ORDER BY"
            + " s.came_on DESC LIMIT 1) AS latest FROM patient p",
        ""
      },
      {"SELECT p.surname, (SELECT MAX(s.nights) FROM stay s) AS longest FROM patient p", ""},
      {
        "SELECT h.surname, (SELECT s.nights FROM stay s ORDER BY s.came_on DESC LIMIT 1) AS latest FROM"
            + " healer h",
        ""
      },
      // a reference, or else a column that is none
      {
        "SELECT p.surname, h.surname AS healer FROM patient p LEFT JOIN healer h ON h.healer_id ="
            + " COALESCE(p.family_healer, p.guardian_id)",
        "not-a-reference"
      },
      {
        "SELECT p.surname, h.surname AS healer FROM patient p LEFT JOIN patient g ON g.patient_id ="
            + " p.guardian_id LEFT JOIN healer h ON COALESCE(p.family_healer, g.family_healer) ="
            + " h.healer_id",
        ""
      },
    };
  }

  @Test(dataProvider = "queries")
  public void hasItsWarnings(String sql, String kinds) {
    world.hasWarnings(sql, kinds);
  }

  @Test
  public void saysOfWhichRowsAndInHowManyGroups() {
    String sql =
        "SELECT s.patient_id, MAX(s.nights) AS longest, MAX(s.came_on) AS longest_on FROM stay s GROUP BY"
            + " s.patient_id";
    world.forEach(
        (engine, lantrel) -> {
          Finding found = lantrel.study(sql).findings().get(0);
          assertThat(found.message())
              .as(engine.toString())
              .startsWith("MAX(s.came_on) is not the came_on of the stay that MAX(s.nights) is of")
              .contains("in 2 of 3 groups no stay has both", "in the order of s.nights DESC");
          assertThat(found.evidence().figures()).containsValue(2L);
        });
  }
}
