package io.lantrel.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.io.StringReader;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Stream;
import javax.xml.XMLConstants;
import javax.xml.transform.stream.StreamSource;
import javax.xml.validation.SchemaFactory;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;
import org.xml.sax.SAXException;

/**
 * Verifying folders, and suggesting claims, on a small world of its own: a ferry and its tickets.
 */
public class VerifyCommandTest {

  private static final Map<String, String> FILES = new TreeMap<>();

  static {
    FILES.put(
        "schema.sql",
        "CREATE TABLE ferry (code CHAR(3) PRIMARY KEY, seats INTEGER NOT NULL);\n"
            + "CREATE TABLE ticket (no INTEGER PRIMARY KEY, ferry CHAR(3) REFERENCES ferry (code),"
            + " price DECIMAL(6,2) NOT NULL);\n");
    FILES.put("ferry.csv", "code,seats\nANN,20\nBEE,30\nCAT,5\n");
    FILES.put("ticket.csv", "no,ferry,price\n1,ANN,3.50\n2,ANN,4.00\n3,BEE,3.50\n4,,9.00\n");
    FILES.put(
        "q/good.sql",
        "-- claim: one row per ferry\n-- claim: every ferry appears\n"
            + "SELECT f.code, COUNT(t.no) AS n FROM ferry f LEFT JOIN ticket t ON t.ferry = f.code"
            + " GROUP BY f.code ORDER BY f.code;\n");
    FILES.put("q/good.expected.csv", "code,n\nANN,2\nBEE,1\nCAT,0\n");
    FILES.put(
        "q/bad.sql",
        "-- claim: one row per ferry\n-- claim: total of price is total of ticket.price\n"
            + "SELECT f.code, t.price FROM ferry f JOIN ticket t ON t.ferry = f.code;\n");
    FILES.put("q/slip.sql", "-- claim: evry ferry appears\nSELECT f.code FROM ferry f;\n");
    FILES.put("q/plain.sql", "SELECT f.code FROM ferry f;\n");
    FILES.put(
        "q/late.sql",
        "-- claim: at least 1 row\nSELECT f.code FROM ferry f WHERE f.seats >= :seats;\n");
    FILES.put("q/other/table.sql", "-- claim: rows of table.csv\nSELECT f.code FROM ferry f;\n");
    FILES.put("q/other/table.csv", "code\nANN\nBEE\nDOG\n");
    FILES.put("q/broken.sql", "-- claim: 3 rows\nSELECT f.cod FROM ferry f;\n");
    FILES.put("q/load.sql", "DELETE FROM ticket;\n");
    FILES.put("q/empty.sql", "-- claim: 3 rows\n");
  }

  private Path folder = Path.of("");

  @BeforeMethod
  public void write() throws IOException {
    folder = Fixture.folder("ferry", FILES);
  }

  private void write(String name, String text) throws IOException {
    Path file = folder.resolve(name);
    Files.createDirectories(file.getParent());
    Files.writeString(file, text);
  }

  private Answer run(String... args) {
    List<String> all = new ArrayList<>();
    for (String arg : args) {
      boolean file = Files.exists(folder.resolve(arg)) && !arg.equals("verify");
      all.add(file ? folder.resolve(arg).toString() : arg);
    }
    Answer answer = Answer.to(all);
    return new Answer(
        answer.exit(),
        answer.out().replace(folder + "/", "").replaceAll("(?<=\\S) {2,}", " "),
        answer.err());
  }

  // ---- what comes out ----

  @DataProvider
  static Object[][] files() {
    return new Object[][] {
      {
        "q/good.sql",
        0,
        List.of(
            "q/good.sql fine 2 proven, 1 holds, 3 rows", "1 query, 3 claims: 2 proven, 1 holds.")
      },
      {
        "q/bad.sql",
        1,
        List.of(
            "fails",
            "line 1 broken one row per ferry",
            "1 ferry has several rows, 2 in all; repeated at step 2, JOIN ticket t (1 row)",
            "ANN 2",
            "line 2 broken total of price is total of ticket.price",
            "is 11, and that of ticket.price is 20: 9 too little",
            "2 broken; 1 fails.")
      },
      {"q/slip.sql", 1, List.of("line 1 misspelt", "near it is: every ferry appears")},
      {"q/plain.sql", 0, List.of("no claim", "1 query, 0 claims.")},
      {"q/late.sql", 3, List.of("open", "the parameter :seats has no value")},
      {"q/other", 1, List.of("broken rows of table.csv", "CAT", "DOG")},
      {"q/broken.sql", 1, List.of("1 undecided", "line 2, column 10", "cod")},
      {"q/empty.sql", 3, List.of("there is no statement in it")},
      {"q/load.sql", 0, List.of("0 queries, 0 claims.")},
    };
  }

