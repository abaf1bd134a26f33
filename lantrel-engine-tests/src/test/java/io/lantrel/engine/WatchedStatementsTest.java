package io.lantrel.engine;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.lantrel.Lantrel;
import io.lantrel.Study;
import io.lantrel.ledger.Cause;
import io.lantrel.ledger.Entry;
import io.lantrel.ledger.Figure;
import io.lantrel.ledger.Naming;
import io.lantrel.sql.SqlReader;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.stream.IntStream;
import java.util.stream.Stream;
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

  /** Whoever asks: what one thread sends has ended before the next begins. */
  @Test
  public void threadsAreToldInTurn() {
    Seen seen = new Seen();
    try (Lantrel lantrel = connect(Engine.DUCKDB, seen)) {
      IntStream.range(0, 8)
          .parallel()
          .forEach(i -> assertThat(lantrel.survey().tables()).isNotEmpty());
    }
    assertThat(seen.ends).hasSameSizeAs(seen.begun).hasSizeGreaterThan(8);
    assertThat(seen.begun.stream().map(SentStatement::number).toList())
        .isEqualTo(numbers(seen.begun.size()));
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

  /** Joins that lose rows, and joins that lose none, in each order. */
  private static final List<String> FROM =
      List.of(
          "reading d JOIN station s ON s.id = d.station_id JOIN river r ON r.id = s.river_id",
          "reading d LEFT JOIN station s ON s.id = d.station_id LEFT JOIN river r ON r.id ="
              + " s.river_id",
          "reading d JOIN station s ON s.id = d.station_id LEFT JOIN river r ON r.id = s.river_id"
              + " JOIN warden w ON w.id = s.keeper_id",
          "reading d LEFT JOIN station s ON s.id = d.station_id JOIN river r ON r.id = s.river_id"
              + " LEFT JOIN warden w ON w.id = s.keeper_id JOIN river f ON f.id = r.flows_into",
          "station s JOIN reading d ON d.station_id = s.id JOIN river r ON r.id = s.river_id",
          "river r RIGHT JOIN station s ON s.river_id = r.id JOIN reading d ON d.station_id = s.id");

  /** The last condition of WHERE is that whose rows are looked at. */
  private static final List<String> LAST =
      List.of("d.depth_cm > 100", "s.capacity > 4", "r.name <> 'Tavin'");

  /** The rows named for a condition of WHERE are those that came to it and failed there. */
  @Test(dataProvider = "engines")
  public void whatIsNamedCameToTheCondition(Engine engine) {
    int named = 0;
    try (Lantrel lantrel = Lantrel.connect(RiverDatabases.access(engine))) {
      for (String from : FROM) {
        for (String before : List.of("", "d.id > 3 AND s.bank <> 'W' AND ")) {
          for (String last : LAST) {
            named += compare(lantrel, "SELECT d.id FROM " + from + " WHERE " + before, last);
          }
        }
      }
    }
    assertThat(named).isGreaterThan(FROM.size() * LAST.size());
  }

  /** How many rows were named, and found to be the right ones. */
  private static int compare(Lantrel lantrel, String select, String last) {
    Study study = lantrel.study(select + last);
    int step = study.ledger(Naming.some(0)).entries().size();
    Entry where = study.ledger(Naming.of(Figure.DROPPED, step)).entries().get(step - 1);
    String column = last.substring(0, last.indexOf(' '));
    int named = 0;
    for (Cause cause : where.change(Figure.DROPPED).orElseThrow().causes()) {
      if (cause.reason().startsWith(column)) {
        boolean unknown = cause.reason().contains(" is unknown");
        List<String> expected =
            lantrel
                .study(select + (unknown ? column + " IS NULL" : "NOT (" + last + ")"))
                .result(1_000)
                .rows()
                .stream()
                .map(row -> String.valueOf(row.get(0)))
                .toList();
        assertThat(cause.examples().stream().map(WatchedStatementsTest::reading))
            .as(select + last + " " + cause)
            .containsExactlyInAnyOrderElementsOf(expected);
        named += expected.size();
      }
    }
    return named;
  }

  private static String reading(NamedRow row) {
    return Stream.concat(Stream.of(row), row.with().stream())
        .filter(each -> each.table().equals("reading"))
        .map(each -> String.valueOf(each.values().get(0)))
        .findFirst()
        .orElseThrow();
  }

  private static long dropped(Lantrel lantrel, String sql) {
    return lantrel.study(sql).ledger().entries().get(3).rows(Figure.DROPPED);
  }
}
