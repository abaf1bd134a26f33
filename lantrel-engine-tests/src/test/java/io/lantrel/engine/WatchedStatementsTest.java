package io.lantrel.engine;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.lantrel.Lantrel;
import io.lantrel.Study;
import io.lantrel.ledger.Figure;
import io.lantrel.sql.SqlReader;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** What a database is sent can be watched, and there is nothing in it that need not be asked. */
public class WatchedStatementsTest {

  /** Keeps all that it is told. */
  private static final class Seen implements StatementWatcher {
    private final List<SentStatement> begun = new ArrayList<>();
    private final List<String> ends = new ArrayList<>();

    @Override
    public void begins(SentStatement statement) {
      begun.add(statement);
    }

    @Override
    public void ended(SentStatement statement, Duration took, @Nullable DatabaseException failure) {
      assertThat(took).isPositive();
      assertThat(begun.get(begun.size() - 1)).isEqualTo(statement);
      ends.add(statement.number() + (failure == null ? "" : " " + failure.getMessage()));
    }

    private SentStatement last() {
      return begun.get(begun.size() - 1);
    }
  }

  @DataProvider
  static Object[][] engines() {
    return RiverDatabases.rows();
  }

  private static Lantrel connect(Engine engine, StatementWatcher watcher) {
    return Lantrel.connect(RiverDatabases.access(engine)).watchedBy(watcher);
  }

  @Test(dataProvider = "engines")
  public void everyStatementIsTold(Engine engine) {
    Seen seen = new Seen();
    Seen other = new Seen();
    try (Lantrel lantrel = connect(engine, seen.and(other))) {
      Study study =
          lantrel.study(
              "WITH big AS (SELECT s.id, s.name FROM station s WHERE s.capacity > 3) SELECT b.name,"
                  + " d.depth_cm FROM big b LEFT JOIN reading d ON d.station_id = b.id");
      study.inspection();
      study.ledger();
      assertThat(seen.begun).hasSize((int) study.statementsSent());
      assertThat(other.begun).isEqualTo(seen.begun);
      assertThat(seen.begun.stream().map(SentStatement::number).toList())
          .isEqualTo(numbers(seen.begun.size()));
      assertThat(seen.ends).hasSameSizeAs(seen.begun);
      assertThat(seen.begun)
          .allSatisfy(
              each -> {
                assertThat(each.tables().stream().map(name -> name.toLowerCase(Locale.ROOT)))
                    .isSubsetOf("station", "reading");
                SqlReader.readQuery(each.sql(), engine.dialect());
              });
    }
  }

  private static List<Long> numbers(int size) {
    List<Long> numbers = new ArrayList<>();
    for (long i = 1; i <= size; i++) {
      numbers.add(i);
    }
    return numbers;
  }

  @Test(dataProvider = "engines")
  public void soIsOneThatFailsAndOneThatIsOnlyPlanned(Engine engine) {
    Seen seen = new Seen();
    try (Lantrel lantrel = connect(engine, seen)) {
      Study wrong = lantrel.study("SELECT s.name || no_such_function(s.id) AS x FROM station s");
      assertThatThrownBy(wrong::result).isInstanceOf(DatabaseException.class);
      assertThat(seen.begun).as("it was not even sent").isEmpty();
      Study study =
          lantrel.study(
              "SELECT (SELECT r.name FROM river r WHERE r.id > 0 AND r.id < s.id + 100) AS x FROM"
                  + " station s");
      study.inspection();
      assertThat(seen.begun).extracting(SentStatement::way).contains(SentStatement.Way.RUN);
      // SQLite takes the first of several rows.
      if (engine != Engine.SQLITE) {
        assertThatThrownBy(study::result)
            .isInstanceOf(DatabaseException.class)
            .satisfies(
                failure ->
                    assertThat(seen.ends)
                        .contains(seen.last().number() + " " + failure.getMessage()));
      }
    }
  }

  /**
   * Every sighting has its species and its station, so that the rows which WHERE drops are looked
   * up without these; their station comes back where it is needed.
   */
  @Test(dataProvider = "engines")
  public void joinsThatChangeNothingAreNotMadeAgain(Engine engine) {
    String joined =
        "SELECT g.species_id, s.name, p.name AS species FROM sighting g JOIN station s ON s.id ="
            + " g.station_id JOIN species p ON p.id = g.species_id WHERE ";
    Seen seen = new Seen();
    try (Lantrel lantrel = connect(engine, seen)) {
      assertThat(dropped(lantrel, joined + "g.head_count > 9")).isEqualTo(14);
      assertThat(seen.last().sql()).contains("sighting").doesNotContain(" p ON ");
      assertThat(dropped(lantrel, joined + "p.name <> 'blue skimmer'")).isEqualTo(2);
      assertThat(seen.last().sql()).contains(" p ON ");
    }
  }

  private static long dropped(Lantrel lantrel, String sql) {
    return lantrel.study(sql).ledger().entries().get(3).rows(Figure.DROPPED);
  }
}