  @Test(dataProvider = "files")
  public void tellsWhatBecameOfEachClaim(String file, int exit, List<String> told) {
    Answer answer = run("verify", file);
    assertThat(answer.err()).isEmpty();
    told.forEach(each -> assertThat(answer.out()).contains(each));
    assertThat(answer.exit()).isEqualTo(exit);
  }

  // ---- a part of the rows ----

  /** Of a file, how many rows are looked at, the exit code, and what is told. */
  @DataProvider
  static Object[][] parts() {
    return new Object[][] {
      // What is not proven stays open, and nothing is told of all rows.
      {"q/tickets.sql", "1", 3, List.of("2 proven, 2 undecided", "not broken by 1 of 4 rows of")},
      {"q/tickets.sql", "1", 3, List.of("undecided at least 3 rows", "not shown by 1 of 4 rows")},
      {"q/tickets.sql", "75%", 3, List.of("holds at least 3 rows", "3 of 4 rows of ticket t")},
      {"q/tickets.sql", "100%", 0, List.of("2 proven, 2 hold", "so is every price of 4 rows")},
      {"q/tickets.sql", "9", 0, List.of("2 proven, 2 hold")},
      {
        "q/free.sql",
        "25%",
        1,
        List.of("broken no null in ferry", "1 of 1 row has NULL in ferry in")
      },
      {
        "q/free.sql", "1", 1, List.of("undecided every ferry appears", "only all rows tell whether")
      },
      {"q/grouped.sql", "1", 3, List.of("undecided", "only all rows tell what GROUP BY gives")},
      {"q/first.sql", "1", 3, List.of("undecided", "only all rows tell what LIMIT gives")},
      {"q/broken.sql", "1", 3, List.of("undecided", "line 2, column 10")},
      {"q/odd.sql", "1", 3, List.of("undecided", "tells nothing of this query: a join in it")},
      {"q/refused.sql", "1", 3, List.of("2 undecided", "lower")},
      // An expected table is one of all rows.
      {"q/other", "1", 3, List.of("undecided rows of table.csv")},
      {"q/other", "100%", 1, List.of("broken rows of table.csv", "CAT", "DOG")},
      {"q/good.sql", "1", 3, List.of("2 proven, 1 undecided", "what GROUP BY gives")},
    };
  }

  @Test(dataProvider = "parts")
  public void aPartOfTheRowsTellsWhatItCan(String file, String share, int exit, List<String> told)
      throws IOException {
    String tickets = "SELECT t.no, t.ferry, t.price FROM ticket t";
    write(
        "q/tickets.sql",
        "-- claim: one row per no\n-- claim: no null in no\n-- claim: price between 1 and 9\n"
            + "-- claim: at least 3 rows\n"
            + tickets);
    write("q/free.sql", "-- claim: every ferry appears\n-- claim: no null in ferry\n" + tickets);
    write(
        "q/grouped.sql",
        "-- claim: s between 1 and 99\nSELECT t.ferry, SUM(t.price) AS s FROM ticket t GROUP BY t.ferry");
    write("q/first.sql", "-- claim: no null in ferry\n" + tickets + " ORDER BY t.no LIMIT 2");
    write(
        "q/odd.sql",
        "-- claim: price between 1 and 9\n"
            + tickets
            + " ASOF JOIN ferry f ON f.code = t.ferry AND t.no >= f.seats");
    write(
        "q/refused.sql",
        "-- claim: no null in n\n-- claim: no null in no\nSELECT t.no, lower(t.no, 1) AS n FROM ticket"
            + " t");
    Answer answer = run("verify", "--all", "--about", share, file);
    told.forEach(each -> assertThat(answer.out()).contains(each));
    assertThat(answer.exit()).as(answer.out()).isEqualTo(exit);
  }

  @Test
  public void whatNeedsAllRowsIsNotAskedOfAPart() {
    assertThat(run("verify", "--about", "1%", "--fail-on", "note", "q/good.sql").err())
        .contains("--fail-on needs all rows, and --about looks at a part");
    assertThat(run("verify", "--about", "1%", "--accept", "q/good.sql").exit()).isEqualTo(2);
    assertThat(run("verify", "--about", "0%", "q/good.sql").err())
        .contains("--about takes a number of rows from 1 on");
  }

