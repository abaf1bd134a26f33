package io.lantrel.check;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.Scratch;
import io.lantrel.sql.Dialect;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.testng.annotations.AfterClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/**
 * Two roles of one table, references that nobody declared, averages of groups, prices by season:
 * what the river watch has no tables for. Names in quotes, of mixed case.
 */
public class HutsTest {

  private static final List<String> WORLD =
      List.of(
          "CREATE TABLE person (person_id INTEGER PRIMARY KEY, name VARCHAR(20), \"Club id\" INTEGER,"
              + " badge_no INTEGER);",
          "CREATE TABLE \"Club\" (\"Club id\" INTEGER PRIMARY KEY, title VARCHAR(20), chair_id INTEGER"
              + " REFERENCES person (person_id));",
          "CREATE TABLE hut (hut_id INTEGER PRIMARY KEY, title VARCHAR(20), person_id INTEGER);",
          "CREATE TABLE tour (tour_id INTEGER PRIMARY KEY, title VARCHAR(20), \"From hut\" INTEGER NOT"
              + " NULL REFERENCES hut (hut_id), to_hut INTEGER REFERENCES hut (hut_id));",
          "CREATE TABLE sign (id INTEGER PRIMARY KEY, tour_id INTEGER REFERENCES tour (tour_id));",
          "CREATE TABLE repaint (id INTEGER, sign_id INTEGER REFERENCES sign (id));",
          "CREATE TABLE badge (badge_no INTEGER PRIMARY KEY, owner_id INTEGER REFERENCES person"
              + " (person_id));",
          "CREATE TABLE outing (tour_id INTEGER NOT NULL REFERENCES tour (tour_id), walked_on DATE NOT"
              + " NULL, people INTEGER, PRIMARY KEY (tour_id, walked_on));",
          "CREATE TABLE stay (stay_id INTEGER PRIMARY KEY, hut_id INTEGER NOT NULL REFERENCES hut"
              + " (hut_id), price INTEGER);",
          "CREATE TABLE bed_price (hut_id INTEGER NOT NULL REFERENCES hut (hut_id), \"Season\""
              + " VARCHAR(6) NOT NULL, amount INTEGER, PRIMARY KEY (hut_id, \"Season\"));",
          "INSERT INTO person VALUES (1, 'Ida', 1, 7), (2, 'Uwe', 1, 99), (3, 'Ole', 2, NULL), (4,"
              + " 'Eva', NULL, 8);",
          "INSERT INTO \"Club\" VALUES (1, 'Peak', 2), (2, 'Rope', NULL), (3, 'Empty', 1);",
          "INSERT INTO hut VALUES (1, 'Upper', 1), (2, 'Lower', 9), (3, 'Lake', NULL);",
          "INSERT INTO tour VALUES (1, 'Ridge', 1, 2), (2, 'Loop', 3, 3), (3, 'Open', 2, NULL);",
          "INSERT INTO sign VALUES (1, 1), (2, 1), (3, 2);",
          "INSERT INTO repaint VALUES (1, 3), (2, 1);",
          "INSERT INTO badge VALUES (7, 1), (8, 3);",
          "INSERT INTO outing VALUES (1, '2026-05-01', 4), (1, '2026-05-03', 5), (2, '2026-05-02', 9),"
              + " (2, '2026-05-03', NULL);",
          "INSERT INTO stay VALUES (1, 1, 10), (2, 1, 20), (3, 1, NULL), (4, 2, 30), (5, 3, 10), (6, 3,"
              + " 10);",
          "INSERT INTO bed_price VALUES (1, 'low', 5), (1, 'high', 9), (2, 'low', 4), (3, 'high', 8);");

  private final WorldOnEngines world = new WorldOnEngines("huts", WORLD);

  @AfterClass
  void close() {
    world.close();
  }

  private static final String ENDS = " FROM tour t JOIN hut h ON h.hut_id = t.\"From hut\"";
  private static final String MEANS =
      "(SELECT s.hut_id, AVG(s.price) AS p FROM stay s GROUP BY s.hut_id)";
  private static final String PRICED = " FROM stay s JOIN bed_price b ON b.hut_id = s.hut_id";
  private static final String MEMBERS =
      "SELECT COUNT(*) FROM person p WHERE p.\"Club id\" = c.\"Club id\"";
  private static final String OWNERS =
      "SELECT b.badge_no, p.name FROM badge b LEFT JOIN person p ON p.badge_no = b.badge_no";

