package io.lantrel.resolve;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.RiverWatchFolder;
import io.lantrel.catalog.Catalog;
import io.lantrel.catalog.SchemaFile;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.SourceText;
import io.lantrel.sql.SqlReader;
import java.io.IOException;
import java.nio.file.Files;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** What is run to its end only to see that it can be: everything that might fail there. */
public class RunTimeFailureTest {

  private static final String JOINED = " FROM station s JOIN river r ON r.id = s.river_id";

  @DataProvider
  static Object[][] cannotFail() {
    return new Object[][] {
      {"SELECT s.name, r.name" + JOINED},
      {"SELECT *" + JOINED},
      {"SELECT r.name, COUNT(*) AS n, SUM(s.capacity) AS c" + JOINED + " GROUP BY r.name"},
      {"SELECT s.name" + JOINED + " WHERE r.flow > 1.5 AND NOT s.name = 'x' OR s.river_id IS NULL"},
      {"SELECT s.name" + JOINED + " WHERE s.id IN (1, 2) AND r.flow BETWEEN 1 AND 2"},
      {"SELECT s.name FROM station s WHERE EXISTS (SELECT 1 FROM river r WHERE r.id = s.river_id)"},
      {"SELECT q.n FROM (SELECT COUNT(*) AS n FROM station s) q WHERE q.n > 1"},
      {"SELECT COALESCE(s.name, 'none') AS n, UPPER(s.name) AS u FROM station s"},
      {"SELECT CASE WHEN s.id > 1 THEN s.name ELSE 'x' END AS n FROM station s LIMIT 3"},
      {"WITH q AS (SELECT s.id FROM station s) SELECT q.id FROM q"},
    };
  }

  @DataProvider
  static Object[][] mayFail() {
    return new Object[][] {
      {"SELECT CAST(s.name AS INTEGER) AS n FROM station s"},
      {"SELECT s.capacity / s.id AS n FROM station s"},
      {"SELECT s.name FROM station s WHERE s.name > 1"},
      {"SELECT s.name FROM station s JOIN river r ON r.name = s.river_id"},
      {"SELECT (SELECT r.name FROM river r) AS n FROM station s"},
      {"SELECT s.name FROM station s WHERE s.id = (SELECT r.id FROM river r)"},
      {"SELECT SUM(s.name) AS n FROM station s"},
      {"SELECT no_such(s.name) AS n FROM station s"},
      {"SELECT s.name FROM station s WHERE s.name IN ('a', 1)"},
      {"SELECT s.name FROM station s UNION SELECT r.id FROM river r"},
      {"SELECT q.n FROM (SELECT CAST(s.name AS INTEGER) AS n FROM station s) q"},
      {"SELECT q.n FROM (SELECT s.name AS n FROM station s UNION SELECT r.id FROM river r) q"},
      {"SELECT q.n FROM (VALUES (1), ('x')) AS q (n)"},
      {"SELECT CASE WHEN s.id > 1 THEN s.name ELSE 1 END AS n FROM station s"},
      {
        "SELECT a.x FROM (SELECT s.id AS x FROM station s) a JOIN (SELECT r.name AS x FROM river r) b USING (x)"
      },
      {"SELECT v.n FROM measured v"},
      {
        "WITH RECURSIVE w AS (SELECT 1 AS n UNION ALL SELECT w.n FROM w) SELECT s.id FROM station s"
            + " JOIN w ON w.n = s.id"
      },
    };
  }

  private static boolean isPossible(String sql) {
    try {
      String schema =
          Files.readString(RiverWatchFolder.data().resolve("schema.sql"))
              + "CREATE VIEW measured AS SELECT CAST(name AS INTEGER) AS n FROM station;";
      Catalog catalog = SchemaFile.read(new SourceText(schema), Dialect.DUCKDB).catalog();
      Resolution resolution = Resolver.resolve(SqlReader.readQuery(sql, Dialect.DUCKDB), catalog);
      assertThat(resolution.problems()).as(sql).isEmpty();
      return RunTimeFailure.isPossible(resolution);
    } catch (IOException failure) {
      throw new IllegalStateException(failure);
    }
  }

  @Test(dataProvider = "cannotFail")
  public void isRuledOut(String sql) {
    assertThat(isPossible(sql)).isFalse();
  }

  @Test(dataProvider = "mayFail")
  public void isReckonedWith(String sql) {
    assertThat(isPossible(sql)).isTrue();
  }
}
