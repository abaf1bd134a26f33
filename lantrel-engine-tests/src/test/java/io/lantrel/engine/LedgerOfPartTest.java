package io.lantrel.engine;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.lantrel.Lantrel;
import io.lantrel.NoLedgerException;
import io.lantrel.RiverWatchFolder;
import io.lantrel.Scratch;
import io.lantrel.claim.Verification;
import io.lantrel.ledger.Entry;
import io.lantrel.ledger.Figure;
import io.lantrel.ledger.Ledger;
import io.lantrel.ledger.LedgerOfPart;
import io.lantrel.ledger.Naming;
import io.lantrel.ledger.RowShare;
import io.lantrel.sql.tree.Span;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Random;
import java.util.stream.Collector;
import java.util.stream.Collectors;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Accounts of a part of the rows, beside those of all. */
public class LedgerOfPartTest {

  private static final List<String> QUERIES =
      List.of(
          "SELECT d.id FROM reading d JOIN station s ON s.id = d.station_id LEFT JOIN river r ON"
              + " r.id = s.river_id WHERE d.depth_cm > 150",
          "SELECT s.name, COUNT(*) AS n FROM station s LEFT JOIN reading d ON d.station_id = s.id"
              + " GROUP BY s.name",
          "SELECT s.name FROM station s JOIN warden w ON w.id = s.keeper_id AND w.family_name >"
              + " 'K' WHERE s.capacity > 4 AND s.bank <> 'W'",
          "SELECT g.head_count FROM sighting g, species p, station s WHERE p.id = g.species_id AND"
              + " s.id = g.station_id AND p.name <> 'brook duck'",
          "SELECT DISTINCT r.name FROM river r CROSS JOIN bank_kind b WHERE b.label > 'M'",
          "SELECT s.id FROM station s LEFT JOIN (reading d JOIN sighting g ON g.station_id ="
              + " d.station_id) ON d.station_id = s.id");

  @DataProvider
  static Object[][] engines() {
    return RiverDatabases.rows();
  }

  private static Lantrel connect(Engine engine) {
    return RiverDatabases.withKeys(
        Lantrel.connect(RiverDatabases.access(engine)), RiverWatchFolder.data());
  }

  private static LedgerOfPart about(Lantrel lantrel, String sql, RowShare share) {
    return lantrel.study(sql).ledgerAbout(share, Naming.some(2));
  }

  /** What a part of the rows breaks is told alike wherever they are. */
  @Test(dataProvider = "engines")
  public void itIsVerifiedAlikeOnEveryEngine(Engine engine) {
    String[] claims = {
      "no null in depth_cm", "depth_cm between 1 and 200", "at least 3 rows", "every r appears"
    };
    String sql =
        "SELECT d.id, d.depth_cm, r.id AS river FROM reading d JOIN station s ON s.id ="
            + " d.station_id LEFT JOIN river r ON r.id = s.river_id WHERE d.id > 2";
    try (Lantrel known = Lantrel.open(RiverWatchFolder.data());
        Lantrel lantrel = connect(engine)) {
      for (double percent : new double[] {15, 50, 80, 100}) {
        RowShare share = RowShare.percent(percent);
        assertThat(told(lantrel.study(sql).verifyAbout(share, claims)))
            .as(engine + " " + percent)
            .isEqualTo(told(known.study(sql).verifyAbout(share, claims)));
      }
      assertThat(told(lantrel.study(sql).verifyAbout(RowShare.percent(80), claims)))
          .extracting(each -> each.substring(0, each.indexOf(':')))
          .containsExactly("BROKEN", "BROKEN", "HOLDS", "UNDECIDED");
    }
  }

  private static List<String> told(Verification verification) {
    return verification.claims().stream()
        .map(each -> each.verdict() + ": " + each.reason())
        .toList();
  }

  /** The same rows are looked at wherever they are. */
  @Test(dataProvider = "engines")
  public void isTheSameOnEveryEngine(Engine engine) {
    try (Lantrel known = Lantrel.open(RiverWatchFolder.data());
        Lantrel lantrel = connect(engine)) {
      for (String sql : QUERIES) {
        for (double percent : new double[] {15, 50, 80}) {
          RowShare share = RowShare.percent(percent);
          assertThat(words(about(lantrel, sql, share).counted()))
              .as(sql)
              .isEqualTo(words(about(known, sql, share).counted()));
        }
      }
    }
  }

