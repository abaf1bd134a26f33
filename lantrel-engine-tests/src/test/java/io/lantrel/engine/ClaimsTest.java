package io.lantrel.engine;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.lantrel.Lantrel;
import io.lantrel.Study;
import io.lantrel.claim.CheckedClaim;
import io.lantrel.claim.Verdict;
import io.lantrel.claim.Verification;
import java.io.IOException;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/**
 * Every kind of claim proven, held, broken and misspelt on every engine, on servers as they are.
 */
public class ClaimsTest extends OnEveryEngine {

  private static final String STATIONS =
      "SELECT s.id, s.name, s.bank, s.capacity, s.river_id FROM station s";

  private static final String READINGS =
      "SELECT s.name, COUNT(g.id) AS n, SUM(g.depth_cm) AS depth FROM station s LEFT JOIN reading g"
          + " ON g.station_id = s.id GROUP BY s.id, s.name ORDER BY s.name";

  private static final String REPEATED =
      "SELECT s.name, s.capacity FROM station s JOIN reading g ON g.station_id = s.id";

  private static final String WALK =
      "WITH RECURSIVE up (id, mentor_id) AS (SELECT w.id, w.mentor_id FROM warden w WHERE"
          + " w.mentor_id IS NULL UNION ALL SELECT w.id, w.mentor_id FROM warden w JOIN up u ON"
          + " w.mentor_id = u.id) SELECT id FROM up";

  @DataProvider
  static Object[][] claims() {
    return new Object[][] {
      {STATIONS, "proven", List.of("one row per station", "one row per id", "one row per s, bank")},
      {STATIONS, "holds", List.of("one row per name", "one row per name, bank")},
      {STATIONS, "broken", List.of("one row per bank", "one row per bank, river_id")},
      {STATIONS, "proven", List.of("every station appears", "no null in id, name")},
      {STATIONS, "broken", List.of("no null in bank", "no null in name, river_id")},
      {STATIONS, "holds", List.of("14 rows", "at least 3 rows", "at most 14 rows")},
      {STATIONS, "broken", List.of("13 rows", "at least 15 rows", "at most 1 row", "no rows")},
      {STATIONS, "proven", List.of("total of capacity is total of station.capacity")},
      {STATIONS, "broken", List.of("total of id is number of station", "order by name")},
      {STATIONS, "holds", List.of("capacity between 1 and 14", "bank is one of 'W','R','S','M'")},
      {STATIONS, "broken", List.of("capacity between 2 and 9", "bank is one of 'W', 'R'")},
      {STATIONS, "broken", List.of("capacity refers to warden")},
      {
        STATIONS,
        "misspelt",
        List.of(
            "one rwo per station",
            "every statoin appears",
            "no null in nmae",
            "14 rwos",
            "total of capacity is total of station.cpacity",
            "order bye name",
            "capacity betwen 1 and 2",
            "bank is on of 'W'",
            "capacity refers to wardn",
            "levels at most 3")
      },
      {
        READINGS, "proven", List.of("one row per station", "every station appears", "order by name")
      },
      {READINGS, "proven", List.of("no null in n")},
      {READINGS, "broken", List.of("no null in depth", "one row per n", "order by n")},
      {READINGS, "proven", List.of("every station appears where capacity > 3 OR id > 0")},
      {REPEATED, "proven", List.of("one row per reading")},
      {
        REPEATED,
        "broken",
        List.of(
            "one row per station",
            "every station appears",
            "every station appears where bank = 'W' OR capacity < 100",
            "total of capacity is total of station.capacity")
      },
      {REPEATED, "holds", List.of("every station appears where bank = 'S'")},
      {REPEATED, "undecided", List.of("every station appears where capacity > 999")},
      {STATIONS + " WHERE s.id < 0", "undecided", List.of("one row per name", "no null in bank")},
      {STATIONS + " WHERE s.id < 0", "holds", List.of("no rows")},
      {STATIONS + " WHERE s.id = 3", "proven", List.of("at most 1 row", "id between 3 and 3")},
      {STATIONS + " WHERE s.bank IN ('W', 'S')", "proven", List.of("bank is one of 'W', 'S', 'M'")},
      {"SELECT COUNT(*) AS n FROM warden w", "proven", List.of("1 row", "no null in n")},
      {WALK, "holds", List.of("levels at most 4", "one row per id")},
      {WALK, "broken", List.of("levels at most 3", "levels at most 1")},
      {WALK, "misspelt", List.of("level at most 3")},
    };
  }