  /** A query and the warnings that it must have; none where it is right. */
  @DataProvider
  static Object[][] queries() {
    return new Object[][] {
      // one column, two roles
      {"SELECT t.title, h.title AS \"From hut\", h.title AS to_hut" + ENDS, "alias-of-other-table"},
      {"SELECT h.title AS from_title, h.title AS to_title" + ENDS, "alias-of-other-table"},
      {"SELECT h.title AS \"from\", UPPER(h.title) AS \"to\"" + ENDS, ""},
      {"SELECT h.title AS from_hut, h.hut_id AS to_hut" + ENDS, ""},
      {"SELECT h.title AS from_hut, h.title AS sorted_by" + ENDS, ""},
      {
        "SELECT h.title AS from_hut, e.title AS to_hut"
            + ENDS
            + " LEFT JOIN hut e ON e.hut_id = t.to_hut",
        ""
      },
      {
        "SELECT h.title AS from_hut, h.title AS to_hut FROM tour t, hut h WHERE h.hut_id = t.to_hut",
        "alias-of-other-table"
      },
      // a reference that nobody declared, beside one that is; what any key is called says nothing
      {"SELECT r.sign_id, s.tour_id FROM repaint r JOIN sign s ON s.id = r.id", "not-a-reference"},
      {OWNERS, "not-a-reference"},
      {
        OWNERS.replace("b.badge_no, p", "b.owner_id, p") + " WHERE b.badge_no = 7",
        "not-a-reference"
      },
      {
        "SELECT c.title, p.name FROM \"Club\" c LEFT JOIN person p ON p.\"Club id\" = c.\"Club id\"",
        ""
      },
      {"SELECT c.title FROM \"Club\" c WHERE 0 < (" + MEMBERS + ")", ""},
      {"SELECT c.title, (" + MEMBERS + ") AS n FROM \"Club\" c", ""},
      {
        "SELECT c.title FROM \"Club\" c WHERE c.\"Club id\" IN (SELECT p.\"Club id\" FROM person p)",
        ""
      },
      {
        "SELECT c.title, q.n FROM \"Club\" c LEFT JOIN (SELECT p.\"Club id\" AS no, COUNT(*) AS n FROM"
            + " person p GROUP BY p.\"Club id\") q ON q.no = c.\"Club id\"",
        ""
      },
      {
        "SELECT b.owner_id FROM badge b WHERE EXISTS (SELECT 1 FROM person p WHERE p.badge_no ="
            + " b.badge_no)",
        "not-a-reference"
      },
      {
        "SELECT s.tour_id FROM sign s WHERE s.id IN (SELECT r.id FROM repaint r)", "not-a-reference"
      },
      // averages of averages
      {"SELECT AVG(q.p) AS usual FROM " + MEANS + " q", "average-of-averages"},
      {
        "SELECT h.title, AVG(q.p) AS usual FROM hut h LEFT JOIN "
            + MEANS
            + " q ON q.hut_id = h.hut_id"
            + " GROUP BY h.hut_id, h.title",
        ""
      },
      {
        "SELECT AVG(q.p) AS usual FROM (SELECT s.hut_id, AVG(s.price) AS p FROM stay s WHERE s.hut_id"
            + " IN (1, 3) GROUP BY s.hut_id) q",
        ""
      },
      {
        "SELECT AVG(q.p) AS usual FROM (SELECT s.hut_id, AVG(s.price) AS p FROM stay s WHERE s.hut_id ="
            + " -1 GROUP BY s.hut_id) q",
        "never-a-row"
      },
      {"SELECT s.stay_id FROM stay s WHERE s.price > (SELECT AVG(q.p) FROM " + MEANS + " q)", ""},
      {
        "SELECT h.title, (SELECT AVG(q.p) FROM " + MEANS + " q) AS usual FROM hut h",
        "average-of-averages"
      },
      {"SELECT AVG(q.people) AS usual FROM outing q", ""},
      // a part of a key, in which the row is one of several
      {"SELECT s.stay_id, b.amount" + PRICED, "partial-key"},
      {
        "SELECT s.stay_id, s.price - b.amount AS more" + PRICED + " WHERE s.price > 5",
        "partial-key"
      },
      {"SELECT s.stay_id, b.amount" + PRICED.replace("JOIN", "LEFT JOIN"), "partial-key"},
      {"SELECT s.stay_id, b.\"Season\", b.amount" + PRICED, ""},
      {"SELECT s.stay_id, b.amount" + PRICED + " AND b.\"Season\" = 'low'", ""},
      {"SELECT s.stay_id, b.amount" + PRICED + " WHERE s.hut_id > 1", ""},
      {"SELECT *" + PRICED, ""},
      {"SELECT s.price, b.*" + PRICED, ""},
      // steps from row to row
      {
        "SELECT o.tour_id, LAG(o.people) OVER (ORDER BY o.walked_on) AS was FROM outing o",
        "partial-key"
      },
      {
        "SELECT o.tour_id, LEAD(o.people) OVER (ORDER BY o.walked_on DESC) AS was FROM outing o",
        "partial-key"
      },
      {
        "SELECT o.tour_id, LAG(o.people) OVER (PARTITION BY o.tour_id ORDER BY o.walked_on) AS was FROM"
            + " outing o",
        ""
      },
      {
        "SELECT o.tour_id, LAG(o.people) OVER (ORDER BY o.tour_id, o.walked_on) AS was FROM outing o",
        "partial-key"
      },
      {"SELECT LAG(o.walked_on) OVER (ORDER BY o.walked_on) AS was FROM outing o", ""},
      {
        "SELECT LAG(o.people) OVER (ORDER BY o.walked_on) AS was FROM outing o WHERE o.tour_id = 1",
        ""
      },
      // counts that are asked for nothing
      {
        "SELECT h.title FROM hut h LEFT JOIN stay s ON s.hut_id = h.hut_id GROUP BY h.hut_id, h.title"
            + " HAVING COUNT(s.stay_id) >= 0",
        "always-true"
      },
      {
        "SELECT h.title FROM hut h LEFT JOIN stay s ON s.hut_id = h.hut_id GROUP BY h.hut_id, h.title"
            + " HAVING COUNT(s.price) >= 1",
        ""
      },
    };
  }

