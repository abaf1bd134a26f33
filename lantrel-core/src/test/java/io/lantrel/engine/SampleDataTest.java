package io.lantrel.engine;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.lantrel.Lantrel;
import io.lantrel.RiverWatchFolder;
import io.lantrel.Scratch;
import io.lantrel.survey.Survey;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.stream.Collectors;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Loading sample data, good and bad. */
public class SampleDataTest {

  private static final String TWO_TABLES =
      "CREATE TABLE river (id INTEGER PRIMARY KEY, name VARCHAR(10) NOT NULL);\n"
          + "CREATE TABLE station (id INTEGER PRIMARY KEY, river_id INTEGER REFERENCES river,"
          + " flow DECIMAL(4,1), open BOOLEAN, since DATE, seen TIMESTAMP);";

  private static final String RIVERS = "id,name\n1,Ombrel\n";
  private static final String STATIONS = "id,river_id,flow,open,since,seen\n";

  private static Path folder(String... namesAndTexts) throws IOException {
    Path folder = Scratch.folder("sample");
    for (int i = 0; i < namesAndTexts.length; i += 2) {
      Files.writeString(
          folder.resolve(namesAndTexts[i]),
          namesAndTexts[i + 1],
          // é as one byte is no UTF-8.
          namesAndTexts[i + 1].contains("\u00e9")
              ? StandardCharsets.ISO_8859_1
              : StandardCharsets.UTF_8);
    }
    return folder;
  }

  @DataProvider
  static Object[][] badData() {
    return new Object[][] {
      {"2,7,1.5,true,2026-05-01", "station.csv:2:14: this line has 5 fields, the header has 6"},
      {"2,7,1.5,true,2026-05-01,,,", "station.csv:2:26: this line has 8 fields, the header has 6"},
      {"x,7,,,,", "station.csv:2:1: \"x\" does not fit id, which is INTEGER"},
      {"2, 7,,,,", "station.csv:2:3: \" 7\" does not fit river_id, which is INTEGER"},
      {"2,1.5,,,,", "station.csv:2:3: \"1.5\" does not fit river_id, which is INTEGER"},
      {"2,99999999999,,,,", "\"99999999999\" does not fit river_id, which is INTEGER"},
      {"2,1,12.34,,,", "station.csv:2:5: \"12.34\" does not fit flow, which is DECIMAL(4, 1)"},
      {"2,1,12345,,,", "station.csv:2:5: \"12345\" does not fit flow, which is DECIMAL(4, 1)"},
      {"2,1,,yes,,", "station.csv:2:6: \"yes\" does not fit open, which is BOOLEAN"},
      {"2,1,,,2026-02-30,", "station.csv:2:7: \"2026-02-30\" does not fit since, which is DATE"},
      {"2,1,,,,noon", "station.csv:2:8: \"noon\" does not fit seen, which is TIMESTAMP"},
      {"2,\"\",,,,", "station.csv:2:3: an empty text does not fit river_id, which is INTEGER"},
      {"1,1,,,,\n2,\"1\"x,,,,", "station.csv"},
      {
        "1,1,,,,\n2,1,,,,\"2026-01-01",
        "station.csv:3:1: a quote is opened from here on and never closed"
      },
      {"1,1,,,,\n2,\u00e9,,,,", "station.csv:3:1: this is not UTF-8"},
    };
  }

  @Test(dataProvider = "badData")
  public void saysInOneSentenceWhichValueIsWrong(String lines, String message) throws IOException {
    Path folder =
        folder(
            "schema.sql", TWO_TABLES, "river.csv", RIVERS, "station.csv", STATIONS + lines + "\n");
    assertThatThrownBy(() -> Lantrel.open(folder))
        .isInstanceOf(DataException.class)
        .hasMessageContaining(message)
        .hasMessageNotContaining("\n");
  }

