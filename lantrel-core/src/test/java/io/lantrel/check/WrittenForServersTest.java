package io.lantrel.check;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.lantrel.Lantrel;
import io.lantrel.RiverWatchFolder;
import io.lantrel.Scratch;
import io.lantrel.Study;
import io.lantrel.engine.DatabaseException;
import io.lantrel.engine.Engine;
import io.lantrel.engine.Limits;
import io.lantrel.sql.Dialect;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.IntStream;
import org.testng.annotations.AfterClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Queries written for a server, on sample data that only DuckDB can hold. */
public class WrittenForServersTest {

  private static final List<Engine> SERVERS = List.of(Engine.POSTGRESQL, Engine.MARIADB);

  /** Of a hundred queries so many may have something that DuckDB does not take, or the server. */
  private static final int NOT_TAKEN_PER_CENT = 12;

  private final Map<Engine, Lantrel> open =
      Map.of(
          Engine.POSTGRESQL, openFor(Engine.POSTGRESQL, RiverWatchFolder.data()),
          Engine.MARIADB, openFor(Engine.MARIADB, RiverWatchFolder.data()));

  private static Lantrel openFor(Engine engine, Path folder) {
    return Lantrel.openFor(engine, folder, Limits.usual());
  }

  @AfterClass
  void close() {
    open.values().forEach(Lantrel::close);
  }

  @DataProvider
  static Object[][] servers() {
    return SERVERS.stream().map(each -> new Object[] {each}).toArray(Object[][]::new);
  }

  private Lantrel of(Engine server) {
    return Objects.requireNonNull(open.get(server));
  }

  @Test(dataProvider = "servers")
  public void faultsAreFoundAsOnTheServer(Engine server) {
    List<String> missed = new ArrayList<>();
    List<Case> notTaken = new ArrayList<>();
    List<Case> cases = some(Case.faulty(), server);
    for (Case faulty : cases) {
      Study study = of(server).study(faulty.sql());
      boolean found =
          study.findings().stream()
              .anyMatch(
                  each ->
                      each.kind().id().equals(faulty.kind())
                          && each.place().start() == faulty.start()
                          && each.place().end() == faulty.end());
      if (!found && (!study.inspection().isComplete() || isOr(faulty, server))) {
        notTaken.add(faulty);
      } else if (!found) {
        missed.add(faulty + "\n  " + study.findings());
      }
    }
    assertThat(missed).isEmpty();
    assertThat(notTaken.size() * 100 / cases.size())
        .as("%s", notTaken)
        .isLessThanOrEqualTo(NOT_TAKEN_PER_CENT);
  }

  @Test(dataProvider = "servers")
  public void correctQueriesHaveNoWarning(Engine server) {
    List<String> warned = new ArrayList<>();
    List<Case> notTaken = new ArrayList<>();
    List<Case> cases = some(Case.innocent(), server);
    for (Case innocent : cases) {
      Study study = of(server).study(innocent.sql());
      boolean lacking =
          study.findings().stream().anyMatch(each -> each.kind() == Kind.NOT_IN_ENGINE);
      study.findings().stream()
          .filter(each -> each.severity() != Severity.NOTE)
          .filter(each -> !lacking && !isOr(innocent, server))
          .forEach(each -> warned.add(innocent.sql() + "\n  " + each.kind() + each.message()));
      if (lacking || !study.inspection().isComplete()) {
        notTaken.add(innocent);
      }
    }
    assertThat(warned).isEmpty();
    assertThat(notTaken.size() * 100 / cases.size())
        .as("%s", notTaken)
        .isLessThanOrEqualTo(NOT_TAKEN_PER_CENT);
  }

  /** All are run on the servers themselves; here every third will do, others for each. */
  private static List<Case> some(List<Case> all, Engine server) {
    return IntStream.range(0, all.size())
        .filter(each -> each % 3 == server.ordinal() % 3)
        .mapToObj(all::get)
        .toList();
  }

  /** In MariaDB the bars are OR. */
  private static boolean isOr(Case each, Engine server) {
    return server == Engine.MARIADB && each.sql().contains("||");
  }

  @DataProvider
  static Object[][] lacks() {
    return new Object[][] {
      {Engine.POSTGRESQL, "SELECT IFNULL(capacity, 0) FROM station", "no function IFNULL"},
      {Engine.POSTGRESQL, "SELECT id FROM station ORDER BY id LIMIT 2, 3", "LIMIT with a comma"},
      {Engine.MARIADB, "SELECT id::text FROM station", "MariaDB has no ::"},
      {Engine.MARIADB, "SELECT 1 FROM station s FULL JOIN river r ON r.id = s.id", "FULL JOIN"},
    };
  }