  /**
   * All rows give the figures of the whole account; a smaller part has no row that a larger lacks.
   */
  @Test(dataProvider = "engines")
  public void allOfThemAreThePartThatLacksNone(Engine engine) {
    try (Lantrel lantrel = connect(engine)) {
      for (String sql : QUERIES) {
        LedgerOfPart all = about(lantrel, sql, RowShare.rows(1_000));
        assertThat(all.isWhole()).isTrue();
        Ledger whole = lantrel.study(sql).ledger();
        assertThat(words(all.estimated()))
            .as(sql)
            .isEqualTo(words(whole).lines().limit(all.counted().entries().size()).collect(lines()));
        long before = 0;
        for (int percent = 1; percent <= 100; percent += 11) {
          LedgerOfPart part = about(lantrel, sql, RowShare.percent(percent));
          assertThat(part.of()).isEqualTo(all.of());
          assertThat(part.looked()).isBetween(before, all.of());
          before = part.looked();
        }
        assertThat(before).as(sql).isEqualTo(all.of());
      }
    }
  }

  private static Collector<CharSequence, ?, String> lines() {
    return Collectors.joining("\n");
  }

  private static String words(Ledger ledger) {
    return ledger.entries().stream()
        .filter(entry -> !entry.words().contains("JOIN sighting"))
        .map(
            entry ->
                entry.kind()
                    + " "
                    + entry.before()
                    + " "
                    + figures(entry, Figure.DROPPED, Figure.FILLED, Figure.REPEATED)
                    + entry.after())
        .collect(lines());
  }

  private static String figures(Entry entry, Figure... figures) {
    StringBuilder words = new StringBuilder();
    for (Figure figure : figures) {
      words.append(figure).append(' ').append(entry.rows(figure)).append(' ');
    }
    return words.toString();
  }

  /**
   * Of 30,000 rows with a key, and of as many without, a tenth is looked at: every figure is within
   * four deviations of what it is for all.
   */
  @Test
  public void figuresAreAboutRight() throws IOException {
    Random random = new Random(20261129);
    Path folder = Scratch.folder("part");
    StringBuilder keyed = new StringBuilder("id,kind,loft,weight\n");
    StringBuilder loose = new StringBuilder("kind,loft,weight\n");
    for (int i = 0; i < 30_000; i++) {
      String rest =
          (random.nextInt(20) == 0 ? "" : random.nextInt(50))
              + ","
              + random.nextInt(400)
              + ","
              + random.nextInt(1_000)
              + "\n";
      keyed.append(i * 3 + 7).append(',').append(rest);
      loose.append(rest);
    }
    StringBuilder birds = new StringBuilder("loft,ring\n");
    for (int i = 0; i < 900; i++) {
      birds.append(random.nextInt(400)).append(',').append(i).append('\n');
    }
    Files.writeString(folder.resolve("egg.csv"), keyed);
    Files.writeString(folder.resolve("shell.csv"), loose);
    Files.writeString(folder.resolve("bird.csv"), birds);
    Files.writeString(
        folder.resolve("kind.csv"),
        "id\n" + random.ints(40, 0, 45).distinct().mapToObj(id -> id + "\n").collect(all()));
    Files.writeString(
        folder.resolve("schema.sql"),
        "CREATE TABLE kind (id INTEGER PRIMARY KEY);\n"
            + "CREATE TABLE bird (loft INTEGER, ring INTEGER);\n"
            + "CREATE TABLE egg (id INTEGER PRIMARY KEY, kind INTEGER, loft INTEGER, weight"
            + " INTEGER);\n"
            + "CREATE TABLE shell (kind INTEGER, loft INTEGER, weight INTEGER);\n");
    try (Lantrel lantrel = Lantrel.open(folder)) {
      for (String table : List.of("egg", "shell")) {
        String sql =
            "SELECT e.kind FROM "
                + table
                + " e JOIN kind k ON k.id = e.kind LEFT JOIN bird b ON b.loft = e.loft WHERE"
                + " e.weight > 250";
        LedgerOfPart part = about(lantrel, sql, RowShare.percent(10));
        assertThat(part.looked()).isBetween(2_600L, 3_400L);
        List<Entry> whole = lantrel.study(sql).ledger().entries();
        for (int i = 0; i < whole.size(); i++) {
          Entry estimated = part.estimated().entries().get(i);
          for (Figure figure : List.of(Figure.DROPPED, Figure.FILLED, Figure.REPEATED)) {
            long counted = part.counted().entries().get(i).rows(figure);
            // A row that is repeated is so some times.
            double off = 4 * 10 * Math.sqrt(counted + 1.0) * (figure == Figure.REPEATED ? 2 : 1);
            assertThat((double) estimated.rows(figure))
                .as(table + " " + whole.get(i).words() + " " + figure)
                .isBetween(whole.get(i).rows(figure) - off, whole.get(i).rows(figure) + off);
          }
        }
        assertThat(part.unseen()).isBetween(26L, 35L);
      }
    }
  }