  @DataProvider
  static Object[][] badFolders() {
    return new Object[][] {
      {new String[] {}, "there is no schema.sql in this folder"},
      {new String[] {"schema.sql", "CREATE TABLE t (id INTEGER)"}, "there is no t.csv"},
      {
        new String[] {"schema.sql", "CREATE TABLE river (id INTEGER)", "rivr.csv", "id"},
        "rivr.csv: schema.sql defines no table rivr; close to it: river"
      },
      {
        new String[] {"schema.sql", "CREATE TABLE t (id INTEGER)", "t.csv", ""},
        "t.csv:1:1: the file is empty; its first line must name the columns: id"
      },
      {
        new String[] {"schema.sql", "CREATE TABLE t (id INTEGER, name TEXT)", "t.csv", "id\n1\n"},
        "t.csv:1:1: the header lacks name of the table t"
      },
      {
        new String[] {"schema.sql", "CREATE TABLE t (id INTEGER, name TEXT)", "t.csv", "id,nme\n"},
        "t.csv:1:4: the table t has no column \"nme\"; close to it: name"
      },
      {
        new String[] {"schema.sql", "CREATE TABLE t (id INTEGER)", "t.csv", "id,id\n"},
        "t.csv:1:4: the column id stands here twice"
      },
      {
        new String[] {"schema.sql", "CREATE TABEL t (id INTEGER)"},
        "schema.sql:1:1: there is no CREATE TABLE in this file, so it is no schema"
      },
      {
        new String[] {"schema.sql", "CREATE TABLE t (id INTEGER,,)"},
        "schema.sql:1:28: found ,; expected"
      },
      {
        new String[] {"schema.sql", "CREATE TABLE t (id INTEGER, id TEXT)"},
        "schema.sql:1:29: the column id is defined twice in t"
      },
      {
        new String[] {"schema.sql", "CREATE TABLE t (id INTEGER);\nCREATE TABLE T (id INTEGER)"},
        "schema.sql:2:14: the table T is defined twice"
      },
      {
        new String[] {"schema.sql", "CREATE TABLE t (id INTEGER REFERENCES u)"},
        "schema.sql:1:39: t refers to a table u, which is not defined"
      },
      {
        new String[] {"schema.sql", "CREATE TABLE t (id INTEGER, PRIMARY KEY (di))"},
        "schema.sql:1:42: the table t has no column di; close to it: id"
      },
      {
        new String[] {"schema.sql", "CREATE TABLE t (id INTEGER REFERENCES t)"},
        "t has no primary key to refer to; name the columns"
      },
      {
        new String[] {"schema.sql", "CREATE TABLE t (id DECIMAL(99, 2))", "t.csv", "id\n"},
        "schema.sql: DuckDB refuses the table t: "
      },
      {
        new String[] {"schema.sql", "CREATE TABLE t (id UUID)", "t.csv", "id\nnone\n"},
        "t.csv: DuckDB refuses a value: "
      },
    };
  }

  @Test(dataProvider = "badFolders")
  public void saysInOneSentenceWhatTheFolderLacks(String[] files, String message)
      throws IOException {
    Path folder = folder(files);
    assertThatThrownBy(() -> Lantrel.open(folder))
        .isInstanceOf(DataException.class)
        .hasMessageContaining(message)
        .hasMessageNotContaining("\n");
  }

  @Test
  public void tellsAMissingFolder() {
    assertThatThrownBy(() -> Lantrel.open(Path.of("no-such-folder")))
        .hasMessageStartingWith("no-such-folder: there is no such folder");
  }

  private static List<String> values(Lantrel lantrel, String sql) {
    return lantrel.study(sql).result().rows().stream()
        .map(row -> row.stream().map(String::valueOf).collect(Collectors.joining("|")))
        .toList();
  }

  @Test
  public void readsWhatCsvCanHold() throws IOException {
    String schema =
        "CREATE TABLE \"Odd Name\" (\"select\" INTEGER, note VARCHAR(20), u UUID, d DOUBLE PRECISION);"
            + "CREATE TABLE single (x INTEGER);";
    String rows =
        "\uFEFFnote,\"select\",u,d\r\n"
            + "\"a \"\"b\"\", c\",1,,1e3\r\n"
            + "\"two\nlines\",2,00000000-0000-0000-0000-000000000001,-0.5\r\n"
            + "\"\",,,\r\n"
            + ",3,,\r\n\r\n";
    Path folder = folder("schema.sql", schema, "Odd Name.csv", rows, "single.csv", "x\n1\n\n3\n");
    try (Lantrel lantrel = Lantrel.open(folder)) {
      assertThat(values(lantrel, "SELECT * FROM \"odd name\""))
          .containsExactly(
              "1|a \"b\", c|null|1000.0",
              "2|two\nlines|00000000-0000-0000-0000-000000000001|-0.5",
              "null||null|null",
              "3|null|null|null");
      assertThat(values(lantrel, "SELECT x FROM single")).containsExactly("1", "null", "3");
    }
  }