  @Test(dataProvider = "claims")
  public void areWhatTheyAreOnEveryEngine(String sql, String verdict, List<String> claims) {
    for (Engine engine : RiverDatabases.engines()) {
      Lantrel sample = at(engine);
      try (Lantrel live = Lantrel.connect(RiverDatabases.access(engine))) {
        for (Lantrel lantrel : List.of(sample, live)) {
          Verification found = lantrel.study(sql).verify(claims.toArray(String[]::new));
          List<String> verdicts = new ArrayList<>();
          found.problems().forEach(each -> verdicts.add("misspelt"));
          found.claims().forEach(each -> verdicts.add(each.verdict().word()));
          assertThat(verdicts)
              .as(engine + "\n" + sql + "\n" + found)
              .hasSameSizeAs(claims)
              .containsOnly(verdict);
        }
      }
    }
  }

  /** A broken claim names its rows, in the order of its columns, and the step. */
  @Test(dataProvider = "engines")
  public void rowsAndStepsAreNamed(Engine engine) {
    Lantrel lantrel = at(engine);
    List<CheckedClaim> found =
        lantrel.study(REPEATED).verify("one row per station", "every station appears").claims();
    assertThat(found.get(0).reason()).contains("repeated at step 2, JOIN reading g");
    assertThat(found.get(0).rows().orElseThrow().rows().get(0)).containsExactly("1", "3");
    assertThat(found.get(1).reason()).contains("lost at step 2, JOIN reading g (2 rows)");
    assertThat(found.get(1).rows().orElseThrow().rows())
        .containsExactly(List.of("7", "Pellow Spring"), List.of("9", "Hathe Pool"));
  }

  /** All claims of a query go together; rows are fetched only of those that are broken. */
  @Test(dataProvider = "engines")
  public void asksLittle(Engine engine) {
    try (Lantrel live = Lantrel.connect(RiverDatabases.access(engine))) {
      Study met = live.study(STATIONS);
      met.verify("one row per station", "one row per name", "14 rows", "no null in name", "1 row");
      assertThat(met.statementsSent()).isEqualTo(1);
      Study broken = live.study(STATIONS);
      broken.verify("one row per bank", "no null in bank", "capacity between 3 and 4");
      assertThat(broken.statementsSent()).isLessThanOrEqualTo(3);
      // Steps are told by an account, which is made once for all claims that are broken.
      Study repeated = live.study(REPEATED);
      repeated.verify("one row per station", "every station appears", "one row per bank");
      Study account = live.study(REPEATED);
      account.ledger(0);
      assertThat(repeated.statementsSent()).isLessThanOrEqualTo(3 + account.statementsSent());
    }
  }

