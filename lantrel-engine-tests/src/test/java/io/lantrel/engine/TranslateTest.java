package io.lantrel.engine;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.QueryGenerator;
import io.lantrel.Rewriting;
import io.lantrel.rewrite.RewriteException;
import java.io.IOException;
import java.nio.file.Path;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Queries of one engine's SQL run in every other one's, and give the same rows. */
public class TranslateTest extends OnEveryEngine {

  private static final long SEED = 20261125;
  private static final int TABLES = 4;
  private static final int QUERIES = 60;

  /** What products write each in their own way, by the engine that it is written for. */
  @DataProvider
  static Object[][] queries() {
    return new Object[][] {
      {
        Engine.DUCKDB,
        "SELECT s.name || ' at ' || r.name AS both FROM station s JOIN river r ON r.id = s.river_id"
      },
      {
        Engine.DUCKDB,
        "SELECT d.id, d.depth_cm / 7 AS sevenths, d.depth_cm // 7 AS whole FROM reading d"
      },
      {
        Engine.DUCKDB,
        "SELECT id, depth_cm FROM reading ORDER BY depth_cm DESC, id LIMIT 3 OFFSET 1"
      },
      {Engine.DUCKDB, "SELECT id FROM reading ORDER BY temperature, id LIMIT 4"},
      {Engine.DUCKDB, "SELECT name, capacity * 2 AS twice FROM station WHERE twice > 6"},
      {Engine.DUCKDB, "SELECT river_id AS r, COUNT(*) AS n FROM station GROUP BY 1 HAVING n > 1"},
      {Engine.DUCKDB, "SELECT id::VARCHAR AS t, CAST(depth_cm AS DOUBLE) AS d FROM reading"},
      {Engine.DUCKDB, "SELECT name FROM station WHERE name ILIKE '%MILL%' AND NOT name ILIKE 'x%'"},
      {
        Engine.DUCKDB,
        "SELECT r.name AS \"the \"\"river\"\"\" FROM river r ORDER BY \"the \"\"river\"\"\""
      },
      {
        Engine.DUCKDB,
        "SELECT river_id, STRING_AGG(name, '; ' ORDER BY name) AS names FROM station GROUP BY river_id"
      },
      {
        Engine.DUCKDB,
        "SELECT river_id, COUNT(*) FILTER (WHERE capacity > 3) AS large FROM station GROUP BY river_id"
      },
      {
        Engine.DUCKDB,
        "SELECT s.id FROM station s JOIN station t ON s.keeper_id IS NOT DISTINCT FROM t.keeper_id"
      },
      {
        Engine.DUCKDB,
        "SELECT a.id, c.name FROM river a, river b JOIN river c ON c.id = a.id WHERE b.id = a.flows_into"
      },
      {
        Engine.DUCKDB, "SELECT s.name, r.name FROM station s FULL JOIN river r ON r.id = s.river_id"
      },
      {
        Engine.DUCKDB,
        "SELECT id --the key\nFROM reading WHERE taken_at >= TIMESTAMP '2026-05-02 00:00:00'"
      },
      {
        Engine.DUCKDB,
        "SELECT DISTINCT YEAR(taken_at) AS y, EXTRACT(MONTH FROM taken_at) AS m FROM reading"
      },
      {
        Engine.DUCKDB,
        "SELECT station_id, seen_on, depth_cm FROM reading JOIN sighting USING (station_id)"
      },
      {
        Engine.SQLITE,
        "SELECT name, r.flow, t.bank FROM warden w JOIN river r ON r.id = w.id JOIN (SELECT name,"
            + " bank FROM station) t USING (name) WHERE name > 'A'"
      },
      {Engine.POSTGRESQL, "SELECT id, depth_cm / 7 AS sevenths, depth_cm % 7 AS rest FROM reading"},
      {
        Engine.POSTGRESQL,
        "SELECT id FROM reading ORDER BY depth_cm DESC, id FETCH FIRST 3 ROWS ONLY"
      },
      {Engine.POSTGRESQL, "SELECT E'it\\'s' AS t, $$a 'b'$$ AS u, name FROM river"},
      {
        Engine.POSTGRESQL,
        "WITH RECURSIVE up AS (SELECT id, flows_into, 1 AS level FROM river WHERE id = 5 UNION ALL SELECT r.id, r.flows_into, u.level + 1 FROM river r JOIN up u ON r.id = u.flows_into) SELECT id, level FROM up"
      },
      {
        Engine.POSTGRESQL,
        "SELECT LENGTH(name) AS n, IFNULL(NULL, name) AS s FROM river".replace("IFNULL", "COALESCE")
      },
      {
        Engine.MARIADB,
        "SELECT `s`.`name` AS `the name`, CONCAT(s.name, '-', k.given_name) AS c FROM station s LEFT JOIN warden k ON k.id = s.keeper_id # all"
      },
      {Engine.MARIADB, "SELECT id FROM reading WHERE depth_cm > 100 || temperature > 20 && id > 3"},
      {
        Engine.MARIADB,
        "SELECT IFNULL(keeper_id, 0) AS k, IF(capacity > 3, \"large\", 'it\\'s small') AS c FROM station"
      },
      {
        Engine.MARIADB,
        "SELECT river_id, GROUP_CONCAT(name ORDER BY name DESC SEPARATOR '/') AS names FROM station GROUP BY river_id"
      },
      {Engine.MARIADB, "SELECT s.id FROM station s, station t WHERE s.keeper_id <=> t.keeper_id"},
      {
        Engine.MARIADB,
        "SELECT id, depth_cm / 2 AS half, depth_cm DIV 7 AS w, depth_cm MOD 7 AS m FROM reading ORDER BY depth_cm, id LIMIT 2, 5"
      },
      {
        Engine.MARIADB,
        "SELECT CAST(id AS CHAR) AS t, CAST(depth_cm AS SIGNED) AS d, LENGTH(\"a\\\\b\") AS l FROM reading"
      },
      {Engine.MARIADB, "SELECT b.code, r.name FROM bank_kind b JOIN river r"},
      {
        Engine.SQLITE, "SELECT [name], \"none\" AS t FROM river WHERE id == 3 OR flows_into IS NULL"
      },
      {Engine.SQLITE, "SELECT id FROM reading ORDER BY depth_cm, id LIMIT 3"},
      {Engine.SQLITE, "SELECT name AS 'a label', flow > 3 AS big FROM river WHERE flows_into IS 3"},
      {
        Engine.SQLITE,
        "SELECT river_id, GROUP_CONCAT(bank, '+' ORDER BY name) AS b FROM station GROUP BY river_id"
      },
      {Engine.H2, "SELECT TOP 3 \"NAME\" FROM river ORDER BY name"},
      {
        Engine.H2,
        "SELECT river_id, LISTAGG(name, ', ') WITHIN GROUP (ORDER BY name) AS names FROM station GROUP BY river_id"
      },
      {
        Engine.H2,
        "SELECT id FROM reading ORDER BY temperature DESC, id OFFSET 2 ROWS FETCH NEXT 3 ROWS ONLY"
      },
      {Engine.HSQLDB, "SELECT LIMIT 1 4 id FROM reading ORDER BY depth_cm, id"},
      {
        Engine.HSQLDB,
        "SELECT MOD(depth_cm, 7) AS m, CAST(id AS LONGVARCHAR) AS t FROM reading ORDER BY depth_cm, id LIMIT 6"
      },
    };
  }