  @Test
  public void aWholeFolderIsToldInTheOrderOfNames() {
    Answer answer = run("verify", "--fail-on", "none", "q");
    List<String> heads =
        answer.out().lines().filter(line -> line.startsWith("q/")).map(this::name).toList();
    assertThat(heads)
        .containsExactly(
            "q/bad.sql",
            "q/broken.sql",
            "q/empty.sql",
            "q/good.sql",
            "q/late.sql",
            "q/other/table.sql",
            "q/plain.sql",
            "q/slip.sql");
    assertThat(answer.out()).contains("3 fail, 3 are open.");
    assertThat(answer.exit()).isEqualTo(1);
    assertThat(run("verify", "--fail-on", "none", "q").out()).isEqualTo(answer.out());
  }

  private String name(String line) {
    return line.substring(0, line.indexOf(' '));
  }

  @Test
  public void allClaimsAreToldIfWanted() {
    assertThat(run("verify", "--all", "q/good.sql").out())
        .contains("line 1 proven one row per ferry", "so for any data")
        .contains(" holds rows of 'good.expected.csv'");
  }

  // ---- forms ----

  @Test
  public void jsonKeepsToItsSchema() throws IOException {
    Answer answer = run("verify", "--format", "json", "q");
    JsonNode json = new ObjectMapper().readTree(answer.out());
    assertThat(Fixture.violations("verify", answer.out())).isEmpty();
    JsonNode bad = json.get("queries").get(0);
    assertThat(bad.get("file").asText()).isEqualTo("q/bad.sql");
    assertThat(bad.get("claims").get(0).get("verdict").asText()).isEqualTo("broken");
    assertThat(bad.get("claims").get(0).get("line").asInt()).isEqualTo(1);
    assertThat(bad.get("claims").get(0).get("rows").get("values").toString())
        .isEqualTo("[[\"ANN\",\"2\"]]");
    assertThat(json.findValues("problems").toString()).contains("evry ferry appears");
    Answer suggested = run("suggest", "--data", folder.toString(), "--format", "json", "q/bad.sql");
    JsonNode offers = new ObjectMapper().readTree(suggested.out());
    assertThat(Fixture.violations("suggest", suggested.out())).isEmpty();
    assertThat(offers.toString()).contains("one row per ticket");
  }

  @Test
  public void junitXmlKeepsToItsSchema() throws IOException, SAXException {
    write("q/odd.sql", "-- claim: code is one of '<&>', 'a\u0007b'\nSELECT f.code FROM ferry f;\n");
    Answer answer = run("verify", "--format", "junit", "q");
    SchemaFactory.newInstance(XMLConstants.W3C_XML_SCHEMA_NS_URI)
        .newSchema(Fixture.ROOT.resolve("docs/schemas/junit.xsd").toFile())
        .newValidator()
        .validate(new StreamSource(new StringReader(answer.out())));
    assertThat(answer.out())
        .contains("<testsuite name=\"q/good.sql\" tests=\"3\" failures=\"0\" errors=\"0\"")
        .contains("name=\"one row per ferry\"><failure message=\"1 ferry has several rows")
        .contains("&lt;&amp;&gt;");
  }

  @Test
  public void markdownBeginsWithWhatIsBad() {
    Answer answer = run("verify", "--format", "markdown", "q/good.sql", "q/bad.sql");
    assertThat(answer.out())
        .startsWith("**2 queries, 5 claims: 2 proven, 1 holds, 2 broken")
        .contains("### q/bad.sql: fails\n\n- broken: **one row per ferry**")
        .contains("| q/good.sql | fine | 2 | 1 | 0 | 0 |");
  }

  // ---- settings and places ----

  @Test
  public void settingsGiveValuesAndEngines() throws IOException {
    write(
        "verify.properties",
        "q/late.sql.set = seats=5\nq/late.sql.set.2 = seats=100\nq/noted.sql.fail-on = note\n"
            + "q/other.engines = sqlite\n");
    Answer answer = run("verify", "q/late.sql");
    assertThat(answer.out())
        .contains("q/late.sql (seats=5) fine")
        .contains("q/late.sql (seats=100) fails")
        .contains("the result has no row");
    write("q/noted.sql", "SELECT f.code FROM ferry f UNION SELECT g.code FROM ferry g;\n");
    assertThat(run("verify", "q/noted.sql").out()).contains("union-removes-rows");
    assertThat(run("verify", "--fail-on", "error", "q/noted.sql").out())
        .doesNotContain("union-removes-rows");
    assertThat(run("verify", "q/other").out()).contains("rows of table.csv");
    write("verify.properties", "fail-onn = none\n");
    Answer wrong = run("verify", "q/good.sql");
    assertThat(wrong.out()).contains("fail-onn; near it is: fail-on");
    assertThat(wrong.exit()).isEqualTo(3);
  }

