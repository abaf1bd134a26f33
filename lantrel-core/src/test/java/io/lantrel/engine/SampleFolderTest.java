package io.lantrel.engine;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.lantrel.Lantrel;
import io.lantrel.Scratch;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** A folder of sample data may have come from anybody: it is data, and nothing in it runs. */
public class SampleFolderTest {

  private static final String TABLE = "CREATE TABLE t (a INTEGER, b VARCHAR(200));\n";

  private static Path folder(String schema, String csv) throws IOException {
    Path folder = Scratch.folder("sample");
    Files.writeString(folder.resolve("schema.sql"), schema);
    Files.writeString(folder.resolve("t.csv"), csv);
    return folder;
  }

  /** What acts in some engine; each is tried in all of them. */
  private static final List<String> ACTING =
      List.of(
          "INSERT INTO t VALUES (1, CSVWRITE('CANARY', 'SELECT 1'));",
          "INSERT INTO t VALUES (1, FILE_READ('/etc/hostname'));",
          "INSERT INTO t VALUES (1, read_text('/etc/hostname'));",
          "INSERT INTO t VALUES ((SELECT 1), 'a');",
          "INSERT INTO t VALUES (1, 'a' || 'b');",
          "INSERT INTO t VALUES (1 + 1, 'a');",
          "INSERT INTO t VALUES (nextval('s'), 'a');",
          "INSERT INTO t VALUES (NEXT VALUE FOR s, 'a');",
          "INSERT INTO t VALUES (CAST(upper('1') AS INTEGER), 'a');");

  private static final List<String> PASSED_OVER =
      List.of(
          "CREATE ALIAS run AS 'void run() throws Exception { Runtime.getRuntime().exec(\"touch"
              + " CANARY\"); }'; CALL run();",
          "CREATE LINKED TABLE l ('org.h2.Driver', 'jdbc:h2:CANARY', 'a', 'b', 'c');",
          "CREATE TRIGGER g BEFORE SELECT ON t CALL 'a.B';",
          "CREATE VIRTUAL TABLE v USING fts5 (a);",
          "CREATE TABLE c AS SELECT * FROM read_csv('/etc/hostname');",
          "COPY t TO 'CANARY';",
          "ATTACH 'CANARY' AS c;",
          "INSTALL httpfs; LOAD httpfs;",
          "SET enable_external_access = true;",
          "PRAGMA writable_schema = ON;",
          "SCRIPT TO 'CANARY';",
          "CREATE VIEW v AS SELECT * FROM read_text('/etc/hostname');",
          "CREATE VIEW v AS SELECT * FROM CSVREAD('/etc/hostname');",
          "CREATE VIEW v AS SELECT CSVWRITE('CANARY', 'SELECT 1') AS a FROM t;",
          "CREATE VIEW v AS SELECT load_extension('x') AS a FROM t;",
          "CREATE VIEW v AS SELECT * FROM '/etc/hostname';",
          "CREATE VIEW v AS SELECT * FROM LINK_SCHEMA('A', '', 'jdbc:h2:CANARY', '', '', 'B');",
          "INSERT INTO t SELECT a, CSVWRITE('CANARY', 'SELECT 1') FROM t;",
          "DROP TABLE t;",
          "DO $$ BEGIN PERFORM 1; END $$;");

  @DataProvider
  static Object[][] engines() {
    return Engine.embedded().stream().map(each -> new Object[] {each}).toArray(Object[][]::new);
  }

