package io.lantrel.examples;

import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.lantrel.Lantrel;
import io.lantrel.Study;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.Map;
import org.h2.jdbcx.JdbcDataSource;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;

/**
 * How an application verifies the queries that it uses, in its own tests and through its own data
 * source. With any other test framework it looks the same.
 */
public class StationQueriesTest {

  /** A query of the application; a resource would do as well. */
  private static final String READINGS =
      """
      -- claim: one row per station
      -- claim: every station appears
      SELECT s.name, COUNT(r.id) AS readings
      FROM station s LEFT JOIN reading r ON r.station_id = s.id AND r.depth_cm >= :depth
      GROUP BY s.id, s.name
      """;

  private final JdbcDataSource dataSource = new JdbcDataSource();

  @BeforeClass
  public void fill() throws SQLException {
    dataSource.setURL("jdbc:h2:mem:stations;DB_CLOSE_DELAY=-1");
    try (Connection connection = dataSource.getConnection();
        Statement statement = connection.createStatement()) {
      statement.execute("CREATE TABLE station (id INTEGER PRIMARY KEY, name VARCHAR(40) NOT NULL)");
      statement.execute(
          "CREATE TABLE reading (id INTEGER PRIMARY KEY, station_id INTEGER NOT NULL REFERENCES"
              + " station, depth_cm INTEGER)");
      statement.execute("INSERT INTO station VALUES (1, 'Mill Weir'), (2, 'Hathe Pool')");
      statement.execute("INSERT INTO reading VALUES (1, 1, 182), (2, 1, 141), (3, 1, 180)");
    }
  }

  @Test
  public void everyStationIsListedOnce() {
    try (Lantrel lantrel = Lantrel.connect(dataSource)) {
      lantrel.study(READINGS, Map.of("depth", 150)).verify("no null in readings").assertMet();
    }
  }

  /** What a failure says. */
  @Test
  public void aJoinThatLosesStationsIsNoticed() {
    String joined = READINGS.replace("LEFT JOIN", "JOIN");
    try (Lantrel lantrel = Lantrel.connect(dataSource)) {
      Study study = lantrel.study(joined, Map.of("depth", 150));
      assertThatThrownBy(() -> study.verify().assertMet())
          .hasMessageContaining("broken: every station appears")
          .hasMessageContaining("1 of 2 stations does not appear")
          .hasMessageContaining("2, Hathe Pool");
    }
  }
}
