package io.lantrel.engine;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.lantrel.Lantrel;
import io.lantrel.Rewriting;
import io.lantrel.RiverWatchFolder;
import io.lantrel.Scratch;
import io.lantrel.Study;
import io.lantrel.catalog.Reference;
import io.lantrel.rewrite.RewriteException;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Instant;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import java.util.concurrent.CompletableFuture;
import org.jspecify.annotations.Nullable;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Trino, whose tables lie on several workers: what is true of no other engine. */
public class ClusterTest {

  private static final String CLEAN =
      "SELECT s.name AS station, r.name AS river FROM station s LEFT JOIN river r ON r.id ="
          + " s.river_id";

  private static final String LOSING =
      "SELECT s.name AS station, r.name AS river FROM station s JOIN river r ON r.id = s.river_id";

  private @Nullable Lantrel opened;

  @BeforeClass
  public void open() {
    opened = RiverDatabases.open(Engine.TRINO);
  }

  @AfterClass(alwaysRun = true)
  public void close() {
    if (opened != null) {
      opened.close();
    }
  }

  private Lantrel rivers() {
    return Objects.requireNonNull(opened);
  }

  private static Path file(String name, String text) throws IOException {
    Path file = Scratch.folder("cluster").resolve(name);
    Files.writeString(file, text);
    return file;
  }

  /** Each takes a good part of a second there, however few the rows are. */
  @Test
  public void fewStatementsTell() {
    Lantrel lantrel = rivers();
    Study clean = lantrel.study(CLEAN);
    assertThat(clean.findings()).isEmpty();
    assertThat(clean.statementsSent()).isEqualTo(2);
    Study losing = lantrel.study(LOSING);
    assertThat(losing.findings())
        .extracting(each -> each.kind().id())
        .containsExactly("rows-without-partner");
    assertThat(losing.statementsSent()).isLessThanOrEqualTo(5);
    Study account = lantrel.study(LOSING);
    assertThat(account.ledger().result()).isEqualTo(13);
    assertThat(account.statementsSent()).isLessThanOrEqualTo(4);
  }

  /** One statement that is refused ends a transaction there; what comes behind it has another. */
  @Test
  public void aRefusedStatementCostsOnlyItself() {
    Lantrel lantrel = rivers();
    Study study =
        lantrel.study(
            "SELECT CAST(s.name AS INTEGER) AS n FROM station s JOIN river r ON r.id = s.river_id");
    assertThat(study.findings())
        .extracting(finding -> finding.kind().id())
        .containsExactly("does-not-run", "rows-without-partner");
  }

  /** A name, and what is said of it; empty if it is taken. */
  @DataProvider
  static Object[][] names() {
    return new Object[][] {
      {"memory.river_watch.river", ""},
      {"river_watch.river", ""},
      {"\"RIVER\"", ""},
      {"elsewhere.river", "the table elsewhere.river is not among those that were read"},
      {"hive.river_watch.river", "the table hive.river_watch.river is not among those"},
      {"river_watch.rivers", "There is no table"},
      {"system.runtime.nodes", "not among those that were read"},
      {"TABLE(system.query(query => 'DROP TABLE river'))", ""},
    };
  }

  @Test(dataProvider = "names")
  public void tablesAreThoseOfTheCatalog(String name, String said) {
    Lantrel lantrel = rivers();
    Study study = lantrel.study("SELECT COUNT(*) AS n FROM " + name);
    boolean runs = said.isEmpty() && !name.startsWith("TABLE");
    assertThat(study.findings().isEmpty() && study.inspection().refusal().isEmpty())
        .isEqualTo(runs);
    if (!runs) {
      assertThat(study.findings() + " " + study.inspection()).contains(said);
    }
  }

  /** What the transactions of Lantrel hold off, and what a program lends comes back as it was. */
  @Test
  public void nothingIsWritten() throws SQLException {
    try (Connection connection = RiverDatabases.writing(RiverDatabases.access(Engine.TRINO));
        Statement statement = connection.createStatement()) {
      statement.execute("SET SESSION query_max_run_time = '77s'");
      try (Lantrel lantrel = Lantrel.connect(connection)) {
        assertThat(lantrel.study(CLEAN).result().size()).isEqualTo(14);
        assertThat(lantrel.study("DELETE FROM station").findings())
            .extracting(finding -> finding.kind().id())
            .containsExactly("not-a-query");
      }
      assertThat(Product.row(connection, "SHOW SESSION LIKE 'query_max_run_time'")).contains("77s");
      statement.execute(Engine.TRINO.product().beginning());
      assertThatThrownBy(() -> statement.execute("INSERT INTO bank_kind VALUES ('x', 'y')"))
          .hasMessageContaining("read-only transaction");
      statement.execute("ROLLBACK");
    }
  }