  @Test(dataProvider = "engines")
  public void nothingInAFolderRuns(Engine engine) throws IOException {
    Path canary = Scratch.folder("canary").resolve("sings");
    for (String acting : ACTING) {
      Path folder = folder(TABLE + acting.replace("CANARY", canary.toString()), "a,b\n1,x\n");
      assertThatThrownBy(() -> Lantrel.open(folder, engine).close())
          .as(acting)
          .isInstanceOf(DataException.class)
          .hasMessageMatching(
              "schema.sql:2:\\d+: INSERT takes constants only here, and .* is none");
    }
    for (String other : PASSED_OVER) {
      Path folder = folder(TABLE + other.replace("CANARY", canary.toString()), "a,b\n1,x\n");
      try (Lantrel lantrel = Lantrel.open(folder, engine)) {
        assertThat(lantrel.study("SELECT a FROM t").result().size()).as(other).isEqualTo(1);
        assertThatThrownBy(() -> lantrel.study("SELECT * FROM v").result())
            .isInstanceOf(DatabaseException.class);
      } catch (DataException refused) {
        assertThat(refused.getMessage()).as(other).startsWith("schema.sql");
      }
      assertThat(canary).as(other).doesNotExist();
    }
  }

  @DataProvider
  static Object[][] queries() {
    List<Object[]> rows = new ArrayList<>();
    for (Engine engine : Engine.embedded()) {
      for (String query :
          List.of(
              "SELECT * FROM read_csv('/etc/hostname')",
              "SELECT * FROM '/etc/hostname'",
              "SELECT FILE_READ('/etc/hostname') FROM t",
              "SELECT CSVWRITE('/tmp/lantrel-canary', 'SELECT 1') FROM t",
              "SELECT load_extension('x') FROM t",
              "SELECT * FROM duckdb_secrets()",
              "SELECT getenv('HOME') FROM t")) {
        rows.add(new Object[] {engine, query});
      }
    }
    return rows.toArray(Object[][]::new);
  }

  @Test(dataProvider = "queries")
  public void aQueryOnSampleDataIsHeldToTheSame(Engine engine, String query) throws IOException {
    try (Lantrel lantrel = Lantrel.open(folder(TABLE, "a,b\n1,x\n"), engine)) {
      assertThatThrownBy(() -> lantrel.study(query).result())
          .isInstanceOfAny(DatabaseException.class, IllegalStateException.class)
          .hasMessageMatching(
              ".*(?:is not known to only compute|is not among those|read as a query).*");
    }
    assertThat(Path.of("/tmp/lantrel-canary")).doesNotExist();
  }

  /** What the list keeps out, the engine keeps out as well. */
  @Test(dataProvider = "engines")
  public void behindTheListStandsTheEngine(Engine engine) throws IOException {
    String function =
        switch (engine) {
          case DUCKDB -> "read_text";
          case H2 -> "FILE_READ";
          default -> "load_extension";
        };
    Limits allowing = Limits.usual().allowing(function);
    String query =
        engine == Engine.DUCKDB
            ? "SELECT * FROM read_text('/etc/hostname')"
            : "SELECT " + function + "('/etc/hostname') FROM t";
    try (Lantrel lantrel = Lantrel.open(folder(TABLE, "a,b\n1,x\n"), engine, allowing)) {
      assertThatThrownBy(() -> lantrel.study(query).result())
          .isInstanceOf(DatabaseException.class)
          .hasMessageNotContaining("is not known to only compute");
    }
  }

  // ---- files ----

  @Test
  public void onlyRegularFilesOfTheFolderAreRead() throws IOException, InterruptedException {
    Path secret = Files.writeString(Scratch.file("secret", ".csv"), "hush\n");
    Path linked = folder(TABLE, "");
    Files.delete(linked.resolve("t.csv"));
    Files.createSymbolicLink(linked.resolve("t.csv"), secret);
    assertThatThrownBy(() -> Lantrel.open(linked).close())
        .hasMessage("t.csv: this is a link to a file outside of the folder; copy the file");
    Path schema = folder(TABLE, "a,b\n");
    Files.delete(schema.resolve("schema.sql"));
    Files.createSymbolicLink(schema.resolve("schema.sql"), secret);
    assertThatThrownBy(() -> Lantrel.open(schema).close())
        .hasMessageContaining("outside of the folder")
        .hasMessageNotContaining("hush");
    Path endless = folder(TABLE, "");
    Files.delete(endless.resolve("t.csv"));
    new ProcessBuilder("mkfifo", endless.resolve("t.csv").toString()).start().waitFor();
    assertThatThrownBy(() -> Lantrel.open(endless).close())
        .hasMessage("t.csv: this is not a regular file");
    Path within = folder(TABLE, "a,b\n1,x\n");
    Files.move(within.resolve("t.csv"), within.resolve("real.txt"));
    Files.createSymbolicLink(within.resolve("t.csv"), within.resolve("real.txt"));
    try (Lantrel lantrel = Lantrel.open(within)) {
      assertThat(lantrel.study("SELECT a FROM t").result().size()).isEqualTo(1);
    }
  }