  @Test(dataProvider = "queries")
  public void givesTheSameRowsElsewhere(Engine from, String sql) {
    Lantrel source = at(from);
    List<String> wrong = new ArrayList<>();
    all()
        .forEach(
            (to, there) -> {
              if (to != from) {
                String told;
                try {
                  Rewriting rewriting = source.translate(sql, there);
                  told =
                      rewriting.difference().orElse("")
                          + (rewriting.rows().isPresent() || !rewriting.isChanged()
                              ? ""
                              : "not run; " + rewriting.remarks());
                  told = told.isEmpty() ? "" : told + " -- " + rewriting.sql();
                } catch (RewriteException refused) {
                  told = String.valueOf(refused.getMessage());
                }
                if (!told.isEmpty()) {
                  wrong.add(to + ": " + told);
                }
              }
            });
    assertThat(wrong).isEmpty();
  }

  /** FULL JOIN, nesting, USING, grouping, written for DuckDB. */
  @Test(dataProvider = "engines")
  public void givesTheSameRowsOfGeneratedQueries(Engine engine) throws IOException, SQLException {
    Path folder = QueryGenerator.folder(SEED, TABLES);
    QueryGenerator generator = new QueryGenerator(SEED, TABLES);
    int same = 0;
    int refused = 0;
    try (Lantrel here = Lantrel.open(folder);
        Lantrel there = EngineLedgerTest.open(engine, folder)) {
      for (int i = 0; i < QUERIES; i++) {
        String sql = i % 2 == 0 ? generator.query().sql() : generator.oldOrNested();
        if (sql.contains("LIMIT")) {
          continue;
        }
        try {
          Rewriting rewriting = here.translate(sql, there);
          assertThat(rewriting.difference()).as("%s%n%s", sql, rewriting.sql()).isEmpty();
          same++;
        } catch (RewriteException unfit) {
          refused++;
        }
      }
    }
    assertThat(same).isGreaterThan(3 * refused);
  }
}
