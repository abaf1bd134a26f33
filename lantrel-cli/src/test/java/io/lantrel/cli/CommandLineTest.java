package io.lantrel.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Span;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** The command line as a user calls it. */
public class CommandLineTest {

  private static final Path ROOT = Fixture.ROOT;
  private static final String DATA = ROOT.resolve("lantrel-examples/river-watch").toString();

  private static final String SCHEMA = DATA + "/schema.sql";

  private static String file(String sql) throws IOException {
    Path file = Files.createTempFile("query", ".sql");
    Files.writeString(file, sql);
    return file.toString();
  }

  @DataProvider
  static Object[][] exits() {
    String inner = "SELECT s.name FROM station s JOIN river r ON r.id = s.river_id";
    String parent = "SELECT r.name FROM river r JOIN station s ON s.river_id = r.id";
    return new Object[][] {
      {"SELECT s.name FROM station s", "warning", 0},
      {inner, "warning", 1},
      {inner, "error", 0},
      {parent, "warning", 0},
      {parent, "note", 1},
      {"SELECT s.nme FROM station s", "ERROR", 1},
      {"DELETE FROM station", "error", 1},
      {"SELECT no_such_function(s.id) FROM station s", "note", 3},
      {"SELECT 1 AS a UNION SELECT 2", "note", 0},
      {"", "note", 3},
      {"SELECT s.name FROM station s WHERE s.id = ?", "note", 3},
      {"SELECT CAST(s.name AS INTEGER) AS n FROM station s", "error", 1},
    };
  }

  @Test(dataProvider = "exits")
  public void exitsByTheSeverityOfWhatItFinds(String sql, String failOn, int exit)
      throws IOException {
    Answer answer = Answer.to("check", "--data", DATA, "--fail-on", failOn, file(sql));
    assertThat(answer.exit()).as(answer.out() + answer.err()).isEqualTo(exit);
    assertThat(answer.err())
        .isEqualTo(
            sql.contains("no_such_function")
                ? "lantrel: the option for that is --allow-function NAME" + System.lineSeparator()
                : "");
  }

  @DataProvider
  static Object[][] values() {
    String named =
        "SELECT s.name FROM station s LEFT JOIN river r ON r.id = s.river_id WHERE r.flow > :flow";
    return new Object[][] {
      {named, "flow=5", 1, "10 rows become 14"},
      {named.replace(":flow", "?"), "1=5", 1, "repair"},
      {named.replace(":flow", "$1"), "1=5", 1, "repair"},
      {named, "flow=null", 1, "outer-join-cancelled"},
      {named, "flw=5", 2, "--set flw: no query has such a parameter; there is flow"},
      {named, "flow", 2, "--set takes a name and a value"},
      {"SELECT id FROM river WHERE name = :n", "n=it's", 0, "nothing found"},
      {"SELECT id FROM river WHERE name = :n", "n='7'", 0, "nothing found"},
      {
        "SELECT id FROM river WHERE name = :n; SELECT 1 AS a",
        "n=x'; DROP TABLE river",
        0,
        "nothing"
      },
      {"SELECT id FROM river WHERE id = :n AND flow < :m", "n=-7.5", 3, ":m has no value"},
    };
  }

  @Test(dataProvider = "values")
  public void takesValuesForParameters(String sql, String set, int exit, String words)
      throws IOException {
    Answer answer = Answer.to("check", "--data", DATA, "--set", set, file(sql));
    assertThat(answer.exit()).as(answer.out() + answer.err()).isEqualTo(exit);
    assertThat((answer.out() + answer.err()).replaceAll("\\s+", " ")).contains(words);
  }

  @Test
  public void accountsForAQueryWithParameters() throws IOException {
    String file =
        file("SELECT s.name FROM station s JOIN river r ON r.id = s.river_id WHERE r.id < ?");
    Answer answer = Answer.to("ledger", "--data", DATA, "--set", "1=4", file);
    assertThat(answer.exit()).as(answer.err()).isEqualTo(0);
    assertThat(answer.out()).contains("r.id < 4 is false");
    assertThat(Answer.to("ledger", "--data", DATA, file).err())
        .contains("the parameter ? has no value");
  }

