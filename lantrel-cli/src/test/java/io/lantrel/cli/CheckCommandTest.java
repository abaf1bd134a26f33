package io.lantrel.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.lantrel.check.CheckRules;
import io.lantrel.check.Kind;
import io.lantrel.check.Severity;
import io.lantrel.engine.DataException;
import io.lantrel.engine.Engine;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Kinds, repairs, exceptions and rules, on a small world of its own: a mill and its sacks. */
public class CheckCommandTest {

  private static final String FAULTY =
      "-- sacks é\r\nSELECT m.nme FROM mill m;\r\n"
          + "SELECT s.no, m.place FROM sack s JOIN mill m ON m.code = s.mill;\r\n"
          + "SELECT s.no FROM sack s WHERE s.mill = NULL AND s.weight <> NULL;\r\n"
          + "SELECT s.no FROM sack s LIMIT 2;\r\n";

  private Path folder = Path.of("");

  @BeforeMethod
  public void write() throws IOException {
    folder = Files.createTempDirectory("mill");
    Files.writeString(
        folder.resolve("schema.sql"),
        "CREATE TABLE mill (code CHAR(2) PRIMARY KEY, name VARCHAR(20) NOT NULL, place"
            + " VARCHAR(20));\nCREATE TABLE sack (no INTEGER PRIMARY KEY, mill CHAR(2) REFERENCES"
            + " mill (code), weight INTEGER);\n");
    Files.writeString(folder.resolve("mill.csv"), "code,name,place\nAA,Upper,hill\nBB,Lower,\n");
    Files.writeString(
        folder.resolve("sack.csv"), "no,mill,weight\n1,AA,20\n2,AA,\n3,BB,25\n4,,30\n");
  }

  private Path file(String text) throws IOException {
    Path file = folder.resolve("query.sql");
    Files.writeString(file, text);
    return file;
  }

  private Answer run(String... args) {
    Answer answer = Answer.to(args);
    return new Answer(answer.exit(), answer.out().replace(folder + "/", ""), answer.err());
  }

  private Answer check(Path file, String... args) {
    List<String> all = new ArrayList<>(List.of("check", "--data", folder.toString()));
    all.addAll(List.of(args));
    all.add(file.toString());
    return run(all.toArray(String[]::new));
  }

  // ---- repairs ----

  /** The rows are in DuckDB, the rules are the server's. */
  @Test
  public void theEngineCanBeAServer() throws IOException {
    Path query = file("SELECT IFNULL(s.weight, 0) FROM sack s;\nSELECT \"No\" FROM sack;\n");
    Answer answer = check(query, "--engine", "postgresql");
    assertThat(answer.exit()).isEqualTo(1);
    assertThat(answer.out())
        .contains("PostgreSQL has no function IFNULL. Write COALESCE.")
        .contains("as many rows as before: 4")
        .contains("sack has no column No.");
    assertThat(answer.err())
        .isEqualTo(
            "lantrel: note: PostgreSQL is a server, which is only read: the rows are in DuckDB"
                + " here, and the queries are judged by the rules of PostgreSQL\n");
    assertThat(check(query).out()).doesNotContain("IFNULL").doesNotContain("unknown-column");
  }

  @Test
  public void repairsAllAndLeavesAllElse() throws IOException {
    Path file = file(FAULTY);
    Answer answer = check(file, "--repair", "all");
    assertThat(Files.readString(file))
        .isEqualTo(
            "-- sacks é\r\nSELECT m.name FROM mill m;\r\n"
                + "SELECT s.no, m.place FROM sack s LEFT JOIN mill m ON m.code = s.mill;\r\n"
                + "SELECT s.no FROM sack s WHERE s.mill IS NULL AND s.weight IS NOT NULL;\r\n"
                + "SELECT s.no FROM sack s ORDER BY s.no LIMIT 2;\r\n");
    assertThat(answer.err())
        .contains("repaired", "unknown-column", "null-comparison", "unordered-limit");
    assertThat(answer.out()).isEqualTo("4 statements checked: nothing found.\n");
    assertThat(answer.exit()).isZero();
    try (Stream<Path> files = Files.list(folder)) {
      assertThat(files).hasSize(4);
    }
  }

  @DataProvider
  static Object[][] choices() {
    return new Object[][] {
      {"unordered-limit", List.of("ORDER BY s.no"), List.of("m.nme", "= NULL")},
      {"2", List.of("m.name"), List.of("= NULL", "sack s LIMIT")},
      {"null-comparison", List.of("IS NULL", "IS NOT NULL"), List.of("m.nme", "sack s LIMIT")},
      {"cross-product", List.of(), List.of("m.nme", "= NULL", "sack s LIMIT")},
    };
  }

  @Test(dataProvider = "choices")
  public void repairsWhatIsChosen(String which, List<String> there, List<String> left)
      throws IOException {
    Path file = file(FAULTY);
    check(file, "--repair", which);
    assertThat(Files.readString(file)).contains(left);
    assertThat(there).allSatisfy(each -> assertThat(Files.readString(file)).contains(each));
  }

