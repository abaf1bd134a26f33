package io.lantrel.check;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.tuple;

import io.lantrel.Lantrel;
import io.lantrel.Scratch;
import io.lantrel.sql.Dialect;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import org.testng.annotations.AfterClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/**
 * Numbers that count within something else, and columns of a side that is filled: what is a
 * warning, what a note, and what is right. Names in quotes, of mixed case and with blanks.
 */
public class PartsOfKeysTest {

  private static final List<String> WORLD =
      List.of(
          "CREATE TABLE \"Yard\" (\"Id\" INTEGER PRIMARY KEY, \"Name\" VARCHAR(20), opened DATE);",
          "CREATE TABLE \"boat berth\" (\"Yard\" INTEGER NOT NULL REFERENCES \"Yard\" (\"Id\"),"
              + " \"Berth\" INTEGER NOT NULL, metres DECIMAL(5, 1), PRIMARY KEY (\"Yard\","
              + " \"Berth\"));",
          "CREATE TABLE stay (id INTEGER PRIMARY KEY, \"Yard\" INTEGER NOT NULL, \"Berth\" INTEGER"
              + " NOT NULL, nights INTEGER, FOREIGN KEY (\"Yard\", \"Berth\") REFERENCES"
              + " \"boat berth\" (\"Yard\", \"Berth\"));",
          "CREATE TABLE season (\"Yard\" INTEGER NOT NULL REFERENCES \"Yard\" (\"Id\"), season_no"
              + " INTEGER NOT NULL, PRIMARY KEY (\"Yard\", season_no));",
          "CREATE TABLE fee (id INTEGER PRIMARY KEY, \"Yard\" INTEGER NOT NULL, season_no INTEGER"
              + " NOT NULL, amount INTEGER, FOREIGN KEY (\"Yard\", season_no) REFERENCES season"
              + " (\"Yard\", season_no));",
          "CREATE TABLE bill (no INTEGER PRIMARY KEY, \"Yard\" INTEGER REFERENCES \"Yard\""
              + " (\"Id\"));",
          "CREATE TABLE bill_line (bill INTEGER NOT NULL REFERENCES bill (no), line_no INTEGER NOT"
              + " NULL, amount INTEGER, PRIMARY KEY (bill, line_no));",
          "CREATE TABLE refund (id INTEGER PRIMARY KEY, bill INTEGER NOT NULL, line_no INTEGER NOT"
              + " NULL, FOREIGN KEY (bill, line_no) REFERENCES bill_line (bill, line_no));",
          "INSERT INTO \"Yard\" VALUES (1, 'North', NULL), (2, 'South', '2020-01-01'), (3, 'West',"
              + " NULL);",
          "INSERT INTO \"boat berth\" VALUES (1, 1, 6), (1, 2, 8), (2, 1, 6), (2, 2, 9);",
          "INSERT INTO stay VALUES (1, 1, 1, 2), (2, 2, 1, 3), (3, 2, 2, NULL), (4, 1, 1, 2);",
          "INSERT INTO season VALUES (1, 1), (2, 1);",
          "INSERT INTO fee VALUES (1, 1, 1, 50), (2, 2, 1, 60);",
          "INSERT INTO bill VALUES (1, 1), (2, 2);",
          "INSERT INTO bill_line VALUES (1, 1, 10), (1, 2, 10), (2, 1, 30);",
          "INSERT INTO refund VALUES (1, 1, 1), (2, 2, 1);");

  private final Lantrel lantrel = Lantrel.open(Scratch.world("yards", WORLD));

  @AfterClass
  void close() {
    lantrel.close();
  }

  private static final String YARDS = " FROM \"Yard\" y LEFT JOIN stay s ON s.\"Yard\" = y.\"Id\"";

  /** A query, the kind that it must have, if any, and how severe that is. */
  @DataProvider
  static Object[][] told() {
    return new Object[][] {
      {"SELECT s.\"Berth\", COUNT(*) FROM stay s GROUP BY s.\"Berth\"", "partial-key", "warning"},
      {
        "SELECT s.id, ROW_NUMBER() OVER (PARTITION BY s.\"Berth\" ORDER BY s.id) FROM stay s",
        "partial-key",
        "warning"
      },
      {
        "SELECT a.id, b.id FROM stay a JOIN stay b ON b.\"Berth\" = a.\"Berth\" AND b.id > a.id",
        "partial-key",
        "warning"
      },
      {
        "SELECT a.id, b.id FROM refund a JOIN refund b ON b.line_no = a.line_no AND b.id > a.id",
        "partial-key",
        "warning"
      },
      {
        "SELECT a.id, b.id FROM stay a JOIN stay b ON b.\"Berth\" = a.\"Berth\" WHERE a.\"Yard\" = 1"
            + " AND b.id <> a.id",
        "partial-key",
        "warning"
      },
      {
        "SELECT s.id FROM stay s WHERE s.nights = (SELECT MAX(x.nights) FROM stay x WHERE"
            + " x.\"Berth\" = s.\"Berth\")",
        "partial-key",
        "warning"
      },
      {"SELECT SUM(DISTINCT l.amount) FROM bill_line l", "distinct-hides-repeats", "warning"},
      {"SELECT s.\"Yard\", s.nights" + YARDS, "filled-key", "warning"},
      {"SELECT s.\"Yard\", y.\"Name\", s.nights" + YARDS, "filled-key", "note"},
      {
        "SELECT y.\"Name\" FROM \"Yard\" y WHERE y.opened <> '1999-01-01'",
        "null-comparison",
        "warning"
      },
      {"SELECT s.id FROM stay s WHERE s.nights NOT IN (7, 8)", "null-comparison", "note"},
      {"SELECT s.id FROM stay s WHERE NOT (s.nights = 7)", "null-comparison", "note"},
    };
  }

