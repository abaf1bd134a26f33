package io.lantrel.ledger;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.NoLedgerException;
import io.lantrel.RiverWatchFolder;
import io.lantrel.Scratch;
import io.lantrel.SentStatements;
import io.lantrel.Study;
import io.lantrel.catalog.Table;
import io.lantrel.check.Case;
import io.lantrel.engine.Access;
import io.lantrel.engine.DatabaseException;
import io.lantrel.engine.Engine;
import io.lantrel.engine.Rows;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.Collections;
import java.util.Iterator;
import java.util.List;
import java.util.Optional;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.testng.annotations.AfterClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/**
 * Of few rows all is asked at once, over all rows with their partners and without; of a database,
 * whose rows may be many, what can be counted without these is. Both must come to the same account.
 * {@code -Dlantrel.every=1} looks at all cases.
 */
public class LedgerOfManyRowsTest {

  private static final int EVERY = Integer.getInteger("lantrel.every", 3);

  private final Lantrel few = Lantrel.open(RiverWatchFolder.data(), Engine.SQLITE);
  private final SentStatements sent = new SentStatements();
  private final Lantrel many = Lantrel.connect(Access.to(copied(few))).watchedBy(sent);

  /** The same tables and rows in a file, which is looked at as a database. */
  private static String copied(Lantrel sample) {
    try {
      Path schema = RiverWatchFolder.data().resolve("schema.sql");
      String url = "jdbc:sqlite:" + Scratch.folder("many").resolve("river-watch.sqlite");
      try (Connection connection = DriverManager.getConnection(url);
          Statement statement = connection.createStatement()) {
        for (String each : Files.readString(schema).split(";\n", -1)) {
          if (each.contains("CREATE")) {
            statement.execute(each);
          }
        }
        for (Table table : sample.catalog().tables()) {
          fill(table, sample.study("SELECT * FROM " + table.name()).result(), connection);
        }
      }
      return url;
    } catch (IOException | SQLException failure) {
      throw new IllegalStateException(failure);
    }
  }

  private static void fill(Table table, Rows rows, Connection connection) throws SQLException {
    String values = String.join(", ", Collections.nCopies(rows.headings().size(), "?"));
    String sql = "INSERT INTO " + table.name() + " VALUES (" + values + ")";
    try (PreparedStatement insert = connection.prepareStatement(sql)) {
      for (List<@Nullable Object> row : rows.rows()) {
        for (int i = 0; i < row.size(); i++) {
          insert.setObject(i + 1, row.get(i));
        }
        insert.execute();
      }
    }
  }

  @AfterClass
  void close() {
    few.close();
    many.close();
  }

  @DataProvider
  static Iterator<Object[]> cases() {
    // An endless recursion has no account, and tells so only when its time is over.
    List<String> all =
        Stream.concat(Case.faulty().stream(), Case.innocent().stream())
            .map(Case::sql)
            .filter(sql -> !sql.contains("RECURSIVE"))
            .toList();
    return IntStream.range(0, all.size())
        .filter(each -> each % EVERY == 0)
        .mapToObj(each -> new Object[] {all.get(each)})
        .iterator();
  }

  @Test(dataProvider = "cases")
  public void isTheSame(String sql) {
    assertThat(ledger(many, sql)).isEqualTo(ledger(few, sql));
  }

  /** Empty where there is none: then there is none of many rows either. */
  private static Optional<Ledger> ledger(Lantrel lantrel, String sql) {
    Study study = lantrel.study(sql);
    try {
      return Optional.of(study.ledger());
    } catch (NoLedgerException | DatabaseException none) {
      return Optional.empty();
    }
  }

