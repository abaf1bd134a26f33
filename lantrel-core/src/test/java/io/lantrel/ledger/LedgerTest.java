package io.lantrel.ledger;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.lantrel.Lantrel;
import io.lantrel.NoLedgerException;
import io.lantrel.QueryGenerator;
import io.lantrel.QueryGenerator.Generated;
import io.lantrel.QueryGenerator.Step;
import io.lantrel.RiverWatchFolder;
import io.lantrel.Scratch;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.stream.Collectors;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** The account balances, and agrees with what the database itself counts. */
public class LedgerTest {

  private static final long SEED = 20260523;
  private static final int DATABASES = 8;
  private static final int QUERIES_EACH = 32;
  private static final int TABLES = 4;

  @DataProvider
  static Object[][] databases() {
    Object[][] databases = new Object[DATABASES][1];
    for (int i = 0; i < DATABASES; i++) {
      databases[i][0] = i;
    }
    return databases;
  }

  @Test(dataProvider = "databases")
  public void agreesWithTheDatabaseAtEveryStep(int database) throws IOException {
    QueryGenerator generator = new QueryGenerator(SEED + database, TABLES);
    try (Lantrel lantrel = Lantrel.open(QueryGenerator.folder(SEED + database, TABLES))) {
      for (int i = 0; i < QUERIES_EACH; i++) {
        Generated query = generator.query();
        Ledger ledger = lantrel.study(query.sql()).ledger();
        for (int step = 0; step < query.steps().size(); step++) {
          compare(lantrel, query.sql(), query.steps().get(step), ledger.entries().get(step + 1));
        }
        assertThat(ledger.result())
            .as(query.sql())
            .isEqualTo(count(lantrel, "(" + query.sql() + ") q"));
      }
    }
  }

  private static void compare(Lantrel lantrel, String sql, Step step, Entry entry) {
    long leftAlone =
        count(
            lantrel,
            step.left()
                + " WHERE NOT EXISTS (SELECT 1 FROM "
                + step.right()
                + " WHERE "
                + step.condition()
                + ")");
    long rightAlone =
        count(
            lantrel,
            step.right()
                + " WHERE NOT EXISTS (SELECT 1 FROM "
                + step.left()
                + " WHERE "
                + step.condition()
                + ")");
    boolean keepsLeft = step.kind().startsWith("LEFT") || step.kind().startsWith("FULL");
    boolean keepsRight = step.kind().startsWith("RIGHT") || step.kind().startsWith("FULL");
    assertThat(entry.before()).as(sql).isEqualTo(count(lantrel, step.left()));
    assertThat(entry.after()).as(sql).isEqualTo(count(lantrel, step.whole()));
    assertThat(entry.rows(Figure.DROPPED)).as(sql).isEqualTo(keepsLeft ? 0 : leftAlone);
    assertThat(entry.rows(Figure.FILLED)).as(sql).isEqualTo(keepsLeft ? leftAlone : 0);
    assertThat(entry.rows(Figure.ADDED)).as(sql).isEqualTo(keepsRight ? rightAlone : 0);
    assertThat(entry.rows(Figure.UNUSED)).as(sql).isEqualTo(keepsRight ? 0 : rightAlone);
    assertThat(entry.balances()).as(sql).isTrue();
    for (Change change : entry.changes()) {
      assertThat(change.causes().stream().mapToLong(Cause::rows).sum())
          .as("%s: %s", sql, change)
          .isEqualTo(change.rows());
      // Where no row comes there is nothing that one of the others tells.
      boolean reached = entry.before() > 0 || change.figure() != Figure.UNUSED;
      assertThat(change.causes())
          .allSatisfy(
              cause ->
                  assertThat(cause.examples()).hasSizeBetween(reached ? 1 : 0, reached ? 3 : 0));
    }
  }

  private static long count(Lantrel lantrel, String from) {
    return lantrel.study("SELECT COUNT(*) AS n FROM " + from).result().figure(0);
  }

  @Test(dataProvider = "databases")
  public void agreesForCommasAndParentheses(int database) throws IOException {
    QueryGenerator generator = new QueryGenerator(SEED - 1 - database, TABLES);
    try (Lantrel lantrel = Lantrel.open(QueryGenerator.folder(SEED + database, TABLES))) {
      for (int i = 0; i < QUERIES_EACH / 2; i++) {
        String sql = generator.oldOrNested();
        Ledger ledger = lantrel.study(sql).ledger();
        assertThat(ledger.entries()).as(sql).allMatch(Entry::balances);
        assertThat(ledger.result()).as(sql).isEqualTo(count(lantrel, "(" + sql + ") q"));
      }
    }
  }