  @Test(dataProvider = "told")
  public void areTold(String sql, String kind, String severity) {
    assertThat(lantrel.study(sql).findings())
        .as(sql)
        .anyMatch(
            each ->
                each.kind().id().equals(kind)
                    && each.severity() == Severity.valueOf(severity.toUpperCase(Locale.ROOT)));
    Repaired.keepsItsWord(sql, lantrel);
  }

  @DataProvider
  static Object[][] right() {
    return new Object[][] {
      // what it counts within is fixed, grouped by, or asked for
      {"SELECT s.\"Berth\", COUNT(*) FROM stay s WHERE s.\"Yard\" = 1 GROUP BY s.\"Berth\""},
      {"SELECT s.\"Yard\", s.\"Berth\", COUNT(*) FROM stay s GROUP BY s.\"Yard\", s.\"Berth\""},
      {"SELECT s.\"Berth\", COUNT(DISTINCT s.\"Yard\") AS n FROM stay s GROUP BY s.\"Berth\""},
      {
        "SELECT a.id, b.id FROM stay a JOIN stay b ON b.\"Berth\" = a.\"Berth\" AND b.\"Yard\" > a.\"Yard\""
      },
      {
        "SELECT a.id, b.id FROM stay a JOIN stay b ON b.\"Berth\" = a.\"Berth\" AND b.id > a.id WHERE"
            + " a.\"Yard\" = 1 AND b.\"Yard\" = 1"
      },
      // what means the same everywhere
      {"SELECT f.season_no, SUM(f.amount) FROM fee f GROUP BY f.season_no"},
      {"SELECT a.id, b.id FROM fee a JOIN fee b ON b.season_no = a.season_no AND b.id > a.id"},
      {"SELECT l.line_no, SUM(l.amount) FROM bill_line l GROUP BY l.line_no"},
      // for each row outside
      {
        "SELECT y.\"Name\", (SELECT MAX(q.n) FROM (SELECT COUNT(*) AS n FROM stay s WHERE"
            + " s.\"Yard\" = y.\"Id\" GROUP BY s.\"Berth\") q) AS most FROM \"Yard\" y"
      },
      {
        "SELECT s.id FROM stay s WHERE s.nights = (SELECT MAX(x.nights) FROM stay x WHERE"
            + " x.\"Berth\" = s.\"Berth\" AND x.\"Yard\" <> s.\"Yard\")"
      },
      {"SELECT y.\"Id\", s.nights" + YARDS},
      {"SELECT y.\"Name\", s.\"Yard\" AS stayed" + YARDS + " WHERE s.\"Yard\" IS NULL"},
      {"SELECT y.\"Name\" FROM \"Yard\" y WHERE y.opened <> '1999-01-01' OR y.opened IS NULL"},
      {"SELECT s.id FROM stay s WHERE s.nights <> 7 AND s.nights > 1"},
    };
  }

  @Test(dataProvider = "right")
  public void areNot(String sql) {
    List<Kind> told =
        List.of(
            Kind.PARTIAL_KEY, Kind.FILLED_KEY, Kind.NULL_COMPARISON, Kind.DISTINCT_HIDES_REPEATS);
    assertThat(lantrel.study(sql).findings()).as(sql).noneMatch(each -> told.contains(each.kind()));
  }

  /** Without rows a number grouped by alone is a note: perhaps there is but one yard. */
  @Test
  public void areANoteOnASchemaAlone() throws IOException {
    Path file = Scratch.folder("plan").resolve("schema.sql");
    Files.write(file, WORLD.stream().filter(each -> each.startsWith("CREATE")).toList());
    try (Lantrel schema = Lantrel.openSchema(file, Dialect.DUCKDB)) {
      assertThat(
              schema
                  .study("SELECT s.\"Berth\", COUNT(*) FROM stay s GROUP BY s.\"Berth\"")
                  .findings())
          .extracting(Finding::kind, Finding::severity)
          .containsExactly(tuple(Kind.PARTIAL_KEY, Severity.NOTE));
    }
  }
}