  @Test
  public void aDryRunShowsADifferenceAndWritesNothing() throws IOException {
    Path file = file(FAULTY.replace("\r", ""));
    Answer answer = check(file, "--repair", "all", "--dry-run");
    assertThat(answer.out())
        .startsWith("--- query.sql\n+++ query.sql\n@@ -1,5 +1,5 @@\n")
        .contains("-SELECT m.nme FROM mill m;\n", "+SELECT m.name FROM mill m;\n");
    assertThat(Files.readString(file)).isEqualTo(FAULTY.replace("\r", ""));
    assertThat(answer.exit()).isZero();
  }

  @DataProvider
  static Object[][] wrongCalls() {
    return new Object[][] {
      {List.of("--dry-run"), "--dry-run goes with --repair"},
      {List.of("--repair", "every"), "--repair takes all, a kind, or the number of a line"},
      {List.of("--repair", "limit"), "is unordered-limit meant?"},
    };
  }

  @Test(dataProvider = "wrongCalls")
  public void wrongCallsAreToldInASentence(List<String> args, String expected) throws IOException {
    Answer answer = check(file(FAULTY), args.toArray(String[]::new));
    assertThat(answer.exit()).isEqualTo(2);
    assertThat(answer.err()).contains(expected).doesNotContain("Exception");
    assertThat(Files.readString(folder.resolve("query.sql"))).isEqualTo(FAULTY);
  }

  @Test
  public void standardInputIsNotWritten() {
    Answer answer = run("check", "--data", folder.toString(), "--repair", "all", "-");
    assertThat(answer.exit()).isEqualTo(2);
    assertThat(answer.err()).contains("standard input cannot be written");
  }

  @Test
  public void aStatementThatWasNotUnderstoodIsLeft() throws IOException {
    Path file = file("DELETE FROM sack;\nSELECT FROM WHERE;\nSELECT m.nme FROM mill m;\n");
    check(file, "--repair", "all");
    assertThat(Files.readString(file))
        .startsWith("DELETE FROM sack;\nSELECT FROM WHERE;\n")
        .endsWith("SELECT m.name FROM mill m;\n");
  }

  /** What a product makes of a word directly behind a number. */
  @DataProvider
  static Object[][] numbers() {
    String runs =
        "the number 12 runs into the word behind it; write a blank between, or put a name in";
    return new Object[][] {
      {"SELECT 12abc FROM mill", "postgresql", 1, runs},
      {"SELECT 12abc FROM mill", "sqlite", 1, runs},
      {"SELECT 1.5x FROM mill", "postgresql", 1, "the number 1.5 runs into the word behind it"},
      {"SELECT 12abc FROM mill", "mariadb", 1, "mill has no column 12abc"},
      {"SELECT 12abc FROM mill", "duckdb", 0, "nothing found"},
      {"SELECT code FROM mill WHERE 1e3 > 2AND 0.5 < 1", "h2", 0, "nothing found"},
    };
  }

  @Test(dataProvider = "numbers")
  public void readsWordsBehindNumbersAsTheProductDoes(
      String sql, String engine, int exit, String expected) throws IOException {
    String schema = folder.resolve("schema.sql").toString();
    Answer answer =
        run("check", "--schema", schema, "--engine", engine, file(sql + ";").toString());
    assertThat(answer.out().replaceAll("\\s+", " ")).containsIgnoringCase(expected);
    assertThat(answer.exit()).isEqualTo(exit);
  }

  // ---- exceptions and rules ----

  @DataProvider
  static Object[][] comments() {
    return new Object[][] {
      {"-- accepted: unordered-limit, any two will do\n%s", "1 accepted by a comment"},
      {"%s -- accepted: unordered-limit: any two will do", "1 accepted by a comment"},
      {"/* accepted: unordered-limit; any two */ %s", "1 accepted by a comment"},
      {"-- accepted: unordered-limit\n%s", "the exception in line 1 says no reason"},
      {"-- accepted: unorderd-limit, any\n%s", "near it is unordered-limit"},
      {"-- accepted: never-a-row, any\n%s", "the exception in line 1 accepts nothing"},
      {"-- is accepted: unordered-limit, any\n%s", "1 warning."},
    };
  }

  @Test(dataProvider = "comments")
  public void commentsAcceptFindingsWithAReason(String text, String expected) throws IOException {
    Answer answer = check(file(String.format(text, "SELECT s.no FROM sack s LIMIT 2") + ";\n"));
    assertThat(answer.out().replaceAll("\\s+", " ")).contains(expected);
    assertThat(answer.exit()).isEqualTo(expected.contains("by a comment") ? 0 : 1);
  }

  @Test
  public void errorsCannotBeAccepted() throws IOException {
    Answer answer = check(file("-- accepted: unknown-column, later\nSELECT m.nme FROM mill m;\n"));
    assertThat(answer.out()).contains("error  unknown-column");
    assertThat(answer.exit()).isEqualTo(1);
  }