  /** Two of sixty that have thousands of partners do not bear six digits. */
  @Test
  public void figuresHaveNoMoreDigitsThanTheyBear() {
    Ledger nothing =
        new Ledger(
            "",
            List.of(new Entry(Entry.Kind.FROM, "a", Span.NOWHERE, 0, List.of(), 0)),
            List.of(),
            List.of(),
            List.of());
    LedgerOfPart two = new LedgerOfPart(nothing, "kiln k", 2, 60, List.of("id"));
    assertThat(two.estimate(5_467, true)).isEqualTo(200_000);
    assertThat(two.estimate(1, false)).isEqualTo(30);
    assertThat(two.estimate(2, false)).isEqualTo(60);
    LedgerOfPart many = new LedgerOfPart(nothing, "heads h", 20_000, 2_000_000, List.of("id"));
    assertThat(many.estimate(20_000, false)).isEqualTo(2_000_000);
    assertThat(many.estimate(19_613, false)).isEqualTo(1_961_000);
    assertThat(many.estimate(387, false)).isEqualTo(39_000);
    assertThat(many.estimate(41_234, true)).isEqualTo(4_120_000);
    assertThat(many.estimate(0, true)).isZero();
    assertThat(many.unseen()).isEqualTo(300);
    assertThat(new LedgerOfPart(nothing, "kiln k", 0, 60, List.of("id")).unseen()).isEqualTo(60);
    assertThat(new LedgerOfPart(nothing, "kiln k", 60, 60, List.of("id")).unseen()).isZero();
  }

  private static Collector<CharSequence, ?, String> all() {
    return Collectors.joining();
  }

  @DataProvider
  static Object[][] refused() {
    return new Object[][] {
      {
        "SELECT s.id FROM reading d RIGHT JOIN station s ON s.id = d.station_id",
        "RIGHT JOIN station s keeps rows that have no partner, and a part of reading d does not"
            + " tell which have none"
      },
      {
        "SELECT b.code FROM bank_kind b JOIN station s ON s.bank = b.code",
        "bank_kind b has no column of whole numbers, by which a part of its rows could be taken"
      },
      {
        "SELECT s.id FROM station s UNION SELECT r.id FROM river r",
        "a query that puts several together has no steps of its own; ask for those of each SELECT"
      },
      {"SELECT 1 AS one", "the rows of this query cannot be shown step by step: it has no FROM"}
    };
  }

  @Test(dataProvider = "refused")
  public void whatAPartDoesNotTellIsNotTold(String sql, String reason) {
    try (Lantrel lantrel = Lantrel.open(RiverWatchFolder.data())) {
      assertThatThrownBy(() -> about(lantrel, sql, RowShare.percent(50)))
          .isInstanceOf(NoLedgerException.class)
          .hasMessage(reason);
    }
  }

  @Test
  public void aShareIsMoreThanNothing() {
    for (double wrong : new double[] {0, -1, 100.1, Double.NaN}) {
      assertThatThrownBy(() -> RowShare.percent(wrong))
          .isInstanceOf(IllegalArgumentException.class);
    }
    assertThatThrownBy(() -> RowShare.rows(0)).isInstanceOf(IllegalArgumentException.class);
    assertThat(RowShare.rows(50).of(200)).isEqualTo(0.25);
    assertThat(RowShare.rows(50).of(0)).isEqualTo(1);
  }
}