  @Test
  public void whatWasNotCheckedMayBeAllowed() throws IOException {
    String file = file("SELECT no_such_function(s.id) FROM station s; SELECT id FROM river");
    Answer answer =
        Answer.to("check", "--data", DATA, "--allow-unchecked", file, file(" -- nothing"));
    assertThat(answer.exit()).isEqualTo(0);
    assertThat(answer.out())
        .containsSubsequence("refused", "there is no statement in it")
        .contains("1 statement checked, 1 not or only in part: nothing found.");
  }

  private static String[] draft(String... wish) {
    List<String> all = new ArrayList<>(List.of("draft", "--data", DATA));
    all.addAll(List.of(wish));
    return all.toArray(String[]::new);
  }

  @Test
  public void rewritesAndSaysWhetherTheRowsAreTheSame() throws IOException {
    Answer same = Answer.to(rewrite("joins", "SELECT 1 FROM bank_kind b, river r"));
    assertThat(same.exit()).isZero();
    assertThat(same.out()).contains("bank_kind b CROSS JOIN river r", "The same 48 rows");
    Answer unfit =
        Answer.to(
            rewrite(
                "scalar", "SELECT s.name FROM river r LEFT JOIN station s ON s.river_id = r.id"));
    assertThat(unfit.exit()).isEqualTo(1);
    assertThat(unfit.out()).contains("Not rewritten: the join of s stays");
    Answer other =
        Answer.to(
            rewrite(
                "not-exists",
                "SELECT 1 FROM river r WHERE r.id NOT IN (SELECT river_id FROM station)"));
    assertThat(other.exit()).isEqualTo(1);
    assertThat(other.out()).contains("The rows are not the same: only now: 1.");
  }

  @Test
  public void writesForAnotherEngineAndRunsItThere() throws IOException {
    String file = file("SELECT name, capacity / 2 AS half FROM station ORDER BY keeper_id");
    Answer there = Answer.to("rewrite", "--data", DATA, "--to", "sqlite", file);
    assertThat(there.exit()).isZero();
    assertThat(there.out())
        .contains("CAST(capacity AS REAL) / 2", "NULLS LAST", "The same 14 rows before and after.");
    Answer server = Answer.to("rewrite", "--data", DATA, "--to", "mariadb", file);
    assertThat(server.out()).contains("keeper_id IS NULL, keeper_id", "it was not run");
    Answer schema = Answer.to("rewrite", "--schema", DATA + "/schema.sql", "--to", "h2", file);
    assertThat(schema.out()).contains("CAST(capacity AS DOUBLE PRECISION)", "no rows here");
  }

  @Test
  public void letsAQueryGoOn() throws IOException {
    String file = file("-- mine\nselect s.name\nfrom station s;\n");
    Answer more = Answer.to(draft("count of reading", "keeper.given_name", "--continue", file));
    assertThat(more.exit()).isZero();
    assertThat(more.out())
        .contains(
            "    -- mine",
            "as reading_count, keeper.given_name as keeper_given_name",
            "    left join warden keeper on keeper.id = s.keeper_id;",
            "unused");
  }

  private static String[] rewriteTo(String engine) throws IOException {
    return new String[] {"rewrite", "--data", DATA, "--to", engine, file("SELECT 1")};
  }

  private static String[] rewrite(String form, String sql) throws IOException {
    return new String[] {"rewrite", "--data", DATA, "--form", form, file(sql)};
  }

