package io.lantrel.check;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.testng.annotations.AfterClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/**
 * Rates that hold for a while: looked up by their whole key or by a part of it, summed for each
 * ticket or once too often; and lists of one trip that are put side by side.
 */
public class RatesTest {

  private static final List<String> WORLD =
      List.of(
          "CREATE TABLE way (id INTEGER PRIMARY KEY, title VARCHAR(20));",
          "CREATE TABLE trip (id INTEGER PRIMARY KEY, way_id INTEGER NOT NULL REFERENCES way (id),"
              + " \"Cabin\" CHAR(1), left_on DATE);",
          "CREATE TABLE ticket (id INTEGER PRIMARY KEY, trip_id INTEGER NOT NULL REFERENCES trip"
              + " (id), class CHAR(1), sold_on DATE);",
          "CREATE TABLE rate (way_id INTEGER NOT NULL REFERENCES way (id), class CHAR(1), since"
              + " DATE, until DATE, amount INTEGER, PRIMARY KEY (way_id, class, since));",
          "CREATE TABLE helper (trip_id INTEGER NOT NULL REFERENCES trip (id), who VARCHAR(9),"
              + " PRIMARY KEY (trip_id, who));",
          "CREATE TABLE shift (id INTEGER PRIMARY KEY, way_id INTEGER REFERENCES way (id), begun"
              + " DATE, ended DATE);",
          "CREATE TABLE gauge (way_id INTEGER NOT NULL REFERENCES way (id), read_on DATE, litres"
              + " INTEGER, PRIMARY KEY (way_id, read_on));",
          "INSERT INTO way VALUES (1, 'Upper'), (2, 'Lower');",
          "INSERT INTO trip VALUES (1, 1, 'A', '2026-04-01'), (2, 1, 'B', '2026-05-01'), (3, 2, 'A',"
              + " '2026-05-02');",
          "INSERT INTO ticket VALUES (1, 1, 'A', '2026-03-01'), (2, 1, 'B', '2026-03-01'), (3, 2,"
              + " 'A', '2026-05-01'), (4, 3, 'B', '2026-05-01'), (5, 3, 'B', '2026-05-02'), (6, 3, 'A',"
              + " NULL);",
          "INSERT INTO rate VALUES (1, 'A', '2026-01-01', '2026-04-30', 10), (1, 'B', '2026-01-01',"
              + " '2026-04-30', 7), (1, 'A', '2026-05-01', NULL, 11), (1, 'B', '2026-05-01', NULL,"
              + " 8), (2, 'A', '2026-01-01', NULL, 5), (2, 'B', '2026-01-01', NULL, 4);",
          "INSERT INTO shift VALUES (1, 1, '2026-04-01', '2026-04-03'), (2, 1, '2026-04-02',"
              + " '2026-04-05');",
          "INSERT INTO gauge VALUES (1, '2026-04-01', 3), (1, '2026-04-02', 4), (1, '2026-04-04',"
              + " 5);",
          "INSERT INTO helper VALUES (1, 'Ada'), (1, 'Bo'), (2, 'Ada'), (3, 'Cy'), (3, 'Bo');");

  private final WorldOnEngines world = new WorldOnEngines("rates", WORLD);

  @AfterClass
  void close() {
    world.close();
  }

  private static final String SOLD = " FROM ticket k JOIN trip t ON t.id = k.trip_id";
  private static final String THEN =
      " AND k.sold_on >= r.since AND (k.sold_on <= r.until OR r.until IS NULL)";
  private static final String PART = SOLD + " JOIN rate r ON r.way_id = t.way_id" + THEN;
  private static final String WHOLE =
      SOLD + " JOIN rate r ON r.way_id = t.way_id AND r.class = k.class" + THEN;

