package io.lantrel.check;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.Scratch;
import io.lantrel.SentStatements;
import io.lantrel.engine.Access;
import java.io.IOException;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/**
 * Several counts are asked for in one statement: an engine that looks for what their queries have
 * in common must not take an inner join for an outer one, as DuckDB 2.0 does by itself.
 */
public class SharedPlansTest {

  /** Into which river each flows, from the first on; 0 is none. */
  private static final List<Integer> FLOWS_INTO = List.of(0, 1, 2, 3, 4, 1, 6, 6, 0, 9, 10, 0);

  private static final String ABOVE =
      "SELECT r.name, c.name AS higher FROM river r JOIN river a ON a.id = r.flows_into"
          + " JOIN river b ON b.id = a.flows_into JOIN river c ON c.id = b.flows_into";

  private static final String ONE_COUNT =
      "SELECT COUNT(CASE WHEN q.v = 0 OR q.v > 3 THEN 1 END) AS n FROM (SELECT CASE WHEN a.id IS"
          + " NULL THEN 1 ELSE 0 END AS v FROM river r LEFT JOIN river a ON a.id = r.flows_into) q";

  private static final String OTHER_COUNT =
      "SELECT COUNT(*) AS n FROM (SELECT r.name, c.name AS above FROM river r JOIN river a ON a.id ="
          + " r.flows_into LEFT JOIN river b ON b.id = a.flows_into LEFT JOIN river c ON c.id ="
          + " b.flows_into) q";

  /** The rivers, in a file of their own. */
  private static String file() throws IOException, SQLException {
    String url = "jdbc:duckdb:" + Scratch.folder("rivers").resolve("rivers.duckdb");
    try (Connection connection = DriverManager.getConnection(url);
        Statement statement = connection.createStatement()) {
      statement.execute(
          "CREATE TABLE river (id INTEGER PRIMARY KEY, name VARCHAR NOT NULL,"
              + " flows_into INTEGER REFERENCES river (id))");
      for (int i = 0; i < FLOWS_INTO.size(); i++) {
        statement.execute(
            "INSERT INTO river SELECT %d, 'river %d', NULLIF(%d, 0)"
                .formatted(i + 1, i + 1, FLOWS_INTO.get(i)));
      }
    }
    return url;
  }

  /** How two queries that have joins in common stand in one statement. */
  @DataProvider
  static Object[][] statements() {
    return new Object[][] {
      {"%s UNION ALL %s"},
      {"SELECT (%s) AS one UNION ALL SELECT (%s)"},
      {"SELECT x.n FROM (%s) x UNION ALL SELECT y.n FROM (%s) y"},
      {"WITH x AS (%s), y AS (%s) SELECT n FROM x UNION ALL SELECT n FROM y"},
      {"SELECT CASE WHEN i.n = 1 THEN (%s) ELSE (%s) END AS n FROM (VALUES (1), (2)) AS i (n)"},
    };
  }

  @Test(dataProvider = "statements")
  public void eachIsCountedForItself(String statement) throws IOException, SQLException {
    try (Lantrel lantrel = Lantrel.connect(Access.to(file()))) {
      assertThat(lantrel.study(statement.formatted(ONE_COUNT, OTHER_COUNT)).result().rows())
          .extracting(row -> String.valueOf(row.get(0)))
          .containsExactly("9", "9");
    }
  }

  @DataProvider
  static Object[][] settings() {
    return new Object[][] {{"", 17, 17}, {"common_subplan", 5, 17}};
  }

  /**
   * The settings of a connection that is lent are not touched: what must not meet is sent alone.
   */
  @Test(dataProvider = "settings")
  public void onALentConnectionPartsAreAskedAlone(String leftOut, int statements, int parts)
      throws IOException, SQLException {
    SentStatements sent = new SentStatements();
    try (Connection connection = DriverManager.getConnection(file());
        Statement statement = connection.createStatement()) {
      statement.execute("SET disabled_optimizers = '" + leftOut + "'");
      try (Lantrel lantrel = Lantrel.connect(connection).watchedBy(sent)) {
        List<Finding> findings = lantrel.study(ABOVE).findings();
        assertThat(findings).anyMatch(each -> each.repair().isPresent());
        assertThat(sent.texts()).as("statements").hasSize(statements);
        assertThat(sent.furtherParts()).isEqualTo(parts - statements);
      }
      try (ResultSet setting =
          statement.executeQuery("SELECT current_setting('disabled_optimizers')")) {
        assertThat(setting.next()).isTrue();
        assertThat(setting.getString(1)).isEqualTo(leftOut);
      }
    }
  }
}