  @DataProvider
  static Object[][] wrongCalls() throws IOException {
    return new Object[][] {
      {2, "--data", new String[] {"check", "--dta", DATA, "q.sql"}},
      {2, "--fail-on", new String[] {"check", "--data", DATA, "--fail-no", "note", "q.sql"}},
      {2, "ledger", new String[] {"leger", "--data", DATA, "q.sql"}},
      {2, "where are the tables?", new String[] {"survey"}},
      {2, "no table called wier", new String[] {"survey", "--data", DATA, "--only", "wier"}},
      {2, "there is no form upper; there are joins", rewrite("upper", "SELECT 1")},
      {2, "--form FORM or --to ENGINE", new String[] {"rewrite", "--data", DATA, "q.sql"}},
      {2, "there is no engine h3; close to it: h2", rewriteTo("h3")},
      {
        2,
        "only columns and figures",
        draft("river.name", "--continue", file("SELECT 1"), "--keep", "river")
      },
      {2, "close to it: station", draft("statoin.name")},
      {2, "close to it: name", draft("station.nam")},
      {2, "neither a column", draft("the name of the river")},
      {2, "names no column", draft("station")},
      {2, "is not a condition", draft("station.name", "--where", "1 = 1 ORDER BY 1")},
      {2, "is not a condition", draft("station.name", "--where", "1 = 1; DROP TABLE river")},
      {2, "say whose name", draft("station.name", "river.name", "--where", "name = 'x'")},
      {2, "--pairs is written as", draft("station.name", "--pairs", "station")},
      {
        2,
        "station does not refer to kind, and no table refers to both",
        draft("station.name", "--pairs", "station at kind")
      },
      {2, "does not refer to itself", draft("station.name", "--below", "station where id = 1")},
      {
        2,
        "every river cannot be kept beside every station",
        draft("station.name", "river.name", "--keep", "station", "--keep", "river")
      },
      {2, "cannot be put in order by", draft("station.name", "--order", "river.name")},
      {2, "cannot be put in order by", draft("station.name", "--order", "count of reading")},
      {
        2,
        "has no place there",
        draft(
            "river.name",
            "sum of station.capacity",
            "count of reading",
            "--where",
            "reading.depth_cm > station.capacity")
      },
      {2, "one warden at most", draft("station.name", "count of warden", "count of reading")},
      {2, "QUERY.sql", new String[] {"check", "--data", DATA}},
      {2, "note, warning, error", new String[] {"check", "--data", DATA, "--fail-on", "x", "q"}},
      {2, "text, json", new String[] {"survey", "--data", DATA, "--format", "xml"}},
      {2, "whole number from 0 on", new String[] {"ledger", "--data", DATA, "--rows", "-1", "q"}},
      {2, "--schema FILE.sql", new String[] {"check", "q.sql"}},
      {2, "only one can be given", new String[] {"check", "--data", DATA, "--schema", SCHEMA, "q"}},
      {3, "PostgreSQL is a server", new String[] {"demo", "--engine", "postgresql"}},
      {
        2,
        "close to it: postgresql",
        new String[] {"check", "--schema", SCHEMA, "--engine", "postgres", "q"}
      },
      {
        3,
        "nothing.sql: there is no such file",
        new String[] {"check", "--schema", "nothing.sql", "q"}
      },
      {3, "there is no such folder", new String[] {"survey", "--data", "nowhere"}},
      {3, "no.sql: there is no such file", new String[] {"check", "--data", DATA, "no.sql"}},
      {3, "this is a folder", new String[] {"check", "--data", DATA, DATA}},
    };
  }

  @Test(dataProvider = "wrongCalls")
  public void saysInASentenceWhatIsWrongWithACall(int exit, String words, String[] args) {
    Answer answer = Answer.to(args);
    assertThat(answer.exit()).isEqualTo(exit);
    assertThat(answer.err()).startsWith("lantrel: ").contains(words).doesNotContain("\tat ");
    assertThat(answer.err().lines().count()).isLessThanOrEqualTo(2);
    assertThat(answer.out()).isEmpty();
  }

  @Test
  public void saysWhyAStatementHasNoLedgerAndGoesOn() throws IOException {
    String file = file("DELETE FROM river;\nSELECT s.id FROM station s");
    for (String format : List.of("text", "json")) {
      Answer answer = Answer.to("ledger", "--data", DATA, "--format", format, file);
      assertThat(answer.exit()).isEqualTo(3);
      assertThat(answer.err()).contains(file + ":1:1: only a query that was read has a ledger");
      assertThat(answer.out()).contains("station s").contains("14");
    }
  }

