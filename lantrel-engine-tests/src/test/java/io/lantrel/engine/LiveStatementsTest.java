package io.lantrel.engine;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.Study;
import java.util.List;
import java.util.stream.Stream;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** What an answer costs at somebody's own database, where each statement may take its time. */
public class LiveStatementsTest {

  private static final String STATIONS =
      "SELECT s.name, r.flow, w.given_name FROM station s JOIN river r ON r.id = s.river_id"
          + " LEFT JOIN warden w ON w.id = s.keeper_id";

  @DataProvider
  static Object[][] questions() {
    return Stream.of(RiverDatabases.rows())
        .flatMap(
            engine ->
                Stream.of(
                    new Object[] {
                      engine[0], STATIONS.replace(" JOIN river", " LEFT JOIN river"), 0, 2, 4
                    },
                    new Object[] {engine[0], STATIONS, 1, 5, 4},
                    new Object[] {engine[0], STATIONS + " WHERE w.id > 1", 2, 5, 4}))
        .toArray(Object[][]::new);
  }

  /** At most so many for check and for the ledger. */
  @Test(dataProvider = "questions")
  public void areFew(Engine engine, String sql, int findings, int check, int ledger) {
    try (Lantrel lantrel = Lantrel.connect(RiverDatabases.access(engine))) {
      Study checked = lantrel.study(sql);
      assertThat(checked.findings()).hasSize(findings);
      Study accounted = lantrel.study(sql);
      accounted.ledger();
      assertThat(List.of(checked.statementsSent(), accounted.statementsSent()))
          .isEqualTo(List.of((long) check, (long) ledger));
    }
  }
}