  @Test
  public void tellsWhatViolatesTheSchema() throws IOException {
    String rivers = "id,name\n1,Ombrel\n1,Tavin\n,\n2,Kesk\n";
    String stations = STATIONS + "1,1,,,,\n2,9,,,,\n3,,,,,\n4,8,,,,\n";
    Path folder = folder("schema.sql", TWO_TABLES, "river.csv", rivers, "station.csv", stations);
    try (Lantrel lantrel = Lantrel.open(folder)) {
      Survey survey = lantrel.survey();
      assertThat(survey.tables().get(0).violations())
          .extracting(each -> each.kind().id() + " " + each.columns() + " " + each.rows())
          .containsExactly("null-in-key [id] 1", "null-in-column [name] 1", "repeated-key [id] 2");
      assertThat(survey.references()).hasSize(1);
      assertThat(survey.references().get(0).found()).isEqualTo(1);
      assertThat(survey.references().get(0).empty()).isEqualTo(1);
      assertThat(survey.references().get(0).toNothing()).isEqualTo(2);
      assertThat(survey.references().get(0).examples().get(0).words()).isEqualTo("station 2 (9)");
      assertThat(survey.violations()).isEqualTo(4);
    }
  }

  @DataProvider
  static Object[][] notRun() {
    return new Object[][] {
      {"DELETE FROM river"},
      {"SELECT $$'$$; ROLLBACK; DELETE FROM river; SELECT $$'$$"},
      {"SELECT $q$'$q$; ROLLBACK; DROP TABLE river; SELECT '"},
      {"DROP TABLE river"},
      {"SELECT 1; DELETE FROM river"},
      {"SELECT 1 /* ; */ ; /* */ DROP TABLE river -- SELECT"},
      {"WITH gone AS (DELETE FROM river RETURNING id) SELECT * FROM gone"},
      {"SELECT * INTO other FROM river"},
      {"INSERT INTO river SELECT * FROM river"},
      {"COPY river TO 'stolen.csv'"},
      {"ATTACH 'stolen.db'"},
      {"SELECT * FROM read_csv('/etc/hostname')"},
      {"SELECT * FROM '/etc/hostname'"},
      {"PRAGMA memory_limit='1GB'"},
      {"SET enable_external_access = true"},
    };
  }

  @Test(dataProvider = "notRun")
  public void runsNothingButQueriesOfItsTables(String sql) {
    try (Lantrel lantrel = Lantrel.open(RiverWatchFolder.data())) {
      lantrel.studies(sql).forEach(study -> study.findings());
      boolean fine =
          lantrel.studies(sql).stream()
              .allMatch(
                  study ->
                      study.isUnderstood()
                          && study.findings().isEmpty()
                          && study.inspection().refusal().isEmpty());
      assertThat(fine).isFalse();
      assertThat(values(lantrel, "SELECT COUNT(*) FROM river")).containsExactly("12");
    }
  }

  @Test
  public void tellsThatMoreRowsWereThere() {
    try (Lantrel lantrel = Lantrel.open(RiverWatchFolder.data())) {
      Rows some = lantrel.study("SELECT id FROM river ORDER BY id").result(5);
      assertThat(some.size()).isEqualTo(5);
      assertThat(some.cut()).isTrue();
      assertThat(lantrel.study("SELECT id FROM river").result(12).cut()).isFalse();
      assertThat(lantrel.engine()).startsWith("DuckDB ");
      assertThat(Arrays.asList(some.headings().toArray())).containsExactly("id");
    }
  }

  @DataProvider
  static Object[][] hidden() {
    return new Object[][] {
      {"SELECT 1 AS a /* /* */ ; ROLLBACK; DELETE FROM river; -- */"},
      {"SELECT 1 AS a -- x\r; ROLLBACK; DELETE FROM river"},
      {"SELECT '; ROLLBACK; DELETE FROM river; --' AS a"},
      {"SELECT 1 AS \"; ROLLBACK; DELETE FROM river; --\""},
    };
  }

  /** However a second statement is hidden, the rows stay. */
  @Test(dataProvider = "hidden")
  public void runsNoSecondStatement(String sql) {
    try (Lantrel lantrel = Lantrel.open(RiverWatchFolder.data())) {
      lantrel.studies(sql).forEach(study -> study.findings());
      assertThat(lantrel.studies(sql).get(0).result().size()).isEqualTo(1);
      assertThat(values(lantrel, "SELECT COUNT(*) FROM river")).containsExactly("12");
    }
  }
}