  @DataProvider
  static Object[][] withoutRows() {
    String joined = "SELECT s.name FROM station s JOIN river r ON r.id = s.river_id";
    return new Object[][] {
      {"duckdb", joined, 0, "there are no rows here"},
      {"duckdb", "SELECT s.name FROM river", 1, "unknown-table"},
      {"postgresql", "SELECT \"Name\" FROM Station", 1, "unknown-column"},
      {"mariadb", "SELECT \"Name\" FROM `station`", 0, "2 statements checked"},
      {"sqlite", "SELECT [name] FROM station JOIN river USING (id, name)", 1, "no rows here"},
      {
        "postgresql",
        "SELECT * FROM station MATCH_RECOGNIZE (PARTITION BY id) AS m",
        3,
        "does not read this"
      },
      {"h2", "SELECT s.name, COUNT(*) FROM station s", 1, "ungrouped-column"},
      {"hsqldb", "SELECT name FROM station WHERE capacity =", 1, "expected a value"},
    };
  }

  @Test(dataProvider = "withoutRows")
  public void checksByASchemaAlone(String engine, String sql, int exit, String words)
      throws IOException {
    Answer answer =
        Answer.to("check", "--schema", SCHEMA, "--engine", engine, file(sql), file(sql));
    assertThat(answer.exit()).as(answer.out() + answer.err()).isEqualTo(exit);
    assertThat(answer.out().replaceAll("\\s+", " ")).contains(words);
    assertThat(answer.err()).isEmpty();
  }

  @Test
  public void tellsWhatItPassedOverInASchema() throws IOException {
    String schema = file("CREATE TABLE t (id INTEGER);\nCREATE TRIGGER x ON t;");
    Answer answer = Answer.to("check", "--schema", schema, file("SELECT id FROM t"));
    assertThat(answer.exit()).isZero();
    assertThat(answer.err()).contains("CREATE TRIGGER was passed over (line 2)");
  }

  @Test
  public void readsStandardInput() {
    InputStream before = System.in;
    System.setIn(
        new ByteArrayInputStream("SELECT nme FROM river".getBytes(StandardCharsets.UTF_8)));
    try {
      Answer answer = Answer.to("check", "--data", DATA, "-");
      assertThat(answer.exit()).isEqualTo(1);
      assertThat(answer.out()).startsWith("standard input:1:8  error  unknown-column");
    } finally {
      System.setIn(before);
    }
  }

  @Test
  public void walksThroughTheDemo() {
    Answer answer = Answer.to("demo");
    assertThat(answer.exit()).isZero();
    assertThat(answer.out())
        .containsSubsequence(
            "1  Look at the tables",
            "river.flows_into → river.id",
            "broken-reference",
            "2  Write the join",
            "8 rows",
            "3  What did each step do",
            "− dropped",
            "4  Where did Alder Bend go?",
            "station 4 (Alder Bend) is lost in WHERE.",
            "5  What is wrong",
            "outer-join-cancelled",
            "6  The repair",
            "14 rows",
            "7  Say what must be so");
  }

  private static final List<String[]> DRAFTS =
      List.of(
          new String[] {"station.name", "river.name", "--keep", "station"},
          new String[] {"river.name", "count of reading", "sum of station.capacity"},
          new String[] {"river.name", "--below", "river where name = 'Ombrel'"},
          new String[] {"station.name", "other.name", "--pairs", "station at river"});

  @DataProvider
  static Object[][] widths() throws IOException {
    String queries =
        String.join(
            ";\n",
            "SELECT s.name, r.name FROM station s, river r",
            "SELECT r.name, SUM(s.capacity) AS c FROM river r JOIN station s ON s.river_id = r.id\n"
                + "JOIN reading d ON d.station_id = s.id GROUP BY r.id, r.name",
            "SELECT s.name FROM station s LEFT JOIN reading d ON d.station_id = s.id\n"
                + "WHERE d.depth_cm > 100 AND s.capacity > 2");
    String file = file(queries);
    return new Object[][] {
      {new String[] {"survey", "--data", DATA}},
      {new String[] {"survey", "--data", DATA, "--only", "st*,river", "--brief"}},
      {new String[] {"survey", "--data", DATA, "--format", "dot"}},
      {new String[] {"rewrite", "--data", DATA, "--form", "joins", file}},
      {new String[] {"survey", "--data", DATA, "--format", "mermaid"}},
      {new String[] {"draft", "--data", DATA, "station.name", "river.name", "keeper.given_name"}},
      {new String[] {"draft", "--data", DATA, "river.name", "count of reading"}},
      {new String[] {"check", "--data", DATA, file}},
      {new String[] {"ledger", "--data", DATA, file}},
      {new String[] {"rows", "--data", DATA, "--step", "all", file}},
      {new String[] {"compare", "--data", DATA, file, file("SELECT s.* FROM station s")}},
      {new String[] {"demo"}},
      {new String[] {"--help"}},
    };
  }