  @Test(dataProvider = "lacks")
  public void whatTheServerLacksIsTold(Engine server, String sql, String words) {
    assertThat(of(server).study(sql).findings())
        .filteredOn(each -> each.kind() == Kind.NOT_IN_ENGINE)
        .singleElement()
        .satisfies(each -> assertThat(each.message()).contains(words));
    assertThat(of(server).tablesAlone(server.dialect()).study(sql).findings())
        .anyMatch(each -> each.kind() == Kind.NOT_IN_ENGINE);
  }

  @DataProvider
  static Object[][] refused() {
    return new Object[][] {
      {
        Dialect.POSTGRESQL,
        "SELECT name FROM river FETCH FIRST 3 ROWS WITH TIES",
        Kind.UNORDERED_LIMIT,
        "FETCH FIRST 3 ROWS WITH TIES",
        "SELECT name FROM river ORDER BY river.id FETCH FIRST 3 ROWS WITH TIES"
      },
      {
        Dialect.MARIADB,
        "SELECT name FROM river FETCH FIRST 3 ROWS WITH TIES",
        Kind.UNORDERED_LIMIT,
        "FETCH FIRST 3 ROWS WITH TIES",
        "SELECT name FROM river ORDER BY river.id FETCH FIRST 3 ROWS WITH TIES"
      },
      {
        Dialect.POSTGRESQL,
        "SELECT station.bank FROM (river JOIN station ON station.river_id = river.id) AS x",
        Kind.HIDDEN_BY_ALIAS,
        "station",
        "SELECT x.bank FROM (river JOIN station ON station.river_id = river.id) AS x"
      },
      {
        Dialect.POSTGRESQL,
        "SELECT x.flow FROM (river r CROSS JOIN bank_kind) AS x WHERE EXISTS"
            + " (SELECT 1 FROM station s WHERE s.river_id = r.flows_into)",
        Kind.HIDDEN_BY_ALIAS,
        "r",
        "SELECT x.flow FROM (river r CROSS JOIN bank_kind) AS x WHERE EXISTS"
            + " (SELECT 1 FROM station s WHERE s.river_id = x.flows_into)"
      },
      {
        Dialect.POSTGRESQL,
        "SELECT r.flow FROM (warden w JOIN (river r CROSS JOIN bank_kind) q ON w.id = q.id) AS x",
        Kind.HIDDEN_BY_ALIAS,
        "r",
        "SELECT x.flow FROM (warden w JOIN (river r CROSS JOIN bank_kind) q ON w.id = q.id) AS x"
      },
      {
        Dialect.POSTGRESQL,
        "SELECT id FROM river WHERE id = -1 AND 2 !=-1 AND nam !~ 'x'",
        Kind.UNKNOWN_COLUMN,
        "nam",
        "SELECT id FROM river WHERE id = -1 AND 2 !=-1 AND name !~ 'x'"
      },
      {
        Dialect.H2,
        "SELECT w.id FROM warden w JOIN river r ON r.id = w.id JOIN station s USING (name)",
        Kind.UNKNOWN_COLUMN,
        "name",
        "SELECT w.id FROM warden w JOIN river r ON r.id = w.id JOIN station s ON r.name = s.name"
      },
      {
        Dialect.H2,
        "SELECT r.name FROM station s JOIN river r ON river_id = r.id LEFT JOIN station t ON s.id = t.id",
        Kind.AMBIGUOUS_COLUMN,
        "river_id",
        "SELECT r.name FROM station s JOIN river r ON s.river_id = r.id LEFT JOIN station t ON s.id = t.id"
      },
      {
        Dialect.H2,
        "SELECT s.id FROM river r, warden w LEFT JOIN station s ON s.river_id = r.id AND s.keeper_id = w.id",
        Kind.NOT_VISIBLE_YET,
        "r.id",
        "SELECT s.id FROM river r CROSS JOIN warden w LEFT JOIN station s ON s.river_id = r.id AND"
            + " s.keeper_id = w.id"
      },
      {
        Dialect.HSQLDB,
        "SELECT g.head_count FROM reading d JOIN sighting g ON g.station_id = d.station_id"
            + " JOIN (SELECT station_id FROM reading) x USING (station_id)",
        Kind.AMBIGUOUS_COLUMN,
        "station_id",
        "SELECT g.head_count FROM reading d JOIN sighting g ON g.station_id = d.station_id"
            + " JOIN (SELECT station_id FROM reading) x ON d.station_id = x.station_id"
      },
    };
  }

