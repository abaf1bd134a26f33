package io.lantrel.report;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.Study;
import io.lantrel.rows.ShownRows;
import io.lantrel.rows.ShownRows.Cell;
import io.lantrel.rows.ShownRows.Heading;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.testng.annotations.AfterClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** What a person reads. */
public class TextReportTest {

  private final Lantrel lantrel = Lantrel.open(folder());
  private final TextReport plain = new TextReport(new Style(false, 80));

  private static Path folder() {
    try {
      Path folder = Files.createTempDirectory("report");
      Files.writeString(
          folder.resolve("schema.sql"),
          "CREATE TABLE river (id INTEGER PRIMARY KEY, name TEXT NOT NULL, flows_into INTEGER"
              + " REFERENCES river); CREATE TABLE station (id INTEGER PRIMARY KEY, name TEXT,"
              + " river_id INTEGER REFERENCES river); CREATE TABLE need (river_id INTEGER NOT NULL"
              + " REFERENCES river);");
      Files.writeString(folder.resolve("need.csv"), "river_id\n1\n8\n");
      Files.writeString(
          folder.resolve("river.csv"), "id,name,flows_into\n1,Ombrel,\n2,渡川,1\n3,Tavin,9\n");
      Files.writeString(
          folder.resolve("station.csv"), "id,name,river_id\n1,Mill,1\n2,,1\n3,Ford,\n3,Weir,3\n");
      return folder;
    } catch (IOException failure) {
      throw new IllegalStateException(failure);
    }
  }

  @AfterClass
  void close() {
    lantrel.close();
  }

  private static String lines(String... lines) {
    return String.join("\n", lines) + "\n";
  }

  @Test
  public void showsTheTablesAndWhatViolatesTheSchema() {
    assertThat(plain.survey(lantrel.survey()))
        .isEqualTo(
            lines(
                "Tables",
                "  table    rows  key                  what it is           refers to",
                "  river       3  id                   hierarchy, 2 levels  itself",
                "  need        2  river_id (observed)                       river",
                "  station     4  id                                        river",
                "",
                "References, declared  rows of the left that name one of the right",
                "  reference                    found  empty  to nothing",
                "  river.flows_into → river.id      1      1           1",
                "  need.river_id → river.id         1                  1",
                "  station.river_id → river.id      3      1",
                "",
                "Picture  below each table those that refer to it",
                "  river  refers to itself by flows_into",
                "  ├─ need  by river_id",
                "  └─ station  by river_id",
                "",
                "What to know of the rows",
                "  repeated-key      station (id): 2 rows: station 3 (Ford), station 3 (Weir)",
                "  broken-reference  river.flows_into → river.id: 1 row: river 3 (Tavin) has",
                "                    flows_into 9",
                "  broken-reference  need.river_id → river.id: 1 row: need 8 has river_id 8"));
  }

  @Test
  public void showsAnAccountThatAddsUp() {
    Study study =
        lantrel.study(
            "SELECT r.name FROM river r LEFT JOIN station s ON s.river_id = r.id AND s.id < 3"
                + " WHERE r.id < 3");
    assertThat(plain.ledger(study.ledger()))
        .isEqualTo(
            lines(
                "     step                 before  − dropped  + repeated  = after  filled  unused",
                "  1  river r                                                   3",
                "  2  LEFT JOIN station s       3                      1        4       2       2",
                "  3  WHERE                     4          1                    3",
                "",
                "  LEFT JOIN station s",
                "    1 of 3 rows found a partner; 2 of 4 rows of station s were found",
                "    filled 1       a partner is there, but s.id < 3 is not true",
                "                   river 3 (Tavin)",
                "    filled 1       no station refers to it",
                "                   river 2 (渡川)",
                "    repeated 1     1 row has several partners",
                "                   river 1 (Ombrel)",
                "    unused 1       s.river_id is empty",
                "                   station 3 (Ford)",
                "    unused 1       a partner is there, but s.id < 3 is not true",
                "                   station 3 (Weir)",
                "",
                "  WHERE",
                "    dropped 1      r.id < 3 is false",
                "                   river 3 (Tavin)"));
  }

