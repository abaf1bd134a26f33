package io.lantrel.ledger;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.RiverWatchFolder;
import io.lantrel.Scratch;
import io.lantrel.Study;
import io.lantrel.check.Finding;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Locale;
import java.util.Random;
import java.util.stream.Collectors;
import org.testng.annotations.AfterClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Accounts where the shortest way of counting would be wrong. */
public class UnusualJoinsTest {

  private final Lantrel lantrel = Lantrel.open(RiverWatchFolder.data());

  @AfterClass
  void close() {
    lantrel.close();
  }

  private static String account(Ledger ledger) {
    return ledger.entries().stream()
        .map(
            entry ->
                entry.words()
                    + " "
                    + entry.before()
                    + entry.changes().stream()
                        .filter(change -> change.rows() > 0)
                        .map(
                            change ->
                                " "
                                    + change.figure().name().toLowerCase(Locale.ROOT)
                                    + " "
                                    + change.rows())
                        .collect(Collectors.joining())
                    + "="
                    + entry.after())
        .collect(Collectors.joining(" | "));
  }

  // ---- data that break what the schema promises ----

  private static Path broken() throws IOException {
    Path folder = Scratch.folder("broken");
    Files.writeString(
        folder.resolve("schema.sql"),
        "CREATE TABLE dam (id INTEGER PRIMARY KEY, name VARCHAR(20) NOT NULL);\n"
            + "CREATE TABLE gate (id INTEGER PRIMARY KEY, dam_id INTEGER NOT NULL REFERENCES dam);\n"
            + "CREATE TABLE note (dam_id INTEGER, words VARCHAR(20));\n");
    Files.writeString(folder.resolve("dam.csv"), "id,name\n1,Low\n1,Low again\n2,High\n3,Dry\n");
    Files.writeString(folder.resolve("gate.csv"), "id,dam_id\n10,1\n11,1\n12,2\n13,9\n13,2\n");
    Files.writeString(folder.resolve("note.csv"), "dam_id,words\n1,a\n1,a\n2,b\n,c\n");
    return folder;
  }

  @DataProvider
  static Object[][] brokenPromises() {
    return new Object[][] {
      {
        "SELECT g.id FROM gate g JOIN dam d ON d.id = g.dam_id",
        "gate g 5=5 | JOIN dam d 5 dropped 1 repeated 2 unused 1=6"
      },
      {
        "SELECT g.id FROM gate g LEFT JOIN dam d ON d.id = g.dam_id LEFT JOIN dam e ON e.id = d.id",
        "gate g 5=5 | LEFT JOIN dam d 5 filled 1 repeated 2 unused 1=7 | LEFT JOIN dam e 7 filled 1"
            + " repeated 4 unused 1=11"
      },
      {
        "SELECT d.name, COUNT(*) AS n FROM dam d JOIN gate g ON g.dam_id = d.id JOIN gate h ON h.id ="
            + " g.id GROUP BY d.name",
        "dam d 4=4 | JOIN gate g 4 dropped 1 repeated 3 unused 1=6 | JOIN gate h 6 repeated 1=7 |"
            + " GROUP BY d.name 7 merged 4=3"
      },
      {
        "SELECT n.words FROM note n JOIN note m ON m.words = n.words",
        "note n 4=4 | JOIN note m 4 repeated 2=6"
      },
      {
        "SELECT n.words FROM note n LEFT JOIN dam d ON d.id = n.dam_id AND d.name <> 'Low'",
        "note n 4=4 | LEFT JOIN dam d 4 filled 1 unused 2=4"
      },
    };
  }

  @Test(dataProvider = "brokenPromises")
  public void promisesThatAreBrokenAreNotReliedOn(String sql, String account) throws IOException {
    try (Lantrel broken = Lantrel.open(broken())) {
      Study study = broken.study(sql);
      assertThat(account(study.ledger())).isEqualTo(account);
      assertThat(study.ledger().entries()).allMatch(Entry::balances);
      assertThat(study.inspection().isComplete()).isTrue();
    }
  }