  @Test
  public void severalEnginesAreCompared() throws IOException {
    write("q/div.sql", "-- claim: 4 rows\nSELECT t.no, t.no / 2 AS half FROM ticket t;\n");
    Answer answer = run("verify", "--all", "--engine", "duckdb,h2,sqlite", "q/div.sql");
    assertThat(answer.out()).contains("the same rows in h2", "the same rows in sqlite");
    assertThat(answer.exit()).isEqualTo(1);
    Answer same = run("verify", "--all", "--engine", "h2,sqlite", "q/good.sql");
    assertThat(same.out()).contains("holds the same rows in sqlite");
    assertThat(same.exit()).isZero();
    assertThat(run("verify", "--engine", "duckbd", "q/good.sql").exit()).isEqualTo(2);
  }

  @Test
  public void whereTheTablesAreMustBeKnown() throws IOException {
    Path alone = Files.createTempDirectory("alone");
    Files.writeString(alone.resolve("a.sql"), "-- claim: 3 rows\nSELECT code FROM ferry");
    Answer answer = run("verify", alone.toString());
    assertThat(answer.out()).contains("where are the tables?");
    assertThat(answer.exit()).isEqualTo(3);
    assertThat(run("verify", "--data", folder.toString(), alone.toString()).exit()).isZero();
    assertThat(run("verify", "--schema", folder + "/schema.sql", alone.toString()).out())
        .contains("there are no rows here");
    assertThat(run("verify", "nowhere").err()).contains("nowhere: there is no such file or folder");
  }

  /** Whatever is wrong with one place, the queries of others are told. */
  @Test
  public void aBrokenSampleCostsOnlyItsOwnQueries() throws IOException {
    write("torn/schema.sql", "CREATE TABLE a (b INTEGER);");
    write("torn/a.csv", "b\nx\n");
    write("torn/a.sql", "-- claim: 1 row\nSELECT b FROM a;\n");
    write("torn/b.sql", "-- claim: 1 row\nSELECT b FROM a;\n");
    Answer answer = run("verify", "--fail-on", "none", "torn", "q/good.sql");
    assertThat(answer.out()).contains("a.csv", "q/good.sql fine").contains("2 are open");
    assertThat(answer.exit()).isEqualTo(3);
  }

  @Test
  public void aQueryWithoutEndIsStopped() throws IOException {
    write(
        "q/endless.sql",
        "-- claim: 3 rows\nWITH RECURSIVE r (n) AS (SELECT 1 UNION ALL SELECT n + 1 FROM r WHERE n >"
            + " 0) SELECT COUNT(*) AS n FROM r;\n");
    Answer answer =
        run("verify", "--timeout", "1", "--fail-on", "none", "q/endless.sql", "q/good.sql");
    assertThat(answer.out()).contains("q/endless.sql open", "q/good.sql fine");
    assertThat(answer.exit()).isEqualTo(3);
  }

  // ---- accepting ----

  @Test
  public void acceptWritesOnlyWhatIsNamed() throws IOException {
    Path table = folder.resolve("q/plain.expected.csv");
    assertThat(run("verify", "--accept", "q").exit()).isEqualTo(2);
    assertThat(Files.exists(table)).isFalse();
    Answer first = run("verify", "--accept", "q/plain.sql");
    assertThat(first.out()).contains("ANN", "written: q/plain.expected.csv, 3 rows");
    assertThat(Files.readString(table)).isEqualTo("\"code\"\n\"ANN\"\n\"BEE\"\n\"CAT\"\n");
    assertThat(run("verify", "q/plain.sql").out()).contains("1 holds, 3 rows");
    assertThat(run("verify", "--accept", "q/plain.sql").out()).contains("nothing is written");
    Files.writeString(table, "code\nANN\nBEE\nDOG\n");
    assertThat(run("verify", "q/plain.sql").exit()).isEqualTo(1);
    Answer again = run("verify", "--accept", "q/plain.sql");
    assertThat(again.out()).contains("DOG", "CAT", "written");
    assertThat(run("verify", "--accept", "q/broken.sql").exit()).isNotZero();
    assertThat(Files.exists(folder.resolve("q/broken.expected.csv"))).isFalse();
    try (Stream<Path> files = Files.list(folder.resolve("q"))) {
      assertThat(files.map(file -> file.getFileName().toString()))
          .noneMatch(name -> name.startsWith("."));
    }
  }