  @DataProvider
  static Object[][] promises() {
    return new Object[][] {
      {"station s JOIN river r ON r.id = s.river_id", "at most one partner"},
      {"river a JOIN station s ON s.id = a.id", "at most one partner, and some have more"},
      {"need n JOIN river r ON r.id = n.river_id", "exactly one partner, and 1 row has none"},
    };
  }

  @Test(dataProvider = "promises")
  public void showsWhatKeysPromiseBesideWhatHappened(String from, String expected) {
    String sql = "SELECT 1 AS one FROM " + from;
    assertThat(plain.ledger(lantrel.study(sql).ledger()).lines())
        .contains(
            "  " + sql.substring(sql.indexOf("JOIN"), sql.indexOf(" ON")),
            "    keys and references promise a row " + expected);
  }

  @Test
  public void showsAFindingWithItsRowsAndRepair() {
    Study study =
        lantrel.study(
            "SELECT s.name, r.name AS river\nFROM station s\nJOIN river r ON r.id = s.river_id");
    assertThat(plain.check(List.of(new StudiedFile("q.sql", List.of(study)))))
        .isEqualTo(
            lines(
                "q.sql:3:1  warning  rows-without-partner",
                "    «JOIN» river r ON r.id = s.river_id",
                "  This JOIN loses 1 station: s.river_id is empty. Write LEFT JOIN to keep it.",
                "  rows      station 3 (Ford)",
                "  shown by  the schema has station.river_id → river.id",
                "  repair    3 rows become 4",
                "    - JOIN river r ON r.id = s.river_id",
                "    + LEFT JOIN river r ON r.id = s.river_id",
                "",
                "1 statement checked: 1 warning."));
  }

  @Test
  public void setsOffPlacesByColourWhereThereIsColour() {
    Study study = lantrel.study("SELECT s.nme FROM station s");
    String text =
        Visible.of(
            new TextReport(new Style(true, 100))
                .check(List.of(new StudiedFile("q.sql", List.of(study)))));
    assertThat(text).contains("\u001b[31merror\u001b[0m").contains("s.\u001b[1;4mnme\u001b[0m");
    assertThat(text.replaceAll("\u001b\\[[0-9;]*m", ""))
        .doesNotContain("«")
        .doesNotContain("\u001b");
  }

  @Test
  public void alignsWideCharactersAndTellsNullFromText() {
    ShownRows rows =
        new ShownRows(
            List.of(new Heading("名", "", false, false), new Heading("n", "", true, false)),
            List.of(row("渡川", 7), row("x", null), row("", 12)),
            4);
    assertThat(plain.rows(rows))
        .isEqualTo(
            lines(
                "  名       n",
                "  渡川     7",
                "  x     NULL",
                "  ''      12",
                "  the first 3 of 4 rows"));
  }

  private static List<Cell> row(String text, @Nullable Integer number) {
    return List.of(new Cell(text, false), new Cell(number, false));
  }

  @DataProvider
  static Object[][] widths() {
    return new Object[][] {{0, 80}, {79, 80}, {97, 97}, {120, 120}, {500, 120}};
  }

  @Test(dataProvider = "widths")
  public void keepsBetween80And120Columns(int asked, int given) {
    assertThat(new Style(false, asked).width()).isEqualTo(given);
  }

  @Test
  public void saysWhatWasNotCheckedAndWhatWasRefused() {
    List<Study> studies =
        lantrel.studies(
            "FROM river USING SAMPLE 3    ; SELECT nothing_known(1); SELECT id FROM river");
    String text = plain.check(List.of(new StudiedFile("q.sql", studies)));
    assertThat(text)
        .containsSubsequence(
            "q.sql:1:1  not checked",
            "q.sql:1:32  refused",
            "1 statement checked, 2 not or only in part: nothing found.");
  }
}