  @Test(dataProvider = "widths")
  public void keepsTo120ColumnsAndPlainText(String[] args) {
    String out = Answer.to(args).out();
    assertThat(out).isNotBlank().doesNotContain("\u001b");
    assertThat(out.lines()).allSatisfy(line -> assertThat(line.length()).isLessThanOrEqualTo(120));
    assertThat(out.lines()).allSatisfy(line -> assertThat(line).isEqualTo(line.stripTrailing()));
  }

  private static final String FLOWS =
      "SELECT s.name, r.name, s.keeper_id, '' AS nothing FROM station s"
          + " LEFT JOIN river r ON r.id = s.river_id AND r.flow > 20";

  @DataProvider
  static Object[][] rows() {
    return new Object[][] {
      {List.of("--rows", "2"), "s.name      r.name  keeper_id  nothing", "the first 2 of 14 rows"},
      {List.of("--rows", "4"), "Alder Bend    Tavin        NULL  ''", ""},
      {List.of("--rows", "0"), "the first 0 of 14 rows", ""},
      {List.of("--step", "1"), "1  station s\n   14 rows\n", ""},
      {List.of("--step", "2"), "2  LEFT JOIN river r\n   14 rows: 14 before, ", "+ r\n  id  name"},
      {
        List.of("--step", "2"),
        "Keskel Ford           3          5    ·  ·          ·",
        "· filled by"
      },
      {List.of("--step", "all"), "1  station s", "2  LEFT JOIN river r"},
      {
        List.of("--format", "csv"),
        "\"s.name\",\"r.name\",\"keeper_id\",\"nothing\"\n",
        "\"Alder Bend\",\"Tavin\",,\"\"\n"
      },
      {
        List.of("--format", "markdown"), "| s.name | r.name | keeper\\_id | nothing |", "| *NULL* |"
      },
      {List.of("--format", "markdown", "--step", "2"), "### 2 LEFT JOIN river r", "| *filled* |"},
    };
  }

  @Test(dataProvider = "rows")
  public void showsRows(List<String> options, String first, String second) throws IOException {
    List<String> args = new ArrayList<>(List.of("rows", "--data", DATA, file(FLOWS)));
    args.addAll(options);
    Answer answer = Answer.to(args.toArray(String[]::new));
    assertThat(answer.err()).isEmpty();
    assertThat(answer.exit()).isZero();
    assertThat(answer.out()).contains(first, second);
  }

  @DataProvider
  static Object[][] rowsOfNothing() {
    return new Object[][] {
      {FLOWS, List.of("--step", "3"), 2, "there is no step 3; this FROM has 2"},
      {FLOWS, List.of("--step", "x"), 2, "--step takes the number of a step"},
      {FLOWS, List.of("--rows", "-1"), 2, "--rows takes a whole number"},
      {FLOWS, List.of("--format", "csv", "--step", "all"), 2, "CSV holds one table"},
      {FLOWS + ";" + FLOWS, List.of("--format", "csv"), 2, "CSV holds one table"},
      {"SELECT nme FROM river", List.of(), 3, ": line 1, column 8: river has no column nme"},
      {"DELETE FROM river", List.of(), 3, "this is no query but DELETE"},
      {"SELECT 1 AS a UNION SELECT 2", List.of("--step", "1"), 3, "puts several together"},
      {"SELECT no_such(id) FROM river", List.of(), 3, "the option for that is --allow-function"},
    };
  }

  @Test(dataProvider = "rowsOfNothing")
  public void saysWhyThereAreNoRows(String sql, List<String> options, int exit, String sentence)
      throws IOException {
    List<String> args = new ArrayList<>(List.of("rows", "--data", DATA, file(sql)));
    args.addAll(options);
    Answer answer = Answer.to(args.toArray(String[]::new));
    assertThat(answer.err()).contains(sentence);
    assertThat(answer.exit()).isEqualTo(exit);
  }

