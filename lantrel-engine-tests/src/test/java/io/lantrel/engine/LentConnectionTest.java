package io.lantrel.engine;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.lantrel.Lantrel;
import io.lantrel.check.Finding;
import io.lantrel.failure.LantrelException;
import java.io.IOException;
import java.lang.reflect.Proxy;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import javax.sql.DataSource;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** A connection or a data source of a program's own: it is read, and is as it was afterwards. */
public class LentConnectionTest {

  private static final String QUERY =
      "SELECT s.name, r.name FROM station s JOIN river r ON r.id = s.river_id";

  @DataProvider
  static Object[][] engines() {
    return RiverDatabases.rows();
  }

  /** What a session is set to, in the product's own words. */
  private static List<String> state(Connection connection, Engine engine) throws SQLException {
    List<String> state = new ArrayList<>();
    state.add("auto-commit " + connection.getAutoCommit());
    state.add("read-only " + connection.isReadOnly());
    state.add("isolation " + connection.getTransactionIsolation());
    String settings =
        switch (engine) {
          case POSTGRESQL ->
              "SELECT current_setting('statement_timeout'), current_setting('search_path'),"
                  + " current_setting('standard_conforming_strings'),"
                  + " current_setting('transaction_read_only'),"
                  + " current_setting('default_transaction_read_only'),"
                  + " current_setting('default_transaction_isolation')";
          case MARIADB ->
              "SELECT @@sql_mode, @@max_statement_time, @@tx_isolation, @@tx_read_only, @@autocommit";
          case SQLITE ->
              "SELECT (SELECT query_only FROM pragma_query_only),"
                  + " (SELECT trusted_schema FROM pragma_trusted_schema)";
          case DUCKDB ->
              "SELECT current_setting('lock_configuration'),"
                  + " current_setting('enable_external_access'), current_setting('memory_limit')";
          default -> "";
        };
    if (!settings.isEmpty()) {
      state.addAll(Product.row(connection, settings));
    }
    return state;
  }

  /** Not as Lantrel would set it, so that it shows if something stays. */
  private static List<String> unusual(Engine engine) {
    return switch (engine) {
      case POSTGRESQL ->
          List.of(
              "SET standard_conforming_strings = off",
              "SET statement_timeout = '77s'",
              "SET search_path = public, pg_catalog");
      case MARIADB ->
          List.of(
              "SET SESSION sql_mode = 'ANSI_QUOTES,PIPES_AS_CONCAT'",
              "SET SESSION max_statement_time = 12.5");
      case SQLITE -> List.of("PRAGMA trusted_schema = ON");
      default -> List.of();
    };
  }

  private static Connection own(Engine engine, String name) throws SQLException, IOException {
    Connection connection = RiverDatabases.writing(RiverDatabases.empty(engine, name));
    RiverDatabases.run(
        connection,
        "CREATE TABLE river (id INTEGER PRIMARY KEY, name VARCHAR(40) NOT NULL)",
        "CREATE TABLE station (id INTEGER PRIMARY KEY, name VARCHAR(40) NOT NULL, river_id INTEGER)",
        "INSERT INTO river VALUES (1, 'Ombrel')",
        "INSERT INTO station VALUES (10, 'Mill', 1)",
        "INSERT INTO station VALUES (11, 'Ford', NULL)");
    return connection;
  }

  @Test(dataProvider = "engines")
  public void aConnectionComesBackAsItWas(Engine engine) throws SQLException, IOException {
    try (Connection connection = own(engine, "lent_whole")) {
      RiverDatabases.run(connection, unusual(engine).toArray(String[]::new));
      if (engine != Engine.DUCKDB) {
        connection.setTransactionIsolation(Connection.TRANSACTION_SERIALIZABLE);
      }
      List<String> before = state(connection, engine);
      try (Lantrel lantrel = Lantrel.connect(connection)) {
        assertThat(lantrel.study(QUERY).findings())
            .extracting(finding -> finding.kind().id())
            .containsExactly("repeated-label", "rows-without-partner");
        assertThat(lantrel.study(QUERY).ledger().result()).isEqualTo(1);
        assertThat(lantrel.study("SELECT nothing FROM station").findings()).hasSize(1);
      }
      assertThat(connection.isClosed()).isFalse();
      assertThat(state(connection, engine)).isEqualTo(before);
      RiverDatabases.run(connection, "INSERT INTO station VALUES (12, 'Weir', 1)");
    }
  }

  @Test(dataProvider = "engines")
  public void aTransactionIsNotEnded(Engine engine) throws SQLException, IOException {
    try (Connection connection = own(engine, "lent_half")) {
      connection.setAutoCommit(false);
      RiverDatabases.run(connection, "INSERT INTO river VALUES (2, 'Tavin')");
      assertThatThrownBy(() -> Lantrel.connect(connection))
          .isInstanceOf(LantrelException.class)
          .hasMessageContaining("auto-commit is off");
      assertThat(Product.row(connection, "SELECT COUNT(*) FROM river")).containsExactly("2");
      connection.rollback();
    }
  }

  @Test(dataProvider = "engines")
  public void aDataSourceGetsItsConnectionBack(Engine engine) throws SQLException {
    List<Connection> given = new ArrayList<>();
    try (Lantrel lantrel = Lantrel.connect(source(engine, given))) {
      assertThat(lantrel.engine()).startsWith(engine.title());
      assertThat(lantrel.study(QUERY).result().size()).isPositive();
    }
    assertThat(given).hasSize(1);
    assertThat(given.get(0).isClosed()).isTrue();
  }

  private static DataSource source(Engine engine, List<Connection> given) {
    return (DataSource)
        Proxy.newProxyInstance(
            LentConnectionTest.class.getClassLoader(),
            new Class<?>[] {DataSource.class},
            (proxy, method, arguments) -> {
              if (!method.getName().equals("getConnection")) {
                throw new UnsupportedOperationException(method.getName());
              }
              given.add(RiverDatabases.writing(RiverDatabases.access(engine)));
              return given.get(given.size() - 1);
            });
  }

  @Test
  public void aConnectionThatIsClosedIsTold() throws SQLException, IOException {
    Connection connection = own(Engine.H2, "lent_closed");
    connection.close();
    assertThatThrownBy(() -> Lantrel.connect(connection))
        .isInstanceOf(DatabaseException.class)
        .hasMessageStartingWith("cannot read through this connection: ");
  }

  /** Several threads share what was opened, each with studies of its own. */
  @Test(dataProvider = "engines")
  public void threadsShareIt(Engine engine) throws Exception {
    try (Lantrel lantrel = RiverDatabases.open(engine)) {
      List<String> alone = looked(lantrel);
      ExecutorService threads = Executors.newFixedThreadPool(6);
      try {
        List<Callable<List<String>>> work = new ArrayList<>();
        for (int i = 0; i < 24; i++) {
          work.add(() -> looked(lantrel));
        }
        for (Future<List<String>> each : threads.invokeAll(work)) {
          assertThat(each.get()).isEqualTo(alone);
        }
      } finally {
        threads.shutdown();
      }
    }
  }

  private static List<String> looked(Lantrel lantrel) {
    List<String> told = new ArrayList<>();
    for (String condition : List.of("r.id = s.river_id", "r.id = s.id", "r.id < s.river_id")) {
      String sql = "SELECT s.name, r.name FROM station s JOIN river r ON " + condition;
      lantrel.study(sql).findings().stream().map(Finding::message).forEach(told::add);
      told.add(lantrel.study(sql).ledger().entries().toString());
    }
    return told;
  }
}
