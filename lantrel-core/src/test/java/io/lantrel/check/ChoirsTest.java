package io.lantrel.check;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.engine.Engine;
import java.util.List;
import org.testng.annotations.AfterClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/**
 * Choirs, singers of whom two have the same name, concerts and what was rehearsed for them: pairs
 * that come once, what is left out by a negation, and parents of few children.
 */
public class ChoirsTest {

  private static final List<String> WORLD =
      List.of(
          "CREATE TABLE choir (id INTEGER PRIMARY KEY, name VARCHAR(20) NOT NULL);",
          "CREATE TABLE singer (id INTEGER PRIMARY KEY, name VARCHAR(20) NOT NULL, voice VARCHAR(8),"
              + " choir_id INTEGER NOT NULL REFERENCES choir (id), joined INTEGER NOT NULL, left_in"
              + " INTEGER);",
          "CREATE TABLE concert (id INTEGER PRIMARY KEY, title VARCHAR(20) NOT NULL, choir_id INTEGER"
              + " NOT NULL REFERENCES choir (id), tickets INTEGER);",
          "CREATE TABLE rehearsal (id INTEGER PRIMARY KEY, concert_id INTEGER NOT NULL REFERENCES"
              + " concert (id), minutes INTEGER NOT NULL, remark VARCHAR(20));",
          "CREATE TABLE part (piece VARCHAR(8) NOT NULL, line INTEGER NOT NULL, voice VARCHAR(8) NOT"
              + " NULL, PRIMARY KEY (piece, line));",
          "INSERT INTO choir VALUES (1, 'Larks'), (2, 'Wrens');",
          "INSERT INTO singer VALUES (1, 'Ada', 'alto', 1, 2015, NULL), (2, 'Bo', 'bass', 1, 2016,"
              + " 2023), (3, 'Ada', 'alto', 1, 2019, NULL), (4, 'Cy', NULL, 2, 2020, NULL), (5, 'Bo',"
              + " 'bass', 2, 2020, 2024), (6, 'Di', 'alto', 2, 2021, NULL);",
          "INSERT INTO concert VALUES (1, 'Spring', 1, 80), (2, 'Summer', 1, NULL), (3, 'Autumn', 2,"
              + " 120), (4, 'Winter', 2, 60);",
          "INSERT INTO rehearsal VALUES (1, 1, 90, 'late'), (2, 1, 60, NULL), (3, 1, 90, 'short'),"
              + " (4, 2, 45, NULL), (5, 3, 90, 'in the hall'), (6, 3, 30, NULL);",
          "INSERT INTO part VALUES ('Dawn', 1, 'alto'), ('Dawn', 2, 'bass'), ('Dawn', 3, 'alto'),"
              + " ('Dusk', 1, 'alto');");

  private final WorldOnEngines world = new WorldOnEngines("choirs", WORLD);

  @AfterClass
  void close() {
    world.close();
  }

  /** A query, and the kinds of its warnings. */
  @DataProvider
  static Object[][] pairs() {
    String pairs = "SELECT a.name, b.name AS other FROM singer a JOIN singer b ON %s";
    String comma = "SELECT a.name, b.name AS other FROM singer a, singer b WHERE %s";
    String lines = "SELECT a.voice, b.voice AS other FROM part a JOIN part b ON %s";
    return new Object[][] {
      {pairs.formatted("a.name < b.name"), "mirrored-pairs"},
      {pairs.formatted("b.name > a.name AND b.choir_id = a.choir_id"), "mirrored-pairs"},
      {comma.formatted("a.choir_id = b.choir_id AND a.name > b.name"), "mirrored-pairs"},
      {
        pairs.formatted("a.name < b.name AND b.choir_id = a.choir_id") + " WHERE a.choir_id = 1",
        "mirrored-pairs"
      },
      {
        "SELECT a.name, c.name AS choir, b.name AS other FROM singer a JOIN singer b ON b.choir_id ="
            + " a.choir_id AND a.name < b.name JOIN choir c ON c.id = a.choir_id",
        "mirrored-pairs"
      },
      {lines.formatted("b.piece = a.piece AND a.voice < b.voice"), "mirrored-pairs"},
      // A key tells the two apart, or no two that meet have the same name.
      {pairs.formatted("a.id < b.id"), ""},
      {
        pairs.formatted("a.name < b.name AND b.choir_id = a.choir_id") + " WHERE a.choir_id = 2", ""
      },
      {
        pairs.formatted("a.name < b.name AND b.choir_id = a.choir_id") + " WHERE b.choir_id = 2", ""
      },
      {"SELECT a.title, b.title AS other FROM concert a JOIN concert b ON a.title < b.title", ""},
      // Amounts are compared for their own sake, and so are texts that are to differ.
      {
        "SELECT a.name, a.joined, b.name AS later, b.joined AS then FROM singer a JOIN singer b ON"
            + " b.choir_id = a.choir_id AND a.joined < b.joined",
        ""
      },
      {pairs.formatted("b.choir_id = a.choir_id AND a.voice < b.voice"), ""},
      {
        "SELECT DISTINCT a.name, b.name AS other FROM singer a JOIN singer b ON a.name < b.name", ""
      },
      // The place of each in the order of names.
      {
        "SELECT a.id, COUNT(b.id) AS others FROM singer a LEFT JOIN singer b ON b.name < a.name GROUP"
            + " BY a.id",
        ""
      },
    };
  }