  /** What no case has: several reasons at one step, and joins that hand on what they filled. */
  @DataProvider
  static Object[][] chains() {
    String kept = "SELECT w.id FROM warden w LEFT JOIN station s ON s.keeper_id = w.id ";
    return new Object[][] {
      {kept + "LEFT JOIN river r ON r.id = s.river_id LEFT JOIN river f ON f.id = r.flows_into"},
      {kept + "JOIN river r ON r.id = s.river_id JOIN bank_kind b ON b.code = s.bank"},
      {kept + "LEFT JOIN river r ON r.id = s.river_id AND r.length_km > 90 WHERE s.capacity > 4"},
      {kept + "LEFT JOIN (river r JOIN river f ON f.id = r.flows_into) ON r.id = s.river_id"},
      {kept + "LEFT JOIN (river r LEFT JOIN river f ON f.id = r.flows_into) ON f.id = s.river_id"},
      {"SELECT r.id FROM river r LEFT JOIN river f ON f.id = r.flows_into AND f.length_km > 50"},
      {"SELECT 1 FROM river r, river f, station s WHERE f.id = r.flows_into AND s.river_id = f.id"},
      {"SELECT 1 FROM station s JOIN river r ON r.id = s.river_id AND r.flow > s.capacity"},
      {"SELECT 1 FROM reading d LEFT JOIN station s ON s.id = d.station_id WHERE s.bank <> 'R'"}
    };
  }

  @Test(dataProvider = "chains")
  public void isTheSameOfChains(String sql) {
    assertThat(ledger(many, sql)).isPresent().isEqualTo(ledger(few, sql));
  }

  /** A query, and how many outer joins with a table are in all that its account asks. */
  @DataProvider
  static Object[][] prices() {
    String readings = "SELECT r.id, s.name FROM reading r ";
    String stations = "SELECT s.name, COUNT(*) AS n FROM station s ";
    return new Object[][] {
      // That of the query: an inner join tells who finds a partner, and the rest refer to none.
      {"SELECT s.id, w.family_name FROM station s LEFT JOIN warden w ON w.id = s.keeper_id", 1},
      // A reading refers to no station that there is: it is named, and which stations are met told.
      {readings + "JOIN station s ON s.id = r.station_id", 2},
      // Stations without a reading are named; else pairs are grouped by their station.
      {stations + "JOIN reading r ON r.station_id = s.id GROUP BY s.name", 1},
      // Behind a join that repeats rows: that of the query, stations without a sighting are named,
      // and which rivers are met; who has a river is counted by an inner join.
      {
        "SELECT s.id, f.name FROM station s JOIN sighting g ON g.station_id = s.id LEFT JOIN river f"
            + " ON f.id = s.river_id",
        3
      },
      // The same and that of the query; what WHERE drops is picked out before.
      {readings + "LEFT JOIN station s ON s.id = r.station_id WHERE r.depth_cm > 200", 3}
    };
  }

  @Test(dataProvider = "prices")
  public void joinsOutwardsAsSeldomAsItCan(String sql, int outerJoins) {
    sent.forget();
    assertThat(ledger(many, sql)).isPresent();
    long outer =
        sent.texts().stream()
            .mapToLong(each -> each.split(" LEFT JOIN [a-z]+ AS ", -1).length - 1L)
            .sum();
    assertThat(outer).as(String.join("\n", sent.texts())).isEqualTo(outerJoins);
  }

  @DataProvider
  static Object[][] kinds() {
    return new Object[][] {{"LEFT JOIN", 6}, {"JOIN", 5}};
  }

  @Test(dataProvider = "kinds")
  public void aLongChainTakesFewStatements(String kind, int statements) {
    StringBuilder sql = new StringBuilder("SELECT s.name FROM station s");
    String referring = "s.river_id";
    for (int i = 1; i <= 20; i++) {
      sql.append(" %s river r%d ON r%d.id = %s".formatted(kind, i, i, referring));
      referring = "r" + i + ".flows_into";
    }
    sent.forget();
    assertThat(ledger(many, sql.toString())).isPresent();
    assertThat(sent.texts()).hasSize(statements);
  }
}
