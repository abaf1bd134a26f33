package io.lantrel.check;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.Scratch;
import io.lantrel.Study;
import io.lantrel.engine.Access;
import java.io.IOException;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import org.testng.annotations.AfterClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/**
 * Of few rows all is asked at once; of a database, whose rows may be many, what a cheaper question
 * can spare waits for its answer. Both must come to the same.
 */
public class ManyRowsTest {

  private static final List<String> QUAYS =
      List.of(
          "CREATE TABLE quay (id INTEGER PRIMARY KEY, name VARCHAR NOT NULL, shore VARCHAR NOT NULL);",
          "CREATE TABLE owner (id INTEGER PRIMARY KEY, name VARCHAR NOT NULL);",
          "CREATE TABLE rating (code INTEGER, label VARCHAR NOT NULL);",
          "CREATE TABLE boat (id INTEGER PRIMARY KEY, name VARCHAR NOT NULL, quay_id INTEGER REFERENCES"
              + " quay (id), owner_id INTEGER REFERENCES owner (id), rating INTEGER, tons INTEGER);",
          "CREATE TABLE visit (boat_id INTEGER NOT NULL REFERENCES boat (id), quay_id INTEGER NOT NULL"
              + " REFERENCES quay (id), crew INTEGER NOT NULL);",
          "INSERT INTO quay VALUES (1, 'Long Arm', 'north'), (2, 'long arm ', 'south'),"
              + " (3, 'Old Steps', 'south'), (4, 'Hook', 'south');",
          "INSERT INTO owner VALUES (1, 'Maru'), (2, 'Petrel'), (3, 'Onda');",
          "INSERT INTO rating VALUES (1, 'light'), (2, 'heavy'), (2, 'heavy too');",
          "INSERT INTO boat VALUES (1, 'Teal', 1, 1, 1, 4), (2, 'Smew', 3, 2, 1, 6),"
              + " (3, 'Garganey', 4, NULL, 2, 9), (4, 'Pochard', 2, 3, 2, 3);",
          "INSERT INTO visit VALUES (1, 3, 2), (1, 4, 3), (2, 3, 1), (2, 4, 2);");

  private final Lantrel few = Lantrel.open(Scratch.world("quays", QUAYS));
  private final Lantrel many = live();

  private static Lantrel live() {
    try {
      String url = "jdbc:duckdb:" + Scratch.folder("quays").resolve("quays.duckdb");
      try (Connection connection = DriverManager.getConnection(url);
          Statement statement = connection.createStatement()) {
        for (String each : QUAYS) {
          statement.execute(each);
        }
      }
      return Lantrel.connect(Access.to(url));
    } catch (IOException | SQLException failure) {
      throw new IllegalStateException(failure);
    }
  }

  @AfterClass
  void close() {
    few.close();
    many.close();
  }

  /** A query, its findings, and how many statements these cost where rows may be many. */
  @DataProvider
  static Object[][] queries() {
    String atQuay = " FROM boat b JOIN quay q ON q.id = b.quay_id";
    String grouped = "SELECT q.name, COUNT(*) AS n" + atQuay;
    String visits = " FROM boat b JOIN visit v ON v.boat_id = b.id";
    String ofOwners = visits + " JOIN owner o ON o.id = b.owner_id";
    return new Object[][] {
      // The name of an owner is written one way in its table: the joined rows are not looked at.
      {
        "SELECT o.name, COUNT(*) AS n FROM boat b JOIN owner o ON o.id = b.owner_id WHERE b.owner_id"
            + " IS NOT NULL GROUP BY o.name",
        "",
        3
      },
      // Two quays are written alike: whether both are among the rows is one statement more.
      {grouped + " WHERE q.shore <> 'north' GROUP BY q.name", "", 4},
      {grouped + " WHERE b.tons > 3 GROUP BY q.name", "", 4},
      {grouped + " GROUP BY q.name", "nearly-equal", 6},
      {"SELECT COUNT(DISTINCT q.name) AS quays" + atQuay, "nearly-equal", 6},
      // One of two names is.
      {
        "SELECT q.name, o.name AS owner, COUNT(*) AS n"
            + atQuay
            + " JOIN owner o ON o.id = b.owner_id WHERE b.owner_id IS NOT NULL GROUP BY q.name, o.name",
        "nearly-equal",
        6
      },
      // A boat has one quay, whatever is written first; two ratings share a code.
      {
        "SELECT q.id, SUM(b.tons) AS t FROM quay q, boat b WHERE b.quay_id = q.id GROUP BY q.id",
        "",
        3
      },
      {
        "SELECT q.id, SUM(v.crew) AS c FROM quay q JOIN boat b ON b.quay_id = q.id JOIN visit v ON"
            + " v.boat_id = b.id GROUP BY q.id",
        "",
        3
      },
      {
        "SELECT SUM(b.tons) AS t FROM boat b JOIN rating r ON r.code = b.rating",
        "repeated-in-total",
        5
      },
      // A boat is lost at its owner, also where each comes once for every visit.
      {"SELECT v.crew, o.name" + ofOwners, "", 3},
      {
        "SELECT q.id, v.crew, b.name, o.name AS owner FROM quay q JOIN boat b ON b.quay_id = q.id JOIN"
            + " visit v ON v.boat_id = b.id JOIN owner o ON o.id = b.owner_id",
        "",
        3
      },
      {
        "SELECT q.id, b.name, o.name AS owner FROM quay q JOIN boat b ON b.quay_id = q.id JOIN owner o"
            + " ON o.id = b.owner_id",
        "rows-without-partner",
        5
      },
      // What was filled before is lost, though every visit is by a boat that is there.
      {
        "SELECT q.id, b.name FROM quay q LEFT JOIN visit v ON v.quay_id = q.id AND v.crew < 9 JOIN"
            + " boat b ON b.id = v.boat_id",
        "outer-chain-broken",
        5
      },
    };
  }

  @Test(dataProvider = "queries")
  public void bothComeToTheSame(String sql, String kinds, int statements) {
    Study study = many.study(sql);
    List<Finding> found = study.findings();
    assertThat(found).extracting(each -> each.kind().id()).containsExactlyElementsOf(ids(kinds));
    assertThat(few.study(sql).findings())
        .extracting(Finding::message)
        .containsExactlyElementsOf(found.stream().map(Finding::message).toList());
    assertThat(study.statementsSent()).as(sql).isEqualTo(statements);
  }

  /**
   * The account counts the rows of each step anyway: it does not test tables besides. Which boats
   * have an owner is counted first, by an inner join, so that it need not look for those without.
   */
  @Test
  public void anAccountTestsNoTablesBesides() {
    Study study =
        many.study(
            "SELECT q.id, b.name, o.name AS owner FROM quay q JOIN boat b ON b.quay_id = q.id JOIN owner"
                + " o ON o.id = b.owner_id");
    assertThat(study.ledger().entries()).hasSize(3);
    assertThat(study.statementsSent()).isEqualTo(4);
  }

  private static List<String> ids(String kinds) {
    return kinds.isEmpty() ? List.of() : List.of(kinds.split(" ", -1));
  }
}
