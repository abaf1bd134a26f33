package io.lantrel;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import io.lantrel.engine.DatabaseException;
import io.lantrel.engine.Engine;
import io.lantrel.engine.Limits;
import io.lantrel.ledger.Naming;
import io.lantrel.sql.tree.JoinKind;
import java.nio.file.Path;
import java.time.Duration;
import java.util.Iterator;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;
import java.util.stream.Stream;
import org.testng.annotations.AfterClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Of a query that was stopped and would never end, every answer says why. */
public class EndlessQueriesTest {

  private static final Path LODGES =
      Scratch.world(
          "lodges",
          Map.of(
              "schema.sql",
              "CREATE TABLE lodge (id INTEGER PRIMARY KEY, name VARCHAR(20), over_id INTEGER"
                  + " REFERENCES lodge (id));",
              "lodge.csv",
              "id,name,over_id\n1,Top,\n2,Left,3\n3,Right,2\n"));

  private static final String COUNTER =
      "WITH RECURSIVE n AS (SELECT 1 AS i UNION ALL SELECT n.i + 1 FROM n) SELECT l.name FROM n"
          + " JOIN lodge l ON l.id = n.i";

  private static final String CIRCLE =
      "WITH RECURSIVE up AS (SELECT id, over_id FROM lodge WHERE id = 3 UNION ALL SELECT l.id,"
          + " l.over_id FROM up JOIN lodge l ON l.id = up.over_id) SELECT k.name FROM up JOIN lodge"
          + " k ON k.id = up.id";

  private static final String LONG =
      "SELECT COUNT(*) AS n FROM generate_series(1, 1000000) a (x) JOIN generate_series(1, 1000000)"
          + " b (y) ON a.x + b.y = 77 OR a.x * b.y = 12";

  private final Lantrel lantrel =
      Lantrel.open(LODGES, Engine.DUCKDB, Limits.usual().within(Duration.ofSeconds(1)));

  @AfterClass
  void close() {
    lantrel.close();
  }

  /** A way to ask. */
  private record Asked(String name, Consumer<Study> way) {
    @Override
    public String toString() {
      return name;
    }
  }

  private static final Asked RESULT = new Asked("result", Study::result);

  private static final List<Asked> WAYS =
      List.of(
          new Asked("account", Study::ledger),
          new Asked("rows", study -> study.rows(5)),
          new Asked("steps", study -> study.steps(5)),
          new Asked("a row", study -> study.trace(1, 5)),
          new Asked("lost rows", study -> study.missing("lodge where id = 2", 1)),
          new Asked("other joins", study -> study.otherJoins(JoinKind.LEFT, 0, Naming.some(1))),
          new Asked("no join", study -> study.without(2)));

  @DataProvider
  static Iterator<Object[]> endless() {
    return WAYS.stream()
        .flatMap(
            way ->
                Stream.of(
                    new Object[] {
                      way, COUNTER, "Every row of n makes another one, and no condition"
                    },
                    new Object[] {way, CIRCLE, "The rows close a circle along lodge.over_id"}))
        .iterator();
  }

  @Test(dataProvider = "endless")
  public void whatNeverEndsIsToldWhy(Asked asked, String sql, String why) {
    assertThat(failure(sql, asked)).contains(". " + why).endsWith(".");
  }

  /** Its first rows are there at once, unless something waits for the last one. */
  @Test
  public void aResultIsNotWaitedForToTheEnd() {
    assertThat(lantrel.study(CIRCLE).result(9).cut()).isTrue();
    String counted = CIRCLE.replace("SELECT k.name", "SELECT COUNT(*) AS n");
    assertThat(failure(counted, RESULT)).contains(". The rows close a circle");
  }

  /** What is asked of circles counts; what the text alone tells costs nothing. */
  @Test
  public void toTellWhyCostsOneStatementAtMost() {
    for (Object[] each : new Object[][] {{COUNTER, 1L}, {CIRCLE, 2L}, {LONG, 1L}}) {
      Study study = lantrel.study(((String) each[0]).replace("SELECT k.name", "SELECT COUNT(*)"));
      assertThat(catchThrowableOfType(DatabaseException.class, study::result)).isNotNull();
      assertThat(study.statementsSent()).isEqualTo(each[1]);
    }
  }

  @Test
  public void whatIsOnlyLongIsNotSaidToBeEndless() {
    assertThat(failure(LONG, RESULT)).isEqualTo("DuckDB was stopped after 1 second");
  }

  private String failure(String sql, Asked asked) {
    DatabaseException stopped =
        catchThrowableOfType(DatabaseException.class, () -> asked.way().accept(lantrel.study(sql)));
    assertThat(stopped).as(asked.name()).isNotNull();
    assertThat(stopped.tookTooLong()).isTrue();
    return String.valueOf(stopped.getMessage());
  }
}
