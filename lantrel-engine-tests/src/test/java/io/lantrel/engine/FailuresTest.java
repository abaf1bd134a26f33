package io.lantrel.engine;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import io.lantrel.Lantrel;
import io.lantrel.Scratch;
import io.lantrel.engine.DatabaseException.Reason;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CompletableFuture;
import java.util.stream.Stream;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** A database that fails is told as it is, in a sentence, and with exit code 3. */
public class FailuresTest {

  /** Enough rows for any engine to take more than a second. */
  private static final String LONG =
      "SELECT COUNT(*) AS n FROM reading a CROSS JOIN reading b CROSS JOIN reading c"
          + " CROSS JOIN reading d CROSS JOIN reading e CROSS JOIN reading f CROSS JOIN reading g"
          + " WHERE MOD(a.id * b.id + c.id * d.id + e.id * f.id + g.id, 97) = 98";

  @DataProvider
  static Object[][] engines() {
    return RiverDatabases.rows();
  }

  @DataProvider
  static Object[][] unreachable() {
    return new Object[][] {
      {"jdbc:postgresql://localhost:1/rivers"},
      {"jdbc:mariadb://localhost:1/rivers"},
      {"jdbc:trino://localhost:1/memory/rivers"},
      {"jdbc:h2:tcp://localhost:1/rivers"},
      {"jdbc:hsqldb:hsql://localhost:1/rivers"},
      {"jdbc:sqlite:FOLDER/rivers.db"},
      {"jdbc:duckdb:FOLDER/rivers.duckdb"},
      {"jdbc:h2:file:FOLDER/rivers"},
      {"jdbc:hsqldb:file:FOLDER/rivers"},
      {"jdbc:nosuch://localhost/rivers"},
      {"jdbc:mariadb://localhost:/rivers"},
      {"jdbc:mariadb:"},
      {"jdbc:postgresql://localhost:port/rivers"},
      {"jdbc:h2"},
    };
  }

  /** And none is made where there is none. */
  @Test(dataProvider = "unreachable")
  public void noDatabase(String pattern) throws IOException {
    Path folder = Scratch.folder("no-database");
    String url = pattern.replace("FOLDER", folder.toString());
    Answer answer = Answer.to("survey", "--db", url);
    assertThat(answer.err()).startsWith("lantrel: cannot connect to " + url + ": ");
    assertThat(answer.err().lines()).hasSize(1);
    assertThat(answer.exit()).isEqualTo(3);
    try (Stream<Path> made = Files.list(folder)) {
      assertThat(made).isEmpty();
    }
  }

  @Test(dataProvider = "engines")
  public void stopsWhatTakesTooLong(Engine engine) throws IOException {
    Path query = Files.writeString(Scratch.file("long", ".sql"), LONG);
    List<String> arguments = new ArrayList<>(List.of("ledger", "--timeout", "1", query.toString()));
    arguments.addAll(RiverDatabases.options(engine));
    Answer answer = Answer.to(arguments.toArray(String[]::new));
    assertThat(answer.err()).contains(engine.title() + " was stopped after 1 second");
    assertThat(answer.exit()).isEqualTo(3);
  }

  @Test(dataProvider = "engines")
  public void stopsWhenItIsTold(Engine engine) throws InterruptedException {
    try (Lantrel lantrel = Lantrel.connect(RiverDatabases.access(engine))) {
      Thread stopper =
          new Thread(
              () -> {
                sleep();
                lantrel.cancel();
              });
      stopper.start();
      DatabaseException stopped =
          catchThrowableOfType(DatabaseException.class, () -> lantrel.study(LONG).result());
      assertThat(stopped.reason()).isEqualTo(Reason.CANCELLED);
      stopper.join();
      assertThatThrownBy(() -> lantrel.study("SELECT id FROM river").result())
          .isInstanceOf(DatabaseException.class);
    }
  }

  private static void sleep() {
    try {
      Thread.sleep(Duration.ofMillis(700).toMillis());
    } catch (InterruptedException early) {
      Thread.currentThread().interrupt();
    }
  }

  @Test
  public void saysThatTheUserMayNot() throws SQLException, IOException {
    Access owner = RiverDatabases.empty(Engine.POSTGRESQL, "guarded");
    try (Connection connection = RiverDatabases.writing(owner)) {
      RiverDatabases.run(
          connection,
          "CREATE TABLE secret (id INTEGER PRIMARY KEY)",
          "DROP ROLE IF EXISTS visitor",
          "CREATE ROLE visitor LOGIN");
    }
    Path query = Files.writeString(Scratch.file("q", ".sql"), "SELECT id FROM secret");
    Answer answer = Answer.to("check", "--db", owner.url(), "--user", "visitor", query.toString());
    assertThat(answer.out().replaceAll("\\s+", " "))
        .contains("PostgreSQL does not permit it: permission denied for table secret");
    assertThat(answer.exit()).isEqualTo(3);
    assertThat(Answer.to("survey", "--db", owner.url(), "--user", "nobody_here").err())
        .contains("role \"nobody_here\" does not exist");
  }