  /** Every command that can be refused a function says which option allows it. */
  @Test
  public void namesTheOptionThatAllowsAFunction() throws IOException {
    String query = file("SELECT no_such(s.id) AS n FROM station s JOIN river r USING (id)");
    for (List<String> command :
        List.of(
            List.of("check"),
            List.of("ledger"),
            List.of("rows"),
            List.of("rewrite", "--form", "on"))) {
      List<String> args = new ArrayList<>(command);
      args.addAll(List.of("--data", DATA, query));
      assertThat(Answer.to(args.toArray(String[]::new)).err())
          .as("%s", command)
          .contains("the option for that is --allow-function NAME");
    }
  }

  /** Where columns do not fit beside each other, a row is a block of lines. */
  @Test
  public void showsWideRowsAsBlocks() throws IOException {
    String wide =
        IntStream.range(0, 30)
            .mapToObj(i -> "s.name AS a_rather_long_heading_" + i)
            .collect(Collectors.joining(", ", "SELECT ", " FROM station s"));
    String out = Answer.to("rows", "--data", DATA, "--rows", "2", file(wide)).out();
    assertThat(out).contains("  row 2\n", "  a_rather_long_heading_29  Long Reach\n");
  }

  @Test
  public void rowsAreJsonAsTheSchemaHasIt() throws IOException {
    for (List<String> options : List.of(List.<String>of(), List.of("--step", "all"))) {
      List<String> args =
          new ArrayList<>(List.of("rows", "--data", DATA, "--format", "json", file(FLOWS)));
      args.addAll(options);
      String json = Answer.to(args.toArray(String[]::new)).out();
      assertThat(Fixture.violations("rows", json)).isEmpty();
      assertThat(json).contains("\"count\" : 14");
    }
  }

  /** Every query of every page, in one file for each page. */
  private static List<String> pageQueries() throws IOException {
    List<String> files = new ArrayList<>();
    try (Stream<Path> pages = Files.list(ROOT.resolve("docs/findings"))) {
      for (Path page : pages.sorted().toList()) {
        String sql =
            Files.readString(page)
                .replaceAll("(?s)\\A.*?```sql\n", "")
                .replaceAll("(?s)```.*?```sql\n", ";\n")
                .replaceAll("(?s)```.*\\Z", "")
                .replace("«", "")
                .replace("»", "");
        if (!page.endsWith("README.md") && !page.endsWith("syntax.md")) {
          files.add(file(sql));
        }
      }
    }
    return files;
  }

  @Test
  public void writesJsonAsItsSchemasSay() throws IOException {
    List<String> check = new ArrayList<>(List.of("check", "--data", DATA, "--format", "json"));
    check.addAll(pageQueries());
    check.add(file("SELECT no_such_function(1); SELECT 1 UNION SELECT 2; SELECT (1"));
    String checked = Answer.to(check.toArray(String[]::new)).out();
    assertThat(Fixture.violations("check", checked)).isEmpty();
    assertThat(new ObjectMapper().readTree(checked).get("statements").size()).isGreaterThan(60);

    // Some of them never end, and have no account to wait for.
    List<String> ledger =
        new ArrayList<>(List.of("ledger", "--data", DATA, "--format", "json", "--timeout", "5"));
    ledger.addAll(pageQueries());
    assertThat(Fixture.violations("ledger", Answer.to(ledger.toArray(String[]::new)).out()))
        .isEmpty();

    String survey = Answer.to("survey", "--data", DATA, "--format", "json").out();
    assertThat(Fixture.violations("survey", survey)).isEmpty();
    assertThat(new ObjectMapper().readTree(survey).get("references").size()).isEqualTo(10);

    String forms =
        file(
            "SELECT name FROM river WHERE id NOT IN (SELECT river_id FROM station); SELECT nme FROM x;"
                + " SELECT name FROM river WHERE id NOT IN (SELECT id FROM warden); SELECT 1");
    String rewritten =
        Answer.to("rewrite", "--data", DATA, "--form", "not-exists", "--format", "json", forms)
            .out();
    assertThat(Fixture.violations("rewrite", rewritten)).isEmpty();

    for (String[] wish : DRAFTS) {
      List<String> draft = new ArrayList<>(List.of("draft", "--data", DATA, "--format", "json"));
      draft.addAll(List.of(wish));
      assertThat(Fixture.violations("draft", Answer.to(draft.toArray(String[]::new)).out()))
          .isEmpty();
    }
  }

