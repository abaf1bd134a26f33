package io.lantrel.check;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.Scratch;
import io.lantrel.engine.Engine;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Values between two others: ends that are NULL, and days that stand for their midnight. */
public class RangesTest {

  private static final Map<String, String> FILES =
      Map.of(
          "schema.sql",
          "CREATE TABLE mooring (id INTEGER PRIMARY KEY, name VARCHAR(20) NOT NULL);"
              + "CREATE TABLE permit (mooring_id INTEGER NOT NULL REFERENCES mooring (id),"
              + " valid_from DATE NOT NULL, valid_to DATE, fee INTEGER, PRIMARY KEY (mooring_id,"
              + " valid_from));"
              + "CREATE TABLE landing (id INTEGER PRIMARY KEY, mooring_id INTEGER NOT NULL"
              + " REFERENCES mooring (id), on_day DATE NOT NULL, came TIMESTAMP NOT NULL);",
          "mooring.csv",
          "id,name\n1,North\n2,South\n3,Lock\n",
          "permit.csv",
          "mooring_id,valid_from,valid_to,fee\n1,2026-01-01,2026-03-31,5\n1,2026-04-01,,6\n"
              + "2,2026-01-01,,7\n3,2026-05-01,2026-06-01,\n",
          "landing.csv",
          "id,mooring_id,on_day,came\n1,1,2026-02-03,2026-02-03 00:00:00\n"
              + "2,1,2026-05-03,2026-05-03 09:30:00\n3,2,2026-05-03,2026-05-03 00:00:00\n"
              + "4,3,2026-04-30,2026-04-30 23:59:59\n5,3,2026-05-09,2026-05-09 12:00:00\n");

  private static final String JOINED =
      "SELECT l.id, p.fee FROM landing l JOIN permit p ON p.mooring_id = l.mooring_id AND ";
  private static final String KEPT =
      "SELECT l.id, p.fee FROM landing l LEFT JOIN permit p ON p.mooring_id = l.mooring_id AND ";
  private static final String LISTED =
      "SELECT l.id, p.fee FROM landing l, permit p WHERE p.mooring_id = l.mooring_id AND ";
  private static final String ASKED = "SELECT p.mooring_id FROM permit p WHERE ";
  private static final String LANDINGS = "SELECT l.id FROM landing l WHERE ";

  private final Map<Engine, Lantrel> opened = new EnumMap<>(Engine.class);

  @BeforeClass
  void open() throws IOException {
    Path folder = Scratch.folder("moorings");
    for (Map.Entry<String, String> file : FILES.entrySet()) {
      Files.writeString(folder.resolve(file.getKey()), file.getValue());
    }
    for (Engine each : List.of(Engine.DUCKDB, Engine.SQLITE, Engine.H2, Engine.HSQLDB)) {
      opened.put(each, Lantrel.open(folder, each));
    }
  }

  @AfterClass
  void close() {
    opened.values().forEach(Lantrel::close);
  }

  /** SQLite has days as texts. */
  private static String written(String sql, Engine engine) {
    return engine == Engine.SQLITE ? sql.replace("DATE '", "'") : sql;
  }

  @DataProvider
  static Object[][] openEnds() {
    return new Object[][] {
      {
        JOINED,
        "l.on_day BETWEEN p.valid_from AND p.valid_to",
        "l.on_day >= p.valid_from AND (p.valid_to IS NULL OR l.on_day <= p.valid_to)",
        2
      },
      {
        KEPT,
        "l.on_day >= p.valid_from AND l.on_day < p.valid_to",
        "l.on_day >= p.valid_from AND (p.valid_to IS NULL OR l.on_day < p.valid_to)",
        2
      },
      {
        JOINED,
        "p.valid_to >= l.on_day AND l.on_day >= p.valid_from",
        "(p.valid_to IS NULL OR p.valid_to >= l.on_day) AND l.on_day >= p.valid_from",
        2
      },
      {
        LISTED,
        "l.on_day BETWEEN p.valid_from AND p.valid_to",
        "l.on_day >= p.valid_from AND (p.valid_to IS NULL OR l.on_day <= p.valid_to)",
        2
      },
      {
        ASKED,
        "DATE '2026-05-03' BETWEEN p.valid_from AND p.valid_to",
        "DATE '2026-05-03' >= p.valid_from AND (p.valid_to IS NULL OR DATE '2026-05-03' <= p.valid_to)",
        2
      },
      {
        ASKED,
        "DATE '2026-02-02' < p.valid_to AND DATE '2026-02-02' > p.valid_from",
        "(p.valid_to IS NULL OR DATE '2026-02-02' < p.valid_to) AND DATE '2026-02-02'"
            + " > p.valid_from",
        1
      },
    };
  }