  @DataProvider
  static Object[][] files() {
    return new Object[][] {
      {"a,b\n1,\"x\ry\"\n2,z\n", "1 x\ry|2 z"},
      {"a,b\n1,\"\r\"\n2,z\n", "1 \r|2 z"},
      {"a,b\r\n1,\"x\r\ny\"\r\n2,z\r\n", "1 x\r\ny|2 z"},
      {"a,b\r1,x\r2,y\r", "1 x|2 y"},
      {"a,b\n1,\"x\"\"y\"\n2,\"\"\"\"\n", "1 x\"y|2 \""},
      {"a,b\n1,\"\"\n2,\n", "1 |2 NULL"},
      {"a,b\n1,\"x\n\n\ny\"\n\n2,z", "1 x\n\n\ny|2 z"},
      {"\ufeff\"a\",\"b\"\n1,x\n", "1 x"},
      {"b,a\nx,1\n", "1 x"},
      {"a,b\n1, x \n", "1  x "},
      {"a,b\n1,\"a,b\"\n", "1 a,b"},
      {"a,b\n1,x\\\"y\n", "1 x\\\"y"},
      {"a,b\n1,#x\n", "1 #x"},
      {"a,b\n", ""},
      {"\"a\",\"b\"\n\"1\",\"\r\n\r\"\n\"2\",\"\n\"", "1 \r\n\r|2 \n"},
    };
  }

  @Test(dataProvider = "files")
  public void everyRowArrives(String csv, String rows) throws IOException {
    try (Lantrel lantrel = Lantrel.open(folder(TABLE, csv))) {
      List<String> read =
          lantrel.study("SELECT a, b FROM t ORDER BY a").result().rows().stream()
              .map(row -> row.get(0) + " " + (row.get(1) == null ? "NULL" : row.get(1)))
              .toList();
      assertThat(String.join("|", read)).isEqualTo(rows);
    }
  }

  @DataProvider
  static Object[][] faults() {
    return new Object[][] {
      {"a,b\n1,\"x\"y\n", "t.csv:2:1: behind a quote that closes a field stands something else"},
      {"a,b\n1,x\n2,\"y\n3,z\n", "t.csv:3:1: a quote is opened from here on and never closed"},
      {"a,b\n1,x,y\n", "t.csv:2:5: this line has 3 fields, the header has 2"},
      {"a,b\n1\n", "t.csv:2:1: this line has 1 field"},
      {"a,c\n", "t.csv:1:3: the table t has no column \"c\""},
      {"a,b\nx,y\n", "t.csv:2:1: \"x\" does not fit a, which is INTEGER"},
      {"", "t.csv:1:1: the file is empty"},
    };
  }

  @Test(dataProvider = "faults")
  public void faultsAreToldWithTheirPlace(String csv, String message) throws IOException {
    Path folder = folder(TABLE, csv);
    assertThatThrownBy(() -> Lantrel.open(folder).close()).hasMessageStartingWith(message);
  }

  @Test
  public void whatIsNoUtf8IsTold() throws IOException {
    Path folder = folder(TABLE, "");
    Files.write(folder.resolve("t.csv"), "a,b\n1,\u00e4\n".getBytes(StandardCharsets.ISO_8859_1));
    assertThatThrownBy(() -> Lantrel.open(folder).close())
        .hasMessageStartingWith("t.csv:2:1: this is not UTF-8");
  }
}
