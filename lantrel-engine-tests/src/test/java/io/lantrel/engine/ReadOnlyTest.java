package io.lantrel.engine;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.NoLedgerException;
import io.lantrel.Study;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Whatever is handed to Lantrel, a database only ever gets queries, and is as it was. */
public class ReadOnlyTest {

  private static final List<String> HOSTILE =
      List.of(
          "DELETE FROM precious",
          "SELECT 1; DELETE FROM precious",
          "SELECT 1 AS a; ; DROP TABLE precious; SELECT 2 AS b",
          "WITH d AS (DELETE FROM precious RETURNING *) SELECT * FROM d",
          "WITH d AS (INSERT INTO precious VALUES (9) RETURNING *) SELECT * FROM d",
          "SELECT * FROM (DELETE FROM precious RETURNING *) AS d",
          "SELECT * INTO stolen FROM precious",
          "SELECT id FROM precious INTO OUTFILE '/tmp/lantrel-stolen'",
          "SELECT id INTO OUTFILE '/tmp/lantrel-stolen' FROM precious",
          "SELECT id FROM precious /*; DELETE FROM precious; */",
          "SELECT id FROM precious -- \n; DELETE FROM precious",
          "SELECT 1 /*! ; DELETE FROM precious */",
          "SELECT id FROM precious /*! INTO OUTFILE '/tmp/lantrel-stolen' */",
          "SELECT 1 /*M! ; DELETE FROM precious */",
          "SELECT 1 /* /* */ ; DELETE FROM precious; */ */",
          "SELECT 'a\\'; DELETE FROM precious; -- '",
          "SELECT 'a\\\\'; DELETE FROM precious; -- '",
          "SELECT E'a\\'; DELETE FROM precious; -- '",
          "SELECT $$a'; DELETE FROM precious; -- $$",
          "SELECT $x$ $$ $x$; DELETE FROM precious; -- $$",
          "SELECT \"a\"\"; DELETE FROM precious; -- \"",
          "SELECT `a``; DELETE FROM precious; -- `",
          "SELECT [a]]; DELETE FROM precious; -- ]",
          "SELECT 1 # ' \n; DELETE FROM precious -- '",
          "SELECT write_row(7) FROM precious",
          "SELECT id FROM precious WHERE write_row(7) = 7",
          "SELECT nextval('counter')",
          "SELECT NEXT VALUE FOR counter FROM precious",
          "SELECT NEXTVAL(counter), counter.nextval",
          "SELECT setval('counter', 99)",
          "SELECT lo_import('/etc/hostname'), pg_reload_conf(), pg_terminate_backend(1)",
          "SELECT set_config('transaction_read_only', 'off', false), write_row(7)",
          "SELECT CSVWRITE('/tmp/lantrel-stolen', 'SELECT 1')",
          "SELECT FILE_WRITE('x', '/tmp/lantrel-stolen')",
          "SELECT load_extension('x')",
          "SELECT id FROM precious FOR UPDATE",
          "EXPLAIN ANALYZE DELETE FROM precious",
          "CALL write_row(7)",
          "TRUNCATE TABLE precious",
          "COPY precious TO '/tmp/lantrel-stolen'",
          "PRAGMA writable_schema = ON",
          "SET GLOBAL general_log = 0",
          "FROM precious SELECT id; DELETE FROM precious",
          "VALUES (1); DELETE FROM precious",
          "(SELECT 1); (DELETE FROM precious)",
          "TABLE precious; DELETE FROM precious");

  @DataProvider
  static Object[][] engines() {
    return RiverDatabases.rows();
  }

  @Test(dataProvider = "engines")
  public void nothingChanges(Engine engine) throws SQLException, IOException {
    Access access = RiverDatabases.empty(engine, "read_only");
    try (Connection connection = RiverDatabases.writing(access)) {
      RiverDatabases.run(
          connection,
          "CREATE TABLE precious (id INTEGER PRIMARY KEY)",
          "CREATE TABLE written (id INTEGER)",
          "INSERT INTO precious VALUES (1)",
          "INSERT INTO precious VALUES (2)");
      RiverDatabases.run(connection, writers(engine).toArray(String[]::new));
    }
    Path stolen = Path.of("/tmp/lantrel-stolen");
    assertThat(stolen).doesNotExist();
    long before = engine.isEmbedded() ? 0 : Files.size(Servers.of(engine).log());

    int answered = attack(access);

    assertThat(answered).as("statements that gave rows").isGreaterThan(3);
    assertThat(stolen).doesNotExist();
    if (!engine.isEmbedded()) {
      assertOnlyQueriesArrived(engine, before);
    }
    try (Connection connection = RiverDatabases.writing(access)) {
      assertThat(count(connection, "SELECT COUNT(*) FROM precious")).isEqualTo(2);
      assertThat(count(connection, "SELECT COUNT(*) FROM written")).isZero();
      if (!writers(engine).isEmpty()) {
        assertThat(count(connection, nextOfCounter(engine))).isEqualTo(1);
        assertThat(count(connection, "SELECT write_row(7)")).as("the writer writes").isEqualTo(7);
      }
    }
  }