  @DataProvider
  static Object[][] accounts() {
    return new Object[][] {
      {
        "SELECT s.name FROM station s JOIN river r ON r.id = s.river_id",
        "FROM 14=14 | JOIN 14 dropped 1 unused 2=13"
      },
      {
        "SELECT s.bank, s.keeper_id, COUNT(*) FROM station s GROUP BY ROLLUP (s.bank, s.keeper_id)",
        "FROM 14=14 | GROUP 14 added 4=18"
      },
      {
        "SELECT r.name FROM river r LEFT JOIN station s ON s.river_id = r.id",
        "FROM 12=12 | JOIN 12 filled 2 repeated 3 unused 1=15"
      },
      {
        "SELECT s.name FROM station s FULL JOIN river r ON r.id = s.river_id WHERE r.flow > 5",
        "FROM 14=14 | JOIN 14 filled 1 added 2=16 | WHERE 16 dropped 6=10"
      },
      {
        "SELECT r.id, COUNT(*) FROM river r, station s WHERE s.river_id = r.id AND r.flow > 5"
            + " GROUP BY r.id HAVING COUNT(*) > 1",
        "FROM 12=12 | JOIN 12 dropped 2 repeated 3 unused 1=13 | WHERE 13 dropped 3=10"
            + " | GROUP 10 merged 3=7 | HAVING 7 dropped 4=3"
      },
      {
        "SELECT DISTINCT k.family_name FROM station s JOIN warden k ON k.id = s.keeper_id LIMIT 3",
        "FROM 14=14 | JOIN 14 dropped 2 unused 1=12 | DISTINCT 12 merged 4=8 | LIMIT 8 cut 5=3"
      },
      {
        "SELECT MAX(id) FROM station WHERE id > 100",
        "FROM 14=14 | WHERE 14 dropped 14=0 | GROUP 0 added 1=1"
      },
      {"SELECT * FROM station NATURAL JOIN river", "FROM 14=14 | JOIN 14 dropped 14 unused 12=0"},
      {
        "SELECT q.n FROM (SELECT river_id, COUNT(*) AS n FROM station GROUP BY river_id) q"
            + " JOIN river r ON r.id = q.river_id",
        "FROM 11=11 | JOIN 11 dropped 1 unused 2=10"
      },
    };
  }

  @Test(dataProvider = "accounts")
  public void accountsForTheRiverWatch(String sql, String expected) {
    try (Lantrel lantrel = Lantrel.open(RiverWatchFolder.data())) {
      String account =
          lantrel.study(sql).ledger().entries().stream()
              .map(LedgerTest::words)
              .collect(Collectors.joining(" | "));
      assertThat(account).isEqualTo(expected);
    }
  }

  /** Several texts that are one number meet one key. */
  @Test
  public void unlikeTypesMeetTheSameRow() throws IOException {
    Path folder = Scratch.folder("unlike");
    Map.of(
            "schema.sql",
            "CREATE TABLE kind (id INTEGER PRIMARY KEY);\n"
                + "CREATE TABLE bell (no INTEGER PRIMARY KEY, kind_code VARCHAR(4));\n"
                + "CREATE TABLE toll (no INTEGER PRIMARY KEY, bell_no INTEGER);\n",
            "kind.csv",
            "id\n1\n2\n3\n",
            "bell.csv",
            "no,kind_code\n1,1\n2,01\n3,2\n4,001\n",
            "toll.csv",
            "no,bell_no\n1,1\n2,2\n3,3\n4,4\n")
        .forEach((name, text) -> write(folder.resolve(name), text));
    try (Lantrel lantrel = Lantrel.open(folder)) {
      for (String from :
          List.of(
              "bell b JOIN kind k ON k.id = b.kind_code",
              "toll t JOIN bell b ON b.no = t.bell_no JOIN kind k ON k.id = b.kind_code")) {
        List<Entry> entries =
            lantrel.study("SELECT k.id FROM " + from).ledger(Naming.some(9)).entries();
        Entry last = entries.get(entries.size() - 1);
        assertThat(words(last)).isEqualTo("JOIN 4 unused 1=4");
        assertThat(last.change(Figure.UNUSED).orElseThrow().causes().get(0).examples())
            .singleElement()
            .satisfies(row -> assertThat(row.values()).containsExactly("3"));
      }
    }
  }

  private static void write(Path file, String text) {
    try {
      Files.writeString(file, text);
    } catch (IOException failure) {
      throw new UncheckedIOException(failure);
    }
  }

  private static String words(Entry entry) {
    String changes =
        entry.changes().stream()
            .filter(change -> change.rows() > 0)
            .map(
                change ->
                    " " + change.figure().toString().toLowerCase(Locale.ROOT) + " " + change.rows())
            .collect(Collectors.joining());
    return entry.kind() + " " + entry.before() + changes + "=" + entry.after();
  }

  @DataProvider
  static Object[][] withoutLedger() {
    return new Object[][] {
      {"SELECT s.nme FROM station s", "line 1, column 10: station s has no column nme"},
      {"DELETE FROM station", "line 1, column 1: this is no query but DELETE"},
      {"SELECT FROM WHERE", "line 1, column 18: the statement ends here"},
    };
  }

  @Test(dataProvider = "withoutLedger")
  public void saysWhyThereIsNone(String sql, String reason) {
    try (Lantrel lantrel = Lantrel.open(RiverWatchFolder.data())) {
      assertThatThrownBy(() -> lantrel.study(sql).ledger())
          .isInstanceOf(NoLedgerException.class)
          .hasMessageContaining(reason);
    }
  }
}