  /** The one wall that is not Lantrel's: a user who may only read. */
  @Test
  public void tellsWhoMayDoMoreThanRead() throws SQLException, IOException {
    Access owner = RiverDatabases.empty(Engine.POSTGRESQL, "owned");
    try (Connection connection = RiverDatabases.writing(owner)) {
      RiverDatabases.run(
          connection,
          "CREATE TABLE t (id INTEGER PRIMARY KEY)",
          "DROP ROLE IF EXISTS writer",
          "DROP ROLE IF EXISTS looker",
          "CREATE ROLE writer LOGIN",
          "CREATE ROLE looker LOGIN",
          "GRANT SELECT, INSERT ON t TO writer",
          "GRANT SELECT ON t TO looker");
    }
    assertThat(Answer.to("survey", "--db", owner.url(), "--user", "postgres").err())
        .startsWith("lantrel: note: the user postgres is a superuser; for reading it is enough")
        .contains("GRANT SELECT ON ALL TABLES IN SCHEMA public TO reader");
    assertThat(Answer.to("survey", "--db", owner.url(), "--user", "writer").err())
        .startsWith("lantrel: note: the user writer may change rows; ");
    assertThat(Answer.to("survey", "--db", owner.url(), "--user", "looker").err()).isEmpty();
    assertThat(notes(Engine.H2)).contains("the user OWNER is an administrator");
    assertThat(notes(Engine.HSQLDB)).contains("the user SA is an administrator");
    assertThat(notes(Engine.MARIADB)).contains("GRANT SELECT, SHOW VIEW ON");
  }

  private static String notes(Engine engine) {
    try (Lantrel lantrel = Lantrel.connect(RiverDatabases.access(engine))) {
      return String.join("\n", lantrel.notes());
    }
  }

  @DataProvider
  static Object[][] servers() {
    return new Object[][] {
      {Engine.POSTGRESQL, "check", "checked"},
      {Engine.MARIADB, "check", "checked"},
      {Engine.POSTGRESQL, "ledger", "accounted for"},
    };
  }

  @Test(dataProvider = "servers")
  public void aLostConnectionTellsWhatHadBeenDone(Engine engine, String command, String done)
      throws IOException {
    Path queries =
        Files.writeString(
            Scratch.file("queries", ".sql"),
            "SELECT id FROM river; SELECT id FROM station; " + LONG + "; SELECT id FROM warden");
    Answer answer = whileKilled(engine, 3, command, queries.toString());
    assertThat(answer.err())
        .contains("the connection to " + engine.title() + " was lost: ")
        .contains("; 2 of 4 statements were " + done);
    assertThat(answer.out())
        .contains(command.equals("check") ? "2 statements checked" : "station  ");
    assertThat(answer.exit()).isEqualTo(3);
  }

  /** Those that were not come to are not left out without a word. */
  @Test
  public void aLostConnectionTellsInJsonWhatHasNoAnswer() throws IOException {
    Path queries =
        Files.writeString(
            Scratch.file("queries", ".sql"),
            "SELECT id FROM river; SELECT id FROM nowhere; "
                + LONG
                + "; SELECT id FROM warden; SELECT id FROM river");
    Answer answer =
        whileKilled(Engine.POSTGRESQL, 3, "rows", queries.toString(), "--format", "json");
    List<JsonNode> failed = new ArrayList<>();
    JsonNode json = new ObjectMapper().readTree(answer.out());
    json.get("failed").forEach(failed::add);
    assertThat(json.get("statements")).hasSize(1);
    assertThat(failed)
        .extracting(each -> each.get("statement").asInt())
        .containsExactly(2, 3, 4, 5);
    assertThat(failed.get(0).get("reason").asText()).contains("there is no table nowhere");
    assertThat(failed.subList(1, 4))
        .extracting(each -> each.get("reason").asText())
        .allMatch(reason -> reason.contains("the connection to PostgreSQL was lost"));
    assertThat(answer.exit()).isEqualTo(3);
  }