  /** Runs all of it in every way, as far as it goes, and tells how many queries gave rows. */
  private static int attack(Access access) {
    int answered = 0;
    try (Lantrel lantrel = Lantrel.connect(access)) {
      for (String text : HOSTILE) {
        for (Study study : lantrel.studies(text)) {
          assertThat(study.inspection()).isNotNull();
          try {
            study.ledger();
          } catch (NoLedgerException | DatabaseException refused) {
            assertThat(refused.getMessage()).isNotBlank();
          }
          try {
            answered += study.result().size() > 0 ? 1 : 0;
          } catch (IllegalStateException | DatabaseException refused) {
            assertThat(refused.getMessage()).isNotBlank();
          }
        }
      }
    }
    return answered;
  }

  /** A sequence, and a function that writes a row; what has neither needs no guard. */
  private static List<String> writers(Engine engine) {
    return switch (engine) {
      case POSTGRESQL ->
          List.of(
              "CREATE SEQUENCE counter",
              "CREATE FUNCTION write_row(n INTEGER) RETURNS INTEGER LANGUAGE sql AS"
                  + " 'INSERT INTO written VALUES (n) RETURNING id'");
      case MARIADB ->
          List.of(
              "CREATE SEQUENCE counter",
              "CREATE FUNCTION write_row(n INTEGER) RETURNS INTEGER MODIFIES SQL DATA"
                  + " BEGIN INSERT INTO written VALUES (n); RETURN n; END");
      case H2 ->
          List.of(
              "CREATE SEQUENCE counter",
              "CREATE ALIAS write_row AS 'int write(java.sql.Connection c, int n) throws"
                  + " java.sql.SQLException { c.createStatement().execute(\"INSERT INTO written"
                  + " VALUES (\" + n + \")\"); return n; }'");
      default -> List.of();
    };
  }

  private static String nextOfCounter(Engine engine) {
    return engine == Engine.H2
        ? "SELECT NEXT VALUE FOR counter"
        : "SELECT nextval(" + (engine == Engine.POSTGRESQL ? "'counter'" : "counter") + ")";
  }

  private static long count(Connection connection, String sql) throws SQLException {
    try (Statement statement = connection.createStatement();
        ResultSet rows = statement.executeQuery(sql)) {
      assertThat(rows.next()).isTrue();
      return rows.getLong(1);
    }
  }

  /** What the server itself wrote down, from the moment that Lantrel connected. */
  private static void assertOnlyQueriesArrived(Engine engine, long from) throws IOException {
    Path log = Servers.of(engine).log();
    byte[] bytes = Files.readAllBytes(log);
    String text = new String(bytes, (int) from, bytes.length - (int) from, StandardCharsets.UTF_8);
    Pattern line =
        engine == Engine.POSTGRESQL
            ? Pattern.compile("(?m)^\\[lantrel\\]LOG: +(?:statement|execute [^:]*): (.*)$")
            : Pattern.compile("(?m)^\\S*(?: +\\S+)?\\s+\\d+ (?:Query|Prepare|Execute)\\s+(.*)$");
    // A backslash keeps a text open in MariaDB.
    String texts =
        (engine == Engine.MARIADB ? "'(?:[^'\\\\]|\\\\.|'')*'" : "'(?:[^']|'')*'")
            + "|\"[^\"]*\"|`[^`]*`";
    Matcher arrived = line.matcher(text);
    List<String> others = new ArrayList<>();
    int queries = 0;
    while (arrived.find()) {
      String statement = arrived.group(1);
      boolean query =
          statement.matches(
              "(?is)(?:SET STATEMENT SQL_SELECT_LIMIT=\\d+ FOR |EXPLAIN \\(COSTS OFF\\) )?\\(*(?:SELECT|WITH|VALUES)\\b.*");
      boolean frame =
          statement.matches(
              "(?i)(?:BEGIN READ ONLY|BEGIN|START TRANSACTION READ ONLY|ROLLBACK|"
                  + "SET extra_float_digits = 3|SET application_name = 'lantrel'|"
                  + "SAVEPOINT \"lantrel\"|ROLLBACK TO SAVEPOINT \"lantrel\"|"
                  + "SET SESSION CHARACTERISTICS AS TRANSACTION ISOLATION LEVEL REPEATABLE READ|"
                  + "SET SESSION TRANSACTION ISOLATION LEVEL REPEATABLE READ|"
                  + "SET SESSION CHARACTERISTICS AS TRANSACTION READ ONLY|"
                  + "SET SESSION max_statement_time = \\d+|SET SESSION sql_mode = '[A-Z_,]*'|SET LOCAL search_path = pg_catalog|set autocommit=1|set sql_mode=CONCAT\\(@@sql_mode.*)");
      queries += query ? 1 : 0;
      if (!query && !frame) {
        others.add(statement);
      }
      String outsideOfTexts = statement.replaceAll(texts, "x");
      assertThat(outsideOfTexts).doesNotContain(";").doesNotContainIgnoringCase("DELETE");
    }
    System.out.println(
        engine.title() + " logged " + queries + " queries, and " + others.size() + " others");
    assertThat(queries).isGreaterThan(20);
    assertThat(others).isEmpty();
  }
}