  /** A query and the warnings that it must have of these kinds; none where it is right. */
  @DataProvider
  static Object[][] queries() {
    return new Object[][] {
      // a part of the key, where the rest is there by the same name
      {"SELECT k.id, r.amount" + PART, "partial-key"},
      {"SELECT SUM(r.amount) AS due" + PART, "partial-key"},
      {"SELECT t.id, SUM(r.amount) AS due" + PART + " GROUP BY t.id", "partial-key"},
      {
        "SELECT k.id, r.amount FROM ticket k, trip t, rate r WHERE t.id = k.trip_id AND r.way_id ="
            + " t.way_id"
            + THEN,
        "partial-key"
      },
      {"SELECT k.id, r.amount" + PART.replace(" JOIN rate", " LEFT JOIN rate"), "partial-key"},
      // whichever side is written first
      {
        "SELECT k.id, r.amount FROM rate r JOIN trip t ON t.way_id = r.way_id JOIN ticket k ON"
            + " k.trip_id = t.id"
            + THEN,
        "partial-key"
      },
      {
        "SELECT t.id, r.amount FROM rate r JOIN (trip t JOIN ticket k ON k.trip_id = t.id) ON"
            + " t.way_id = r.way_id"
            + THEN,
        "partial-key"
      },
      {
        "SELECT k.id, r.amount FROM rate r RIGHT JOIN (ticket k JOIN trip t ON t.id = k.trip_id) ON"
            + " r.way_id = t.way_id AND r.class = k.class"
            + THEN,
        ""
      },
      // the whole key; the rest is shown, set, or grouped by; and called otherwise
      {"SELECT k.id, r.amount" + WHOLE, ""},
      {"SELECT k.id, r.class, r.amount" + PART, ""},
      {"SELECT k.id, r.amount" + PART + " AND r.class = 'A'", ""},
      {"SELECT r.class, COUNT(*) AS n" + PART + " GROUP BY r.class", ""},
      {
        "SELECT t.id, r.amount FROM trip t JOIN rate r ON r.way_id = t.way_id AND t.left_on >="
            + " r.since AND (t.left_on <= r.until OR r.until IS NULL) AND r.class = t.\"Cabin\"",
        ""
      },
      // each ticket has its rate: the same one counts for all that were sold by it
      {"SELECT SUM(r.amount) AS due" + WHOLE, ""},
      {"SELECT t.id, SUM(r.amount) AS due" + WHOLE + " GROUP BY t.id", ""},
      {"SELECT AVG(r.amount) AS due" + WHOLE.replace("k.sold_on", "t.left_on"), ""},
      {
        "SELECT SUM(r.amount) AS due FROM rate r JOIN trip t ON t.way_id = r.way_id JOIN ticket k ON"
            + " k.trip_id = t.id AND k.class = r.class"
            + THEN,
        ""
      },
      {
        "SELECT t.id, SUM(r.amount) AS due FROM rate r JOIN trip t ON t.way_id = r.way_id AND"
            + " r.class = 'A' AND t.left_on >= r.since AND (t.left_on <= r.until OR r.until IS NULL)"
            + " GROUP BY t.id",
        ""
      },
      // but not once more for each helper, nor without the time
      {
        "SELECT t.id, SUM(r.amount) AS due"
            + WHOLE
            + " JOIN helper h ON h.trip_id = t.id GROUP BY"
            + " t.id",
        "repeated-in-total"
      },
      {
        "SELECT t.id, SUM(r.amount) AS due FROM trip t JOIN rate r ON r.way_id = t.way_id AND"
            + " r.class = 'A' AND t.left_on >= r.since JOIN helper h ON h.trip_id = t.id GROUP BY"
            + " t.id",
        "repeated-in-total"
      },
      // who is named by a heading is counted once
      {
        "SELECT t.way_id, COUNT(k.trip_id) AS trips" + SOLD + " GROUP BY t.way_id",
        "repeated-in-total"
      },
      {"SELECT COUNT(trip_id) AS \"No of trips\" FROM ticket", "repeated-in-total"},
      {"SELECT COUNT(trip_id) AS n_trips FROM ticket WHERE class = 'B'", "repeated-in-total"},
      {"SELECT COUNT(DISTINCT k.trip_id) AS trips FROM ticket k", ""},
      {"SELECT COUNT(k.trip_id) AS tickets FROM ticket k", ""},
      {"SELECT COUNT(k.trip_id) AS n FROM ticket k", ""},
      {"SELECT COUNT(k.trip_id) AS trips FROM ticket k WHERE k.id < 2", ""},
      {"SELECT t.way_id, COUNT(t.id) AS trip FROM trip t GROUP BY t.way_id", ""},
      // nor are the rows within a span rates of it
      {
        "SELECT SUM(g.litres) AS litres FROM shift s JOIN gauge g ON g.way_id = s.way_id AND"
            + " g.read_on BETWEEN s.begun AND s.ended",
        "repeated-in-total"
      },
      {
        "SELECT SUM(g.litres) AS litres FROM shift s JOIN gauge g ON g.way_id = s.way_id AND"
            + " g.read_on >= s.begun",
        "repeated-in-total"
      },
      {
        "SELECT SUM(r.amount) AS due FROM way w JOIN rate r ON r.way_id = w.id JOIN trip t ON"
            + " t.way_id = w.id",
        "repeated-in-total"
      },
    };
  }

  @Test(dataProvider = "queries")
  public void areToldAlike(String sql, String kinds) {
    world.hasWarnings(sql, kinds);
  }

  @Test
  public void theRepairAddsTheRest() {
    Finding found = world.duckdb().study("SELECT k.id, r.amount" + PART).findings().get(0);
    assertThat(found.message())
        .isEqualTo(
            "r.way_id = t.way_id is only a part of the key of rate r: a ticket also meets rows of"
                + " another class, in 5 rows. Add r.class = k.class.");
    assertThat(found.repair().orElseThrow().sql())
        .contains("r.way_id = t.way_id AND r.class = k.class AND k.sold_on");
  }
}