  /** Rows without a key are told apart within a statement, and named once. */
  @Test
  public void rowsWithoutAKeyAreCountedEach() throws IOException {
    try (Lantrel broken = Lantrel.open(broken())) {
      Ledger ledger =
          broken.study("SELECT n.words FROM note n JOIN note m ON m.words = n.words").ledger();
      Cause several = ledger.entries().get(1).change(Figure.REPEATED).orElseThrow().causes().get(0);
      assertThat(several.reason()).startsWith("2 rows have several partners");
      assertThat(several.examples()).hasSize(1);
    }
  }

  // ---- comma lists ----

  private static final List<String> TABLES =
      List.of("reading d", "station s", "river r", "bank_kind b", "warden w");

  private static final String CONDITIONS =
      " WHERE s.id = d.station_id AND r.id = s.river_id AND b.code = s.bank AND w.id = s.keeper_id"
          + " AND d.depth_cm > 100";

  @DataProvider
  static Object[][] orders() {
    Object[][] orders = new Object[12][];
    Random random = new Random(20261127);
    for (int i = 0; i < orders.length; i++) {
      List<String> tables = new ArrayList<>(TABLES);
      Collections.shuffle(tables, random);
      orders[i] = new Object[] {"SELECT d.id FROM " + String.join(", ", tables) + CONDITIONS};
    }
    return orders;
  }

  /** However a comma list is ordered, no step is a product, and the account ends alike. */
  @Test(dataProvider = "orders")
  public void theOrderOfACommaListSaysNothing(String sql) {
    Study study = lantrel.study(sql);
    Ledger ledger = study.ledger();
    assertThat(ledger.result()).as(sql).isEqualTo(study.result().size());
    assertThat(ledger.entries()).as(sql).allMatch(Entry::balances);
    assertThat(ledger.entries()).as(sql).allMatch(entry -> entry.after() <= 60);
    assertThat(study.findings())
        .as(sql)
        .extracting(finding -> finding.kind().id())
        .doesNotContain("cross-product");
  }

  @DataProvider
  static Object[][] connections() {
    String arms = "(s.river_id = r.id AND r.flow > 5) OR (r.id = s.river_id AND s.capacity > 8)";
    return new Object[][] {
      {"SELECT s.id FROM station s, river r WHERE " + arms, false, "at most one"},
      {"SELECT s.id FROM station s, river r WHERE " + arms + " OR s.id = 14", false, "any number"},
      {
        "SELECT s.id FROM station s, warden w, river r WHERE r.id = s.river_id", true, "at most one"
      },
      {"SELECT s.id FROM station s CROSS JOIN river r", false, "any number"},
      {"SELECT s.id FROM station s, (SELECT MAX(flow) AS f FROM river) m", false, "at most one"},
    };
  }

  /** What every arm of an OR demands connects two tables; what one arm lacks does not. */
  @Test(dataProvider = "connections")
  public void whatEveryArmDemandsConnects(String sql, boolean product, String promise) {
    Study study = lantrel.study(sql);
    Ledger ledger = study.ledger();
    assertThat(ledger.result()).as(sql).isEqualTo(study.result().size());
    assertThat(ledger.entries().get(1).promise()).as(sql).isEqualTo(promise);
    boolean every =
        ledger.entries().stream()
            .filter(entry -> entry.kind() == Entry.Kind.JOIN)
            .anyMatch(entry -> entry.rows(Figure.REPEATED) >= 9 * entry.before());
    assertThat(every).as(sql).isEqualTo(product || sql.contains("CROSS JOIN"));
  }