  @Test
  public void aFileOfTheProjectSetsSeverities() throws IOException {
    Path below = Files.createDirectories(folder.resolve("a/b"));
    Files.writeString(
        folder.resolve(CheckSettings.FILE),
        "unordered-limit = note\nnull-comparison = off, we know\nrepeated-label: error\n");
    CheckRules rules = CheckSettings.around(below);
    assertThat(rules.of(Kind.UNORDERED_LIMIT).orElseThrow().severity())
        .isEqualTo(Optional.of(Severity.NOTE));
    assertThat(rules.of(Kind.NULL_COMPARISON).orElseThrow().severity()).isEmpty();
    assertThat(rules.of(Kind.NULL_COMPARISON).orElseThrow().reason()).isEqualTo("we know");
    assertThat(rules.of(Kind.REPEATED_LABEL).orElseThrow().severity())
        .isEqualTo(Optional.of(Severity.ERROR));
    assertThat(rules.of(Kind.CROSS_PRODUCT)).isEmpty();
  }

  @DataProvider
  static Object[][] wrongSettings() {
    return new Object[][] {
      {"unorderd-limit = note", "near it is: unordered-limit"},
      {"unordered-limit = off", "off without a reason"},
      {"unordered-limit = loud", "error, warning, note or off"},
      {"unknown-column = off, later", "cannot be off"},
      {"also-on = postgres", "close to it: postgresql"},
    };
  }

  @Test(dataProvider = "wrongSettings")
  public void wrongSettingsAreToldInASentence(String text, String expected) throws IOException {
    Files.writeString(folder.resolve(CheckSettings.FILE), text);
    assertThatThrownBy(() -> CheckSettings.around(folder))
        .isInstanceOf(DataException.class)
        .hasMessageContaining(expected)
        .hasMessageContaining(CheckSettings.FILE);
  }

  @Test
  public void otherEnginesAreAskedForByFileOrOption() throws IOException {
    Path query = file("SELECT m.name || '!' AS name FROM mill m;\n");
    assertThat(check(query).exit()).isZero();
    Answer answer = check(query, "--also-on", "mariadb, sqlite");
    assertThat(answer.exit()).isEqualTo(1);
    assertThat(answer.out())
        .contains("not-in-engine", "In MariaDB, || means OR; here it puts texts together.")
        .doesNotContain("SQLite");
    Answer wrong = check(query, "--also-on", "oracl");
    assertThat(wrong.exit()).isEqualTo(2);
    assertThat(wrong.err()).contains("there is no engine oracl; known are duckdb");
    Files.writeString(folder.resolve(CheckSettings.FILE), "also-on = mariadb, postgresql");
    assertThat(CheckSettings.around(folder).alsoOn())
        .containsExactlyInAnyOrder(Engine.MARIADB, Engine.POSTGRESQL);
  }

  // ---- kinds, and what programs read ----

  private static void fits(String json, String name) throws IOException {
    assertThat(Fixture.violations(name, json)).isEmpty();
  }

  @Test
  public void kindsAreListedAndEachHasItsPage() throws IOException {
    Answer list = run("kinds");
    assertThat(list.out().lines().filter(line -> !line.isBlank()))
        .hasSize(Kind.values().length + 1);
    for (Kind kind : Kind.values()) {
      assertThat(list.out()).contains(kind.id(), kind.title());
      assertThat(run("kinds", kind.id()).out()).startsWith("# " + kind.id() + "\n");
    }
    fits(run("kinds", "--format", "json").out(), "kinds");
    Answer wrong = run("kinds", "cross");
    assertThat(wrong.exit()).isEqualTo(2);
    assertThat(wrong.err()).contains("is cross-product meant?");
  }

  @Test
  public void sarifHasKindsRepairsAndExceptions() throws IOException {
    Path file =
        file(FAULTY + "-- accepted: unordered-limit, any\nSELECT m.code FROM mill m LIMIT 1;\n");
    Answer answer = check(file, "--format", "sarif");
    fits(answer.out(), "sarif");
    assertThat(answer.out())
        .contains("\"ruleId\" : \"unknown-column\"", "\"fixes\"", "\"justification\" : \"any\"");
    assertThat(check(file, "--format", "sarif").out()).isEqualTo(answer.out());
    fits(check(file, "--format", "json").out(), "check");
  }

  /**
   * What was not answered in time is not known to be empty, and the next statement is looked at.
   */
  @Test
  public void aQueryThatDoesNotEndIsNotCalledEmpty() throws IOException {
    Answer answer =
        check(
            file(
                "WITH RECURSIVE up AS (SELECT s.no, s.weight FROM sack s WHERE s.no = 1 UNION ALL"
                    + " SELECT s.no, ABS(s.weight) FROM sack s JOIN up ON s.weight = up.weight)"
                    + " SELECT up.no FROM up;\nSELECT s.no FROM sack s WHERE s.weight = NULL;\n"),
            "--timeout",
            "8",
            "--fail-on",
            "none");
    assertThat(answer.exit()).isEqualTo(3);
    assertThat(answer.out())
        .contains(
            "not checked", "was not run to its end", "null-comparison", "1 not or only in part")
        .doesNotContain("never-a-row", "takes no step");
  }
}