  @Test(dataProvider = "refused")
  public void whatAnEngineRefusesIsMended(
      Dialect engine, String sql, Kind kind, String place, String mended) {
    assertThat(of(Engine.POSTGRESQL).tablesAlone(engine).study(sql).findings())
        .filteredOn(each -> each.severity() == Severity.ERROR)
        .singleElement()
        .satisfies(
            each -> {
              assertThat(each.kind()).isEqualTo(kind);
              assertThat(sql.substring(each.place().start(), each.place().end())).isEqualTo(place);
              assertThat(each.repair()).map(Repair::sql).hasValue(mended);
            });
  }

  @DataProvider
  static Object[][] groupedByAggregate() {
    return new Object[][] {
      {Dialect.POSTGRESQL, "SELECT bank, MAX(name) AS longest FROM station GROUP BY 1, 2"},
      {Dialect.DUCKDB, "SELECT bank, MAX(name) AS longest FROM station GROUP BY bank, longest"},
      {Dialect.HSQLDB, "SELECT bank, MAX(name) AS longest FROM station GROUP BY bank, longest"},
      {Dialect.SQLITE, "SELECT MAX(name) FROM station GROUP BY MAX(name)"},
    };
  }

  @Test(dataProvider = "groupedByAggregate")
  public void noGroupIsMadeByItsOwnFigure(Dialect engine, String sql) {
    assertThat(of(Engine.POSTGRESQL).tablesAlone(engine).study(sql).findings())
        .filteredOn(each -> each.severity() == Severity.ERROR)
        .singleElement()
        .satisfies(
            each -> {
              assertThat(each.kind()).isEqualTo(Kind.AGGREGATE_IN_WHERE);
              assertThat(each.message())
                  .contains("MAX(name)")
                  .endsWith("leave it out of GROUP BY.");
            });
  }

  /** It may be right on the server, so it is no error; and nothing is kept back. */
  @Test
  public void whatTheHolderDoesNotTakeIsNotChecked() {
    for (String sql :
        List.of(
            "SELECT to_char(d.taken_at, 'YYYY') FROM reading d JOIN station s ON s.id = d.id",
            "SELECT CAST(s.name AS INTEGER) FROM reading d JOIN station s ON s.id = d.id")) {
      Inspection inspection = of(Engine.POSTGRESQL).study(sql).inspection();
      assertThat(inspection.isComplete()).isFalse();
      assertThat(inspection.refusal()).isEmpty();
      assertThat(inspection.unchecked())
          .singleElement()
          .satisfies(each -> assertThat(each).startsWith("DuckDB").contains("has the rows here"));
      assertThat(inspection.findings()).extracting(Finding::kind).contains(Kind.NOT_A_REFERENCE);
      assertThat(inspection.findings()).extracting(Finding::kind).doesNotContain(Kind.DOES_NOT_RUN);
    }
  }

  /** What may run is decided by the rules of the engine that runs it. */
  @Test
  public void nothingRunsThatOnlyTheServerKnowsToBeHarmless() {
    Study study = of(Engine.MARIADB).study("SELECT * FROM read_text('schema.sql')");
    assertThatThrownBy(study::result).isInstanceOf(DatabaseException.class);
    assertThat(study.inspection().isComplete()).isFalse();
  }

  /** The schema is in the SQL of the server, with its types and its quotes. */
  @Test
  public void theSchemaIsReadAsTheServerDoes() throws IOException {
    Path folder = Scratch.folder("written-for");
    Files.writeString(
        folder.resolve("schema.sql"),
        "CREATE TABLE `weir log` (`id` INT AUTO_INCREMENT PRIMARY KEY, note TEXT, at DATETIME)"
            + " ENGINE=InnoDB;");
    Files.writeString(
        folder.resolve("weir log.csv"), "id,note,at\n1,\"high\",2026-03-01 10:00:00\n2,,\n");
    try (Lantrel lantrel = openFor(Engine.MARIADB, folder)) {
      assertThat(lantrel.notes()).anyMatch(each -> each.contains("judged by the rules of MariaDB"));
      assertThat(lantrel.catalog().dialect()).isEqualTo(Dialect.MARIADB);
      Study study = lantrel.study("SELECT `note` FROM `weir log` WHERE note = \"high\"");
      assertThat(study.inspection().isComplete()).isTrue();
      assertThat(study.result().size()).isEqualTo(1);
      assertThat(study.ledger().entries()).isNotEmpty();
    }
  }

  /** Where sample data can be loaded into the engine itself, it is. */
  @Test
  public void anEmbeddedEngineHoldsItsOwn() {
    try (Lantrel lantrel = openFor(Engine.H2, RiverWatchFolder.data())) {
      assertThat(lantrel.engine()).startsWith("H2");
      assertThat(lantrel.notes()).isEmpty();
    }
  }
}