  /** Odd names, keys of two columns, unique columns with NULL, empty tables. */
  @Test(dataProvider = "engines")
  public void oddNamesAndKeys(Engine engine) throws SQLException, IOException {
    Access access = RiverDatabases.empty(engine, "odd_claims");
    String quote = engine == Engine.MARIADB ? "`" : "\"";
    try (Connection connection = RiverDatabases.writing(access)) {
      RiverDatabases.run(
          connection,
          "CREATE TABLE 'No Null' ('Row' INTEGER PRIMARY KEY, 'a b' INTEGER UNIQUE)"
              .replace("'", quote),
          "CREATE TABLE part (a INTEGER NOT NULL, b INTEGER NOT NULL, size_m DECIMAL(6, 2),"
              + " PRIMARY KEY (a, b))",
          "CREATE TABLE piece (id INTEGER PRIMARY KEY, a INTEGER, b INTEGER, FOREIGN KEY (a, b)"
              + " REFERENCES part (a, b))",
          "CREATE TABLE hollow (id INTEGER PRIMARY KEY)",
          "INSERT INTO 'No Null' VALUES (1, 5)".replace("'", quote),
          "INSERT INTO 'No Null' VALUES (2, NULL)".replace("'", quote),
          "INSERT INTO 'No Null' VALUES (3, NULL)".replace("'", quote),
          "INSERT INTO part VALUES (1, 1, 1.50)",
          "INSERT INTO part VALUES (1, 2, 2.25)",
          "INSERT INTO piece VALUES (1, 1, 1)",
          "INSERT INTO piece VALUES (2, 1, 1)",
          "INSERT INTO piece VALUES (3, 1, NULL)");
    }
    try (Lantrel lantrel = Lantrel.connect(access)) {
      String odd = "SELECT t.'Row', t.'a b' FROM 'No Null' t".replace("'", quote);
      assertThat(
              verdicts(
                  lantrel,
                  odd,
                  "one row per 'No Null'".replace("'", quote),
                  "one row per 'a b'".replace("'", quote),
                  "no null in 'Row'".replace("'", quote),
                  "no null in 'a b'".replace("'", quote),
                  "every 'No Null' appears where 'Row' > 1".replace("'", quote)))
          .containsExactly("proven", "broken", "proven", "broken", "proven");
      String parts =
          "SELECT p.a, p.b, p.size_m, e.id FROM part p LEFT JOIN piece e ON e.a = p.a AND e.b = p.b";
      assertThat(
              verdicts(
                  lantrel,
                  parts,
                  "one row per part",
                  "one row per piece",
                  "every part appears",
                  "every piece appears",
                  "a, b refer to part",
                  "total of size_m is total of part.size_m",
                  "one row per a, b, id",
                  "size_m between 1.5 and 2.25"))
          .containsExactly(
              "broken", "proven", "proven", "broken", "proven", "broken", "proven", "holds");
      assertThat(
              verdicts(
                  lantrel,
                  "SELECT n.id FROM hollow n",
                  "every hollow appears",
                  "one row per hollow",
                  "no rows",
                  "total of id is total of hollow.id"))
          .containsExactly("proven", "proven", "holds", "proven");
    }
  }

  private static List<String> verdicts(Lantrel lantrel, String sql, String... claims) {
    Verification found = lantrel.study(sql).verify(claims);
    assertThat(found.problems()).as(sql).isEmpty();
    return found.claims().stream().map(each -> each.verdict().word()).toList();
  }

  /** A recursion in a circle comes to its end, whatever is claimed of it. */
  @Test(dataProvider = "engines")
  public void circlesEnd(Engine engine) {
    String circle =
        "WITH RECURSIVE up (id) AS (SELECT w.id FROM warden w WHERE w.id = 1 UNION ALL SELECT w.id"
            + " FROM warden w JOIN up u ON w.id = u.id) SELECT id FROM up LIMIT 3";
    Lantrel lantrel = at(engine);
    CheckedClaim found = lantrel.study(circle).verify("levels at most 5").claims().get(0);
    assertThat(found.verdict()).isIn(Verdict.BROKEN, Verdict.UNDECIDED);
  }

  /** What the engine says is told, of the claims that need it; others are proven. */
  @Test(dataProvider = "engines")
  public void whatDoesNotRunIsUndecided(Engine engine) {
    Lantrel lantrel = at(engine);
    Verification found =
        lantrel
            .study("SELECT s.name, no_such_function(s.id) AS x FROM station s")
            .verify("one row per station", "no null in x");
    assertThat(found.claims()).allMatch(each -> each.verdict() == Verdict.UNDECIDED);
    assertThatThrownBy(found::assertMet)
        .isInstanceOf(AssertionError.class)
        .hasMessageContaining("no_such_function");
  }
}