  @Test(dataProvider = "openEnds")
  public void whatHasNoEndIsLeftOut(String begin, String range, String right, long rows) {
    opened.forEach(
        (engine, lantrel) -> {
          String mended = written(begin + right, engine);
          assertThat(lantrel.study(written(begin + range, engine)).findings())
              .as(engine.title())
              .filteredOn(each -> each.kind() == Kind.NULL_COMPARISON)
              .singleElement()
              .satisfies(
                  finding -> {
                    assertThat(finding.message()).startsWith("Nothing is before p.valid_to where");
                    assertThat(finding.evidence().figures()).containsEntry("rows left out", rows);
                    assertThat(finding.repair().orElseThrow().sql()).isEqualTo(mended);
                  });
          assertThat(lantrel.study(mended).findings())
              .noneMatch(each -> each.kind() == Kind.NULL_COMPARISON);
        });
  }

  /** A condition, and what people mean by it: itself where it is right. */
  @DataProvider
  static Object[][] days() {
    return new Object[][] {
      {"l.came = DATE '2026-05-03'", "l.came >= DATE '2026-05-03' AND l.came < DATE '2026-05-04'"},
      {"l.came = DATE '2026-02-03'", "l.came >= DATE '2026-02-03' AND l.came < DATE '2026-02-04'"},
      {"l.came <= DATE '2026-04-30'", "l.came < DATE '2026-05-01'"},
      {"DATE '2026-05-09' >= l.came", "l.came < DATE '2026-05-10'"},
      {
        "l.came BETWEEN DATE '2026-02-01' AND DATE '2026-05-03'",
        "l.came >= DATE '2026-02-01' AND l.came < DATE '2026-05-04'"
      },
      {"l.came <= DATE '2026-12-31'", "l.came < DATE '2027-01-01'"},
      {"l.came < DATE '2026-05-03'", "l.came < DATE '2026-05-03'"},
      {"l.on_day = DATE '2026-05-03'", "l.on_day = DATE '2026-05-03'"},
      {"l.on_day <= DATE '2026-05-03'", "l.on_day <= DATE '2026-05-03'"},
    };
  }

  /**
   * As a day, and as a text where the engine takes that; the engine itself says what is missing.
   */
  @Test(dataProvider = "days")
  public void theRestOfADayIsLeftOut(String condition, String right) {
    opened.forEach(
        (engine, lantrel) ->
            assertLeftOut(
                lantrel, written(LANDINGS + condition, engine), written(LANDINGS + right, engine)));
    String text = condition.replace("DATE ", "");
    Lantrel duck = Objects.requireNonNull(opened.get(Engine.DUCKDB));
    assertLeftOut(duck, LANDINGS + text, LANDINGS + right.replace("DATE ", ""));
  }

  private static void assertLeftOut(Lantrel lantrel, String sql, String right) {
    List<Finding> findings =
        lantrel.study(sql).findings().stream()
            .filter(each -> each.kind() == Kind.TYPE_MISMATCH)
            .toList();
    long meant = lantrel.study(right).result().size();
    long rows = meant - lantrel.study(sql).result().size();
    assertThat(findings).as(sql).hasSize(rows > 0 ? 1 : 0);
    if (rows > 0) {
      assertThat(findings.get(0).evidence().figures()).containsEntry("rows later that day", rows);
      assertThat(findings.get(0).repair().orElseThrow().sql()).isEqualTo(right);
    }
  }
}