  @Test(dataProvider = "pairs")
  public void aPairOfOneNameIsAPair(String sql, String kinds) {
    world.hasWarnings(sql, kinds);
  }

  /** Of a key of which the two share a part, the rest is compared, as it was written. */
  @Test
  public void theRestOfAKeyTellsThemApart() {
    String pairs =
        "SELECT a.voice, b.voice AS other FROM part a JOIN part b ON b.piece = a.piece AND b.%s >"
            + " a.%<s";
    world.forEach(
        (engine, lantrel) ->
            assertThat(lantrel.study(pairs.formatted("voice")).findings())
                .as(engine.name())
                .flatExtracting(each -> each.repair().stream().map(Repair::sql).toList())
                .containsExactly(pairs.formatted("line")));
  }

  /** What WHERE says of a singer, and the rows that it leaves out for NULL; 0 if none is told. */
  @DataProvider
  static Object[][] leftOut() {
    return new Object[][] {
      {"NOT (s.left_in < 2024)", 4},
      {"NOT s.left_in >= 2024", 4},
      {"NOT (2024 > s.left_in) AND s.joined > 2018", 3},
      {"s.left_in NOT BETWEEN 2020 AND 2023", 4},
      {"NOT s.left_in BETWEEN 2020 AND 2023", 4},
      {"NOT (s.voice IN ('bass', 'tenor'))", 1},
      {"NOT (s.voice LIKE 'b%')", 1},
      {"NOT (s.left_in < 2000 + 24)", 4},
      {"NOT (s.left_in < -(-2024))", 4},
      {"s.voice NOT IN (LOWER('BASS'), 'tenor')", 1},
      {"s.left_in <> NULLIF(2024, NULL)", 0},
      {"s.left_in <> (SELECT MAX(x.joined) FROM singer x)", 0},
      {"NOT (s.left_in < 2024) OR s.left_in IS NULL", 0},
      {"NOT (s.joined < 2018)", 0},
      {"s.left_in >= 2024", 0},
      {"NOT (s.left_in < s.joined)", 0},
      {"NOT (s.left_in < 2024) AND s.left_in IS NOT NULL", 0},
      {"NOT (s.voice NOT IN ('bass', 'tenor'))", 0},
    };
  }

  @Test(dataProvider = "leftOut")
  public void aNegationLeavesOutNull(String condition, int rows) {
    String sql = "SELECT s.id FROM singer s WHERE " + condition;
    world.forEach(
        (engine, lantrel) ->
            assertThat(
                    lantrel.study(sql).findings().stream()
                        .filter(each -> each.kind() == Kind.NULL_COMPARISON)
                        .mapToLong(each -> each.evidence().figures().get("rows with NULL")))
                .as(engine + ": " + sql)
                .isEqualTo(rows == 0 ? List.of() : List.of((long) rows)));
    Repaired.keepsItsWord(sql, world.duckdb());
  }

  /** SQLite takes an empty list: nobody is in it, not even who has no year. */
  @Test
  public void nothingIsLeftOutByAnEmptyList() {
    String sql = "SELECT s.id FROM singer s WHERE s.left_in NOT IN %s";
    world.forEach(
        (engine, lantrel) -> {
          if (engine == Engine.SQLITE) {
            assertThat(lantrel.study(sql.formatted("()")).findings()).isEmpty();
            assertThat(lantrel.study(sql.formatted("(2021)")).findings()).isNotEmpty();
          }
        });
  }

  /** A condition of HAVING on rehearsals, and whether those without any are told of. */
  @DataProvider
  static Object[][] few() {
    return new Object[][] {
      {"COUNT(*) < 3", "rows-without-partner", "HAVING COUNT(r.id) < 3"},
      {"2 >= COUNT(r.id)", "rows-without-partner", "HAVING 2 >= COUNT(r.id)"},
      {"COUNT(DISTINCT r.minutes) <= 1", "rows-without-partner", "COUNT(DISTINCT r.minutes) <= 1"},
      {"COUNT(*) >= 2", "", ""},
      {"COUNT(*) = 2", "", ""},
      // Of a singer's concert there is one, whatever was rehearsed.
      {"COUNT(DISTINCT c.id) < 2", "", ""},
      // NULL is below nothing.
      {"SUM(r.minutes) < 100", "", ""},
    };
  }

  @Test(dataProvider = "few")
  public void whoHasNoneHasFew(String having, String kinds, String repaired) {
    String sql =
        "SELECT c.title FROM concert c JOIN rehearsal r ON r.concert_id = c.id GROUP BY c.id, c.title"
            + " HAVING "
            + having;
    world.hasWarnings(sql, kinds);
    List<Finding> findings = world.duckdb().study(sql).findings();
    if (!kinds.isEmpty()) {
      assertThat(findings)
          .singleElement()
          .satisfies(
              each -> {
                assertThat(each.message()).contains("to have none meets " + having + " too");
                Repair repair = each.repair().orElseThrow();
                assertThat(repair.sql()).contains("LEFT JOIN rehearsal", repaired);
                assertThat(repair.rowsAfter()).hasValue(repair.rowsBefore().orElseThrow() + 1);
              });
    }
  }
}
