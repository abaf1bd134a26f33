package io.lantrel.engine;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.ledger.Entry;
import io.lantrel.ledger.Ledger;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.Future;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.concurrent.atomic.AtomicInteger;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Somebody writes all the time, and every account still agrees with itself. */
public class SnapshotTest {

  private static final int LEDGERS = Integer.getInteger("lantrel.snapshots", 60);

  /** So many parts are there at a time. */
  private static final int KEPT = 200;

  /** First it is asked whether any row is lost, and then how many there are. */
  private static final List<String> QUERIES =
      List.of(
          "SELECT c.id FROM piece c JOIN part p ON p.id = c.part_id",
          "SELECT p.name, COUNT(*) AS n FROM part p LEFT JOIN piece c ON c.part_id = p.id AND c.n > 1"
              + " WHERE p.id > 0 GROUP BY p.name");

  @DataProvider
  static Object[][] servers() {
    return new Object[][] {{Engine.POSTGRESQL}, {Engine.MARIADB}};
  }

  @Test(dataProvider = "servers")
  public void everyLedgerBalances(Engine engine) throws Exception {
    Access access = RiverDatabases.empty(engine, "moving");
    AtomicBoolean done = new AtomicBoolean();
    try (Connection connection = RiverDatabases.writing(access)) {
      RiverDatabases.run(
          connection,
          "CREATE TABLE part (id INTEGER PRIMARY KEY, name VARCHAR(20))",
          "CREATE TABLE piece (id INTEGER PRIMARY KEY, part_id INTEGER REFERENCES part (id), n"
              + " INTEGER)");
      connection.setAutoCommit(true);
      AtomicInteger written = new AtomicInteger();
      CompletableFuture<Void> writer =
          CompletableFuture.runAsync(() -> write(connection, written, done));
      Set<String> results = new HashSet<>();
      try (Lantrel lantrel = Lantrel.connect(access)) {
        // A slow writer is waited for; one that has failed is told below.
        for (int i = 0; i < LEDGERS || isBehind(i, written, writer); i++) {
          Ledger ledger = lantrel.study(QUERIES.get(i % 2)).ledger();
          assertThat(ledger.entries()).allMatch(Entry::balances);
          results.add(ledger.entries().toString());
        }
      } finally {
        done.set(true);
      }
      writer.get();
      assertThat(written.get()).as("rows written meanwhile").isGreaterThan(LEDGERS);
      assertThat(results).as("accounts that saw other rows").hasSizeGreaterThan(LEDGERS / 10);
    }
  }

  /** Whether the writer is waited for, which is not for ever. */
  private static boolean isBehind(int ledgers, AtomicInteger written, Future<?> writer) {
    return ledgers < 50 * LEDGERS && written.get() <= LEDGERS && !writer.isDone();
  }

  private static void write(Connection connection, AtomicInteger written, AtomicBoolean done) {
    try {
      while (!done.get()) {
        int n = written.incrementAndGet();
        RiverDatabases.run(
            connection,
            "INSERT INTO part VALUES (" + n + ", 'part " + n % 7 + "')",
            "INSERT INTO piece VALUES (" + 2 * n + ", NULL, " + n % 3 + ")",
            "UPDATE piece SET part_id = " + n + " WHERE id = " + 2 * n,
            "INSERT INTO piece VALUES (" + (2 * n + 1) + ", " + Math.max(1, n - 3) + ", 5)");
        RiverDatabases.run(
            connection,
            "UPDATE piece SET n = 0 WHERE part_id = " + (n - 7),
            "DELETE FROM piece WHERE part_id <= " + (n - KEPT),
            "DELETE FROM part WHERE id <= " + (n - KEPT));
      }
    } catch (SQLException failure) {
      throw new IllegalStateException(failure);
    }
  }
}