  /** Of a chain of joins that lose rows, more findings than repairs that are tried. */
  @Test
  public void aRepairThatIsNotTriedIsSaidSo() throws IOException {
    StringBuilder sql = new StringBuilder("SELECT s.name FROM station s");
    sql.append(" JOIN river r1 ON r1.id = s.river_id");
    for (int i = 2; i <= 70; i++) {
      sql.append(" JOIN river r%d ON r%d.id = r%d.flows_into".formatted(i, i, i - 1));
    }
    String file = file(sql.toString());
    String untried = "with 70 joins in the statement, no more repairs were tried than 3";
    String text = Answer.to("check", "--data", DATA, file).out().replaceAll("\\s+", " ");
    assertThat(text.split(untried, -1)).hasSize(1 + 2);
    JsonNode statement =
        new ObjectMapper()
            .readTree(Answer.to("check", "--data", DATA, "--format", "json", file).out())
            .at("/statements/0");
    assertThat(statement.get("findings"))
        .filteredOn(each -> each.get("severity").asText().equals("warning"))
        .hasSize(5)
        .allMatch(each -> each.has("repair") != each.get("evidence").toString().contains(untried))
        .filteredOn(each -> each.has("repair"))
        .hasSize(3);
  }

  @Test
  public void theSchemasRefuseWhatIsNotTheirs() throws IOException {
    assertThat(Fixture.violations("check", "{\"version\":1,\"statements\":[{}]}")).isNotEmpty();
    assertThat(Fixture.violations("survey", "{\"version\":2}")).isNotEmpty();
    assertThat(Fixture.violations("ledger", "[]")).isNotEmpty();
    assertThat(Fixture.violations("draft", "{\"version\":1,\"drafts\":[]}")).isNotEmpty();
  }

  @Test
  public void theEditsOfARepairMakeItsSql() throws IOException {
    String text =
        "-- 🦆 é\nSELECT s.name FROM station s;\n\nSELECT s.name, r.name\nFROM station s, river r;\n";
    String file = file(text);
    JsonNode statements =
        new ObjectMapper()
            .readTree(Answer.to("check", "--data", DATA, "--format", "json", file).out())
            .get("statements");
    assertThat(statements.get(1).get("line").asInt()).isEqualTo(4);
    JsonNode repair = statements.get(1).get("findings").get(1).get("repair");
    List<Edit> edits = new ArrayList<>();
    repair
        .get("edits")
        .forEach(
            edit -> {
              int start = edit.get("offset").asInt();
              Span span = new Span(start, start + edit.get("length").asInt());
              edits.add(new Edit(span, edit.get("text").asText()));
            });
    assertThat(Edit.apply(text, edits)).contains(repair.get("sql").asText() + ";\n");
    assertThat(repair.get("rowsBefore").asInt()).isEqualTo(168);
    assertThat(repair.get("rowsAfter").asInt()).isEqualTo(14);
  }

  /** What the README shows is what the commands print today. */
  @Test
  public void theReadmeShowsWhatTheCommandsPrint() throws IOException {
    String readme = Files.readString(ROOT.resolve("README.md"));
    Matcher shown =
        Pattern.compile("```\n\\$ \\./lantrel ([^\n]+)\n(.*?)```", Pattern.DOTALL).matcher(readme);
    int count = 0;
    while (shown.find()) {
      String here = "lantrel-examples/";
      String there = ROOT.resolve("lantrel-examples") + "/";
      String[] args =
          Pattern.compile("\"[^\"]*\"|\\S+")
              .matcher(shown.group(1).replace(here, there))
              .results()
              .map(found -> found.group().replace("\"", ""))
              .toArray(String[]::new);
      assertThat(Answer.to(args).out().replace(there, here).strip())
          .isEqualTo(shown.group(2).strip());
      count++;
    }
    assertThat(count).isEqualTo(11);
  }
}