  // ---- since ----

  @Test
  public void sinceLooksOnlyAtWhatChanged() throws Exception {
    git("init", "-q");
    git("add", ".");
    git("-c", "user.name=a", "-c", "user.email=a@b", "commit", "-q", "-m", "first");
    assertThat(run("verify", "--since", "HEAD", "q").out()).contains("0 queries, 0 claims.");
    write("q/plain.sql", "-- claim: 3 rows\nSELECT f.code FROM ferry f;\n");
    write("q/other/table.csv", "code\nANN\nBEE\nCAT\n");
    write("q/good.expected.csv", "code,n\nANN,2\nBEE,1\nCAT,1\n");
    write("q/new.sql", "-- claim: 3 rows\nSELECT f.code FROM ferry f;\n");
    assertThat(run("verify", "--since", "HEAD", "q").out())
        .contains("q/plain.sql", "q/other/table.sql", "q/good.sql", "q/new.sql")
        .doesNotContain("q/bad.sql");
    write("ferry.csv", "code,seats\nANN,20\n");
    assertThat(run("verify", "--since", "HEAD", "q").out()).contains("q/bad.sql");
    Files.delete(folder.resolve("ferry.csv"));
    assertThat(run("verify", "--since", "HEAD", "q").out()).contains("q/bad.sql");
    assertThat(run("verify", "--since", "no-such", "q").err()).contains("git says");
    assertThat(run("verify", "--since=--output=x", "q").err()).contains("a revision of git");
  }

  /** A repository can come from anybody: what it would have git run is not run. */
  @Test
  public void sinceRunsNothingThatARepositoryNames() throws Exception {
    git("init", "-q");
    write(".gitattributes", "*.sql filter=own diff=own\n");
    git("add", ".");
    git("-c", "user.name=a", "-c", "user.email=a@b", "commit", "-q", "-m", "first");
    Path mark = folder.resolve("ran");
    String touch = "touch '" + mark + "'; cat";
    git("config", "filter.own.clean", touch);
    git("config", "filter.own.smudge", touch);
    git("config", "diff.own.command", touch);
    git("config", "diff.own.textconv", touch);
    git("config", "diff.external", touch);
    git("config", "core.fsmonitor", touch);
    git("config", "core.pager", touch);
    write("q/plain.sql", "-- claim: 3 rows\nSELECT f.code FROM ferry f;\n");
    assertThat(run("verify", "--since", "HEAD", "q").out()).contains("q/plain.sql fine");
    assertThat(Files.exists(mark)).isFalse();
  }

  private void git(String... arguments) throws Exception {
    List<String> command = new ArrayList<>(List.of("git", "-C", folder.toString()));
    command.addAll(List.of(arguments));
    Process process = new ProcessBuilder(command).redirectErrorStream(true).start();
    String said = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
    assertThat(process.waitFor()).as(said).isZero();
  }

  // ---- suggest ----

  @Test
  public void suggestWritesBeforeTheQuery() throws IOException {
    String sql =
        "SELECT f.code FROM ferry f;\r\n\r\n -- of tickets\r\n SELECT t.price FROM ticket t;";
    write("q/new.sql", sql);
    Answer answer = run("suggest", "--data", folder.toString(), "q/new.sql");
    assertThat(answer.out())
        .contains("-- claim: one row per ferry", "-- claim: every ferry appears", "proven: so for");
    assertThat(Files.readString(folder.resolve("q/new.sql"))).isEqualTo(sql);
    Answer written =
        run("suggest", "--data", folder.toString(), "--write", "proven", "q/new.sql", "q/new.sql");
    assertThat(written.err()).contains("claims written into");
    String after = Files.readString(folder.resolve("q/new.sql"));
    assertThat(after)
        .startsWith("-- claim: one row per ferry\r\n")
        .contains(" -- claim: every ticket appears\r\n -- claim: total of price is total")
        .endsWith("FROM ticket t;");
    assertThat(after.replaceAll(" *-- claim: [^\r]*\r\n", "")).isEqualTo(sql);
    assertThat(run("verify", "--fail-on", "none", "q/new.sql").exit()).isZero();
    assertThat(run("suggest", "--data", folder.toString(), "--write", "all", "-").exit())
        .isEqualTo(2);
    assertThat(run("suggest", "--data", folder.toString(), "q/broken.sql").err()).contains("cod");
  }
}