  @DataProvider
  static Object[][] dressed() {
    return new Object[][] {
      {"CAST(r.id AS VARCHAR(20)) = CAST(s.river_id AS VARCHAR(20))", "at most one"},
      {"CAST(r.id AS VARCHAR) = s.river_id::VARCHAR", "at most one"},
      {"r.id = CAST(s.river_id AS BIGINT)", "at most one"},
      {"TRIM(CAST(r.id AS VARCHAR)) = LOWER(CAST(s.river_id AS VARCHAR))", "at most one"},
      {"NOT (r.id <> s.river_id)", "at most one"},
      {"r.id IN (s.river_id)", "at most one"},
      {"(r.id, 1) = (s.river_id, 1)", "at most one"},
      {"r.id IS NOT DISTINCT FROM s.river_id", "at most one"},
      {"COALESCE(r.id, 0) = s.river_id", "at most one"},
      // A text may be cut short, and of several texts one number or one text in capitals is made.
      {"CAST(r.id AS VARCHAR(1)) = CAST(s.river_id AS VARCHAR(1))", "any number"},
      {"CAST(r.id AS CHAR) = CAST(s.river_id AS CHAR)", "any number"},
      {"LOWER(CAST(r.name AS VARCHAR)) = LOWER(s.name)", "any number"},
      {"COALESCE(r.id, 0) = COALESCE(s.river_id, 0)", "any number"},
      {"r.id IN (s.river_id, s.keeper_id)", "any number"},
      {"(r.id, 1) = (s.capacity, s.river_id)", "at most one"},
    };
  }

  /** Keys promise something of casts that keep values apart, and of other words for an equality. */
  @Test(dataProvider = "dressed")
  public void whatKeepsValuesApartKeepsPromises(String condition, String promise) {
    Study study = lantrel.study("SELECT s.id FROM station s LEFT JOIN river r ON " + condition);
    Ledger ledger = study.ledger();
    assertThat(ledger.result()).as(condition).isEqualTo(study.result().size());
    assertThat(ledger.entries()).as(condition).allMatch(Entry::balances);
    assertThat(ledger.entries().get(1).promise()).as(condition).isEqualTo(promise);
  }

  // ---- all of it together ----

  @DataProvider
  static Object[][] accounts() {
    return new Object[][] {
      {
        "SELECT COUNT(*) AS n FROM river r WHERE r.id < 0",
        "river r 12=12 | WHERE 12 dropped 12=0 | one group of all rows 0 added 1=1"
      },
      {
        "SELECT s.id FROM station s CROSS JOIN (SELECT r.id FROM river r WHERE r.id < 0) n",
        "station s 14=14 | CROSS JOIN n 14 dropped 14=0"
      },
      {
        "SELECT s.id FROM (SELECT x.id FROM station x WHERE x.id < 0) s CROSS JOIN river r",
        "s 0=0 | CROSS JOIN river r 0 unused 12=0"
      },
      {
        "SELECT r.name FROM river r JOIN (station s JOIN warden w ON w.id = s.keeper_id) ON"
            + " s.river_id = r.id",
        null
      },
      {
        "SELECT DISTINCT s.bank FROM station s JOIN river r ON r.id = s.river_id ORDER BY s.bank"
            + " LIMIT 2",
        null
      },
      {
        "SELECT s.bank, COUNT(*) AS n FROM station s RIGHT JOIN river r ON r.id = s.river_id GROUP"
            + " BY s.bank HAVING COUNT(*) > 1 LIMIT 1",
        null
      },
      {
        "SELECT s.id FROM station s FULL JOIN warden w ON w.id = s.keeper_id LEFT JOIN river r ON"
            + " r.id = s.river_id AND r.flow > w.id",
        null
      },
    };
  }

  @Test(dataProvider = "accounts")
  public void theAccountAgreesWithTheQuery(String sql, String account) {
    Study study = lantrel.study(sql);
    Ledger ledger = study.ledger();
    assertThat(ledger.entries()).as(sql).allMatch(Entry::balances);
    assertThat(ledger.result()).as(sql).isEqualTo(study.result().size());
    for (Entry entry : ledger.entries()) {
      for (Change change : entry.changes()) {
        long told = change.causes().stream().mapToLong(Cause::rows).sum();
        assertThat(told).as(sql + ": " + change).isIn(0L, change.rows());
      }
    }
    if (account != null) {
      assertThat(account(ledger)).isEqualTo(account);
    }
    assertThat(study.findings()).as(sql).extracting(Finding::message).doesNotContainNull();
  }
}