  /** What is answered when the connection is lost after some seconds. */
  private static Answer whileKilled(Engine engine, int seconds, String... call) {
    List<String> arguments = new ArrayList<>(List.of(call));
    arguments.addAll(RiverDatabases.options(engine));
    CompletableFuture<Answer> answer =
        CompletableFuture.supplyAsync(() -> Answer.to(arguments.toArray(String[]::new)));
    try (Connection other = RiverDatabases.writing(RiverDatabases.access(engine))) {
      Thread.sleep(Duration.ofSeconds(seconds).toMillis());
      kill(other, engine);
    } catch (SQLException | InterruptedException failure) {
      throw new AssertionError(failure);
    }
    return answer.join();
  }

  /** What had been verified is told, and what had not, each query for itself. */
  @Test(dataProvider = "engineNames")
  public void aLostConnectionLeavesTheOtherQueriesTold(Engine engine) throws IOException {
    Path folder = Scratch.folder("verified");
    Files.writeString(folder.resolve("a.sql"), "-- claim: 12 rows\nSELECT id FROM river");
    Files.writeString(folder.resolve("b.sql"), "-- claim: 3 rows\n" + LONG);
    Files.writeString(folder.resolve("c.sql"), "-- claim: one row per id\nSELECT id FROM warden");
    Answer answer = whileKilled(engine, 4, "verify", "--fail-on", "none", folder.toString());
    String out = answer.out();
    // Those that had their turn before are fine, the others are open; none fails.
    assertThat(out).contains("a.sql", "b.sql  open", "c.sql");
    assertThat(out).contains("the connection to " + engine.title() + " was lost");
    assertThat(out).contains("3 queries").containsPattern("(is|are) open\\.");
    assertThat(out).doesNotContain("fails");
    assertThat(answer.exit()).isEqualTo(3);
  }

  @DataProvider
  static Object[][] engineNames() {
    return new Object[][] {{Engine.POSTGRESQL}, {Engine.MARIADB}};
  }

  private static void kill(Connection other, Engine engine) throws SQLException {
    if (engine == Engine.POSTGRESQL) {
      RiverDatabases.run(
          other,
          "SELECT pg_terminate_backend(pid) FROM pg_stat_activity"
              + " WHERE application_name = 'lantrel'");
      return;
    }
    try (var statement = other.createStatement();
        var rows =
            statement.executeQuery(
                "SELECT id FROM information_schema.processlist"
                    + " WHERE db = 'river_watch' AND id <> CONNECTION_ID()")) {
      while (rows.next()) {
        RiverDatabases.run(other, "KILL " + rows.getLong(1));
      }
    }
  }

  @DataProvider
  static Object[][] wrongCalls() {
    return new Object[][] {
      {new String[] {"--db", "rivers.db"}, "--db: a database is named by its JDBC URL"},
      {
        new String[] {"--db", "jdbc:postgresql://h/d?user=a&password=b"}, "the URL holds a password"
      },
      {new String[] {"--db", "jdbc:postgresql://a:b@h/d"}, "the URL holds a password"},
      {
        new String[] {"--db", "jdbc:h2:mem:x;INIT=RUNSCRIPT FROM 'x'"},
        "the setting INIT of the URL"
      },
      {new String[] {"--db", "jdbc:sqlite:x", "--timeout", "0"}, "--timeout takes a whole number"},
      {new String[] {"--db", "jdbc:sqlite:x", "--timeout", "x"}, "'x' is not a whole number"},
      {new String[] {"--db", "jdbc:sqlite:x", "--engine", "sqlite"}, "--engine goes with --data"},
      {new String[] {"--db", "jdbc:sqlite:x", "--data", "x"}, "only one can be given"},
      {new String[] {"--data", "x", "--user", "me"}, "--user goes with --db"},
      {new String[] {"--data", "x", "--engine", "sqlit"}, "close to it: sqlite"},
      {new String[] {"--schema", "x.sql"}, "a schema alone has no rows"},
      {new String[] {}, "where are the tables?"},
    };
  }

  @Test(dataProvider = "wrongCalls")
  public void wrongCallsAreToldInASentence(String[] options, String message) {
    List<String> arguments = new ArrayList<>(List.of("survey"));
    arguments.addAll(List.of(options));
    Answer answer = Answer.to(arguments.toArray(String[]::new));
    assertThat(answer.err()).contains(message);
    assertThat(answer.exit()).isEqualTo(2);
  }

  @Test
  public void sampleDataGoesIntoNoServer() {
    assertThatThrownBy(() -> Lantrel.open(Path.of("x"), Engine.MARIADB))
        .isInstanceOf(DataException.class)
        .hasMessageStartingWith("MariaDB is a server, which Lantrel only reads");
  }
}
