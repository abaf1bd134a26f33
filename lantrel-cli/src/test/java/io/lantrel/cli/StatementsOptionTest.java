package io.lantrel.cli;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.engine.SentStatement;
import io.lantrel.sql.Dialect;
import io.lantrel.sql.SourceText;
import io.lantrel.sql.SqlReader;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** All that a database is sent, in a file. */
public class StatementsOptionTest {

  private Path folder = Path.of("");
  private Path file = Path.of("");

  @BeforeMethod
  public void write() throws IOException {
    folder =
        Fixture.folder(
            "loom",
            Map.of(
                "schema.sql",
                "CREATE TABLE loom (no INTEGER PRIMARY KEY, \"the; name\" VARCHAR(20));\n"
                    + "CREATE TABLE cloth (id INTEGER PRIMARY KEY, loom_no INTEGER, ells VARCHAR(9));\n"
                    + "CREATE TABLE visit (id INTEGER PRIMARY KEY, cloth_id INTEGER REFERENCES cloth (id));\n",
                "visit.csv",
                "id,cloth_id\n1,1\n2,1\n",
                "loom.csv",
                "no,the; name\n1,Old -- one\n2,Tall\n",
                "cloth.csv",
                "id,loom_no,ells\n1,1,4\n2,1,many\n3,,6\n",
                "q.sql",
                "SELECT c.id, l.\"the; name\" FROM cloth c LEFT JOIN loom l ON l.no = c.loom_no\n"));
    file = folder.resolve("asked.sql");
  }

  private Answer run(String command, String... more) {
    List<String> args = new ArrayList<>(List.of(command, "--data", folder.toString()));
    args.addAll(List.of("--statements", file.toString()));
    args.addAll(List.of(more));
    return Answer.to(args);
  }

  private String query() {
    return folder.resolve("q.sql").toString();
  }

  /** Commands with what they need besides. */
  @DataProvider
  static Object[][] commands() {
    return new Object[][] {{"check"}, {"ledger"}, {"survey"}, {"rows"}, {"compare"}, {"hierarchy"}};
  }

  /**
   * The file is SQL: comments and statements, as many as were counted, each of which can be read.
   */
  @Test(dataProvider = "commands")
  public void isSql(String command) throws IOException {
    String[] more =
        switch (command) {
          case "survey" -> new String[0];
          case "hierarchy" -> new String[] {"loom"};
          case "compare" -> new String[] {query(), query()};
          default -> new String[] {query()};
        };
    Answer answer = run(command, more);
    assertThat(answer.err()).doesNotContain("fault of Lantrel");
    String text = Files.readString(file);
    assertThat(text).startsWith("-- Statements that Lantrel sent, in this order.\n");
    long begun = text.lines().filter(line -> line.matches("-- [0-9]+(,.*)?")).count();
    assertThat(text.lines().filter(line -> line.matches("-- took [0-9]+\\.[0-9]{3} s.*")))
        .hasSize((int) begun);
    assertThat(SqlReader.read(new SourceText(text), Dialect.DUCKDB)).hasSize((int) begun);
  }

  /**
   * Whether values are among those of another column: gathered once, by IN. By EXISTS an engine
   * without an index there looks through all of them for each row.
   */
  @Test
  public void valuesAreSoughtAmongOthersByIn() throws IOException {
    Path two = folder.resolve("two.sql");
    Files.writeString(two, "SELECT c.ells FROM cloth c JOIN visit v ON v.id = c.id");
    assertThat(run("check", two.toString()).out()).contains("not-a-reference");
    assertThat(Files.readString(file))
        .containsPattern("IN \\(SELECT \"c\"\\.\"id\" AS v FROM cloth");
  }

  @Test
  public void whatFailedSaysWhy() throws IOException {
    Path bad = folder.resolve("bad.sql");
    Files.writeString(
        bad,
        "SELECT CAST(c.ells AS INTEGER) AS n, l.no FROM cloth c JOIN loom l ON l.no = c.loom_no");
    run("rows", bad.toString());
    assertThat(Files.readString(file))
        .containsPattern("-- 1, reads cloth, loom\nSELECT CAST[^\n]*;\n-- took [^\n]* s, failed: ")
        .contains("many");
  }

  @Test
  public void whatElseIsThereStays() throws IOException {
    assertThat(run("ledger", query()).exit()).isZero();
    String first = Files.readString(file);
    assertThat(run("ledger", query()).exit()).isZero();
    assertThat(Files.readString(file).lines().filter(line -> !line.startsWith("-- took")))
        .isEqualTo(first.lines().filter(line -> !line.startsWith("-- took")).toList());
    String kept = Files.readString(Path.of(query()));
    Answer over = Answer.to("ledger", "--data", folder + "", "--statements", query(), query());
    assertThat(over.exit()).isEqualTo(3);
    assertThat(over.err())
        .contains("q.sql is there already and holds something else; nothing is written into it");
    assertThat(Files.readString(Path.of(query()))).isEqualTo(kept);
    assertThat(
            Answer.to("ledger", "--data", folder + "", "--statements", folder + "", query()).err())
        .contains("is there already and holds something else");
    Answer nowhere =
        Answer.to("ledger", "--data", folder + "", "--statements", folder + "/no/x.sql", query());
    assertThat(nowhere.exit()).isEqualTo(3);
    assertThat(nowhere.err()).contains("cannot be written").doesNotContain("\tat ");
  }

  /** Where nobody watches a terminal nothing is said; where somebody does, it is this. */
  @Test
  public void theLineForALongOne() {
    SentStatement slow =
        new SentStatement(4, "SELECT 1", List.of("reading", "station"), SentStatement.Way.RUN);
    assertThat(SlowStatement.words(slow, Duration.ofMillis(12_400)))
        .isEqualTo("12 s for statement 4 over reading, station (Ctrl-C stops it)");
    assertThat(run("ledger", query()).err()).isEmpty();
  }
}