  /** It has none of its own, so the rows tell them, or people. */
  @Test
  public void keysAndReferencesComeFromRowsAndPeople() throws IOException {
    Path keys =
        file(
            "keys.sql",
            "ALTER TABLE river ADD PRIMARY KEY (id);\nALTER TABLE station ADD UNIQUE (bank);\n"
                + "ALTER TABLE station ADD PRIMARY KEY (id);\n"
                + "ALTER TABLE station ALTER COLUMN river_id SET NOT NULL;\n"
                + "ALTER TABLE reading ADD FOREIGN KEY (station_id) REFERENCES station (id);\n"
                + "ALTER TABLE station ADD FOREIGN KEY (river_id) REFERENCES river;\n");
    try (Lantrel bare = Lantrel.connect(RiverDatabases.access(Engine.TRINO))) {
      assertThat(bare.catalog().references()).isEmpty();
      assertThat(bare.survey().references())
          .extracting(each -> each.reference().words())
          .contains("station.river_id → river.id", "reading.station_id → station.id");
      Lantrel told = bare.withReferences(keys);
      assertThat(told.catalog().references().stream().map(Reference::words).toList())
          .containsExactly("reading.station_id → station.id", "station.river_id → river.id");
      assertThat(told.notes())
          .anyMatch(each -> each.contains("reading.station_id → station.id does not hold"))
          .anyMatch(each -> each.contains("station.bank is a key: that does not hold"))
          .anyMatch(each -> each.contains("station.river_id is never NULL: that does not hold"));
      assertThat(told.catalog().table("station").orElseThrow().keys()).hasSize(1);
      assertThat(told.catalog().table("river").orElseThrow().keys()).hasSize(1);
      Study study = told.study(CLEAN);
      study.verify("one row per s").assertMet();
    }
  }

  /** A sample of a cluster can be checked without it. */
  @Test
  public void aSampleIsDrawn() throws IOException, SQLException {
    Access few = RiverDatabases.empty(Engine.TRINO, "few");
    try (Connection connection = RiverDatabases.writing(few)) {
      RiverDatabases.run(
          connection,
          "CREATE TABLE river (id INTEGER, name VARCHAR(20))",
          "CREATE TABLE station (id INTEGER, name VARCHAR(20), river_id INTEGER)",
          "INSERT INTO river VALUES (1, 'Ombrel'), (2, 'Tavin'), (3, '')",
          "INSERT INTO station VALUES (1, 'Mill', 1), (2, 'Ford', 1), (3, 'Weir', NULL)");
    }
    Path query = file("losing.sql", LOSING);
    Path folder = Scratch.folder("of-cluster").resolve("rows");
    Answer drawn =
        Answer.to(
            "sample",
            "--db",
            few.url(),
            "--timeout",
            "200",
            "--to",
            folder.toString(),
            query.toString());
    assertThat(drawn.err() + drawn.out()).doesNotContain("\tat ");
    assertThat(drawn.exit()).isEqualTo(0);
    assertThat(drawn.out()).contains("6 of 6 rows");
    Answer checked =
        Answer.to("check", "--data", folder.toString(), "--engine", "trino", query.toString());
    assertThat(checked.out()).contains("1 statement checked");
  }

  /** A worker that ends in the middle of an account: one sentence, and nothing half-told. */
  @Test
  public void aWorkerIsLost() throws IOException, SQLException {
    try (Cluster cluster = Cluster.start()) {
      try (Connection connection =
              RiverDatabases.writing(Access.to(cluster.url()).as("writer", null));
          Statement statement = connection.createStatement()) {
        statement.execute(
            "CREATE TABLE gauge AS SELECT a.n * 1000 + b.n AS id, b.n AS basin FROM"
                + " UNNEST(SEQUENCE(1, 1000)) AS a (n) CROSS JOIN UNNEST(SEQUENCE(1, 1000)) AS b"
                + " (n)");
        statement.execute(
            "CREATE TABLE basin AS SELECT n AS id FROM UNNEST(SEQUENCE(1, 900)) AS t (n)");
      }
      Path query = file("lost.sql", "SELECT g.id FROM gauge g JOIN basin b ON b.id = g.basin");
      String[] ledger = {"ledger", "--db", cluster.url(), "--timeout", "120", query.toString()};
      Answer whole = Answer.to(ledger);
      assertThat(whole.out()).contains("900");
      CompletableFuture<Answer> running = CompletableFuture.supplyAsync(() -> Answer.to(ledger));
      awaitQuery(cluster, "%FROM gauge %");
      cluster.killAWorker();
      Answer cut = running.join();
      Answer after = Answer.to(ledger);
      for (Answer each : List.of(cut, after)) {
        assertThat(each.exit()).as(each.out() + each.err()).isEqualTo(3);
        assertThat(each.out()).isEmpty();
        assertThat(each.err()).contains("Trino").doesNotContain("\tat ");
      }
    }
  }