  @Test(dataProvider = "queries")
  public void areToldAlike(String sql, String kinds) {
    world.hasWarnings(sql, kinds);
  }

  /** A query, what its finding says, and a part of what the repair writes. */
  @DataProvider
  static Object[][] messages() {
    return new Object[][] {
      {
        "SELECT h.title AS from_hut, h.title AS to_hut" + ENDS,
        "from_hut and to_hut show one and the same hut, that of t.From hut. Join hut once more by"
            + " t.to_hut, and take to_hut from there.",
        "h2.title AS to_hut" + ENDS + " LEFT JOIN hut h2 ON h2.hut_id = t.to_hut"
      },
      {
        "SELECT AVG(q.p) AS usual FROM " + MEANS + " q",
        "AVG(q.p) is an average of averages: each of 3 groups counts alike, whether it has 1 value or"
            + " 2. For that of all values show SUM(s.price) and COUNT(s.price) of each group, and divide"
            + " their sums.",
        ""
      },
      {
        "SELECT s.stay_id, b.amount" + PRICED,
        "b.Season tells bed_prices apart too, and nothing is said of it: 3 stays come with"
            + " several. Say which Season is meant, or show it.",
        ""
      },
      {
        "SELECT LAG(o.people) OVER ( ORDER BY o.walked_on) AS was FROM outing o",
        "By o.walked_on alone the row before may be that of another tour_id, as it is in 3 rows. Add"
            + " o.tour_id to PARTITION BY.",
        "OVER (PARTITION BY o.tour_id  ORDER BY o.walked_on)"
      },
    };
  }

  @Test(dataProvider = "messages")
  public void sayWhatHappens(String sql, String message, String repair) {
    Finding found =
        world.duckdb().study(sql).findings().stream()
            .filter(each -> each.severity() == Severity.WARNING)
            .findFirst()
            .orElseThrow();
    assertThat(found.message()).isEqualTo(message);
    assertThat(found.repair().map(Repair::sql).orElse("")).contains(repair);
  }

  /** Without rows nobody knows how large groups are, nor whether all values are there. */
  @Test
  public void areToldFromTheSchemaWhereThatIsEnough() throws IOException {
    Path file = Scratch.folder("plan").resolve("schema.sql");
    Files.write(file, WORLD.stream().filter(each -> each.startsWith("CREATE")).toList());
    try (Lantrel schema = Lantrel.openSchema(file, Dialect.DUCKDB)) {
      assertThat(schema.study("SELECT AVG(q.p) AS usual FROM " + MEANS + " q").findings())
          .isEmpty();
      assertThat(schema.study("SELECT h.title AS from_hut, h.title AS to_hut" + ENDS).findings())
          .extracting(Finding::kind)
          .containsExactly(Kind.ALIAS_OF_OTHER_TABLE);
      assertThat(schema.study(OWNERS).findings())
          .extracting(Finding::kind)
          .containsExactly(Kind.NOT_A_REFERENCE);
    }
  }
}