  /** A query for DuckDB, which another engine has in another way; what is said if it cannot. */
  @DataProvider
  static Object[][] written() {
    String seen = "SELECT g.station_id FROM sighting g WHERE g.seen_on ";
    return new Object[][] {
      {
        "SELECT station_id FROM sighting g NATURAL JOIN (SELECT DISTINCT station_id FROM reading) d",
        ""
      },
      {seen + "> '2026-04-02'", ""},
      {seen + "BETWEEN '2026-04-02' AND '2026-04-20' AND (g.station_id > 3) IS NOT FALSE", ""},
      {seen + "IN ('2026-04-02', '2026-04-03') OR g.station_id IN ('3', '4')", ""},
      {"SELECT id FROM reading ORDER BY depth_cm, id LIMIT 3 OFFSET 2", ""},
      {"SELECT s.id || ': ' || s.name || r.length_km AS t FROM station s JOIN river r ON TRUE", ""},
      {"SELECT LEFT(name, 3) AS a, RIGHT(name, 2) AS b, LEN(name) AS c FROM river", ""},
      {"SELECT CAST(id AS NUMERIC(5, 1)) AS n, depth_cm / 7 AS d FROM reading", ""},
      {"SELECT bank, STRING_AGG(id, '-' ORDER BY id) AS ids FROM station GROUP BY bank", ""},
      {"SELECT id FROM river WHERE name ILIKE 't%' AND (flow > 3) IS TRUE", ""},
      {"SELECT station_id FROM sighting WHERE seen_on - DATE '2026-01-01' > 3", "does not take"},
      {"SELECT DISTINCT ON (bank) bank, id FROM station ORDER BY bank, id", "DISTINCT ON"},
    };
  }

  @Test(dataProvider = "written")
  public void queriesOfOthersGiveTheSameRows(String sql, String said) {
    try (Lantrel here = Lantrel.open(RiverWatchFolder.data())) {
      if (said.isEmpty()) {
        Rewriting rewriting = here.translate(sql, rivers());
        assertThat(rewriting.difference()).as(rewriting.sql()).isEmpty();
        assertThat(rewriting.rows()).as(rewriting.sql() + rewriting.remarks()).isPresent();
      } else {
        assertThatThrownBy(() -> here.translate(sql, rivers()))
            .isInstanceOf(RewriteException.class)
            .hasMessageContaining(said);
      }
    }
  }

  /** Until a query of that text runs. */
  private static void awaitQuery(Cluster cluster, String text) throws SQLException {
    Instant end = Instant.now().plusSeconds(60);
    try (Connection connection =
        RiverDatabases.writing(Access.to(cluster.url()).as("other", null))) {
      String running =
          "SELECT COUNT(*) FROM system.runtime.queries WHERE state = 'RUNNING' AND \"user\" <>"
              + " 'other' AND query LIKE '"
              + text
              + "'";
      while (Product.row(connection, running).equals(List.of("0"))) {
        assertThat(Instant.now()).as("the ledger has begun").isBefore(end);
      }
    }
  }

  /**
   * The limit of time, tables, columns, views, and what to beware of; transactions come besides.
   */
  @Test
  public void toConnectTakesFiveStatements() throws SQLException {
    Access access = RiverDatabases.access(Engine.TRINO).as("counted", null);
    Lantrel.connect(access).close();
    try (Connection connection = RiverDatabases.writing(RiverDatabases.access(Engine.TRINO))) {
      assertThat(
              Product.row(
                  connection,
                  "SELECT COUNT(*) FROM system.runtime.queries WHERE \"user\" = 'counted' AND query"
                      + " NOT IN ('START TRANSACTION READ ONLY', 'ROLLBACK')"))
          .containsExactly("5");
    }
  }

  /** A URL without a catalog would mean all of them. */
  @Test
  public void aUrlNamesACatalog() {
    Answer answer = Answer.to("survey", "--db", "jdbc:trino://localhost:1");
    assertThat(answer.exit()).isEqualTo(3);
    assertThat(answer.err()).contains("it names no catalog; write it behind the host");
  }

  /** Without a schema in the URL, all of them are read, and names say theirs. */
  @Test
  public void aUrlWithoutASchemaMeansAllOfThem() {
    String url = RiverDatabases.access(Engine.TRINO).url().replaceFirst("/[^/]*$", "");
    try (Lantrel lantrel = Lantrel.connect(Access.to(url).as("reader", null))) {
      assertThat(lantrel.study("SELECT COUNT(*) AS n FROM river_watch.river").findings()).isEmpty();
      assertThat(lantrel.study("SELECT COUNT(*) AS n FROM river").findings())
          .extracting(each -> each.kind().id())
          .containsExactly("unknown-table");
      assertThat(
              lantrel
                  .study("SELECT COUNT(*) AS n FROM hive.river_watch.river")
                  .inspection()
                  .refusal())
          .isPresent();
    }
  }

  /** What it lacks is known without it. */
  @Test
  public void queriesAreWrittenForIt() {
    try (Lantrel rivers = Lantrel.open(RiverWatchFolder.data())) {
      String sql =
          "SELECT s.name FROM station s NATURAL JOIN sighting g WHERE g.seen_on > '2026-04-02'"
              + " LIMIT 2 OFFSET 1";
      assertThat(rivers.alsoOn(Set.of(Engine.TRINO)).study(sql).findings())
          .extracting(each -> each.message())
          .anyMatch(each -> each.startsWith("Trino has no NATURAL JOIN"))
          .anyMatch(each -> each.startsWith("Trino has no comparison of a text"))
          .anyMatch(each -> each.startsWith("Trino has no OFFSET behind LIMIT"));
    }
  }
}
