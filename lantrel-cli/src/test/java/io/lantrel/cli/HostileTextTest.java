package io.lantrel.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/**
 * Names, values, queries, file names and messages that try to act on a terminal: none gets there.
 */
public class HostileTextTest {

  private static final String ACTS = "\u001b[2J\u001b]0;t\u0007\u009b2J\u202e\u200b\r";

  private Path folder = Path.of("");
  private final List<String> queries = new ArrayList<>();

  @BeforeClass
  public void write() throws IOException {
    folder = Files.createTempDirectory("hostile");
    Files.writeString(
        folder.resolve("schema.sql"),
        "CREATE TABLE boat (id INTEGER PRIMARY KEY, \"na"
            + ACTS
            + "me\" VARCHAR(99));\n"
            + "CREATE TABLE trip (id INTEGER PRIMARY KEY, boat_id INTEGER REFERENCES boat (id),"
            + " note VARCHAR(99));\n"
            + "CREATE VIEW v"
            + " AS SELECT no_such_thing('"
            + ACTS
            + "') AS a FROM boat;");
    Files.writeString(
        folder.resolve("boat.csv"), "id,\"na" + ACTS + "me\"\n1,\"a" + ACTS + "b\"\n2,c\n");
    Files.writeString(
        folder.resolve("trip.csv"), "id,boat_id,note\n1,1,\"x" + ACTS + "\"\n2,,y\n3,9,z\n");
    add("SELECT t.note, b.\"na" + ACTS + "me\" FROM trip t JOIN boat b ON b.id = t.boat_id");
    add(
        "SELECT t.note AS \"l"
            + ACTS
            + "\" FROM trip t /* "
            + ACTS
            + " */ WHERE note <> '"
            + ACTS
            + "'");
    add("SELECT t.\"no" + ACTS + "such\" FROM trip t");
    add("SELECT t.note FROM \"tri" + ACTS + "p\" t");
    add("SELECT CAST(note || '" + ACTS + "' AS INTEGER) FROM trip");
    add("SELECT 'open" + ACTS + " FROM trip");
    add("DELETE FROM \"" + ACTS + "\"");
    add("SELECT f" + "(\"" + ACTS + "\") FROM trip, boat");
    add(
        "-- claim: one row per "
            + ACTS
            + "\n-- claim: note is one of 'x"
            + ACTS.replace("\r", "")
            + "'\n-- claim: no null in \"na"
            + ACTS.replace("\r", "")
            + "me\"\n-- claim: rows of "
            + ACTS.replace("\r", "")
            + ".csv\nSELECT t.note FROM trip t JOIN boat b ON b.id = t.boat_id");
    add(
        "-- accepted: unordered-limit, "
            + ACTS.replace("\r", "")
            + "\n-- accepted: "
            + ACTS.replace("\r", "")
            + "kind, why\n-- accepted: nokind\u202e, why\nSELECT t.note FROM trip t WHERE t.note = NULL"
            + " OR t.note = '"
            + ACTS
            + "%' LIMIT 1");
    add("SELECT b.id, COUNT(*) FROM boat b LEFT JOIN trip t ON t.boat_id = b.id GROUP BY b.id");
  }

  private void add(String sql) throws IOException {
    Path file = folder.resolve("q" + queries.size() + "\u001b[31m\u202e.sql");
    queries.add(Files.writeString(file, sql).toString());
  }

  @DataProvider
  Object[][] calls() {
    List<List<String>> calls = new ArrayList<>();
    for (String format : List.of("text", "json")) {
      for (String query : queries) {
        for (String command : List.of("check", "ledger", "rows", "suggest")) {
          calls.add(List.of(command, "--format", format, query));
        }
        calls.add(List.of("check", "--repair", "all", "--dry-run", query));
        calls.add(List.of("check", "--format", "sarif", query));
        calls.add(List.of("check", "--also-on", "mariadb,h2", "--format", format, query));
        calls.add(List.of("ledger", "--against", "full", "--format", format, query));
        calls.add(List.of("ledger", "--without", "2", "--format", format, query));
        calls.add(List.of("ledger", "--rows", "unused@1", "--format", format, query));
        calls.add(List.of("trace", "--row", "1", "--format", format, query));
        calls.add(List.of("trace", "--missing", "t", "--format", format, query));
        calls.add(List.of("trace", "--column", "all", "--format", format, query));
        for (String form : List.of("qualified", "with", "scalar", "coalesce", "join-once")) {
          calls.add(List.of("rewrite", "--form", form, "--format", format, query));
        }
        calls.add(List.of("rows", "--step", "all", "--format", format, query));
        calls.add(List.of("rows", "--format", format.equals("text") ? "csv" : "markdown", query));
      }
      calls.add(List.of("survey", "--format", format));
      calls.add(List.of("survey", "--values", "--rows", "9", "--format", format));
      calls.add(List.of("draft", "--format", format, "trip.note", "boat.\"na" + ACTS + "me\""));
    }
    for (String query : queries) {
      for (String format : List.of("text", "json", "junit", "markdown")) {
        calls.add(List.of("verify", "--all", "--format", format, query));
      }
    }
    calls.add(List.of("verify", "--since", ACTS, queries.get(0)));
    calls.add(List.of("verify", "no" + ACTS + "such"));
    calls.add(List.of("survey", "--format", "dot"));
    calls.add(List.of("survey", "--format", "mermaid"));
    calls.add(List.of("survey", "--format", "sql"));
    calls.add(List.of("survey", "--references", queries.get(0)));
    calls.add(List.of("survey", "--references", "no" + ACTS));
    calls.add(List.of("ledger", "--against", ACTS, queries.get(0)));
    calls.add(List.of("ledger", "--rows", ACTS, queries.get(0)));
    calls.add(List.of("trace", "--missing", "note = '" + ACTS + "'", queries.get(0)));
    calls.add(List.of("survey", "--only", ACTS));
    calls.add(List.of("draft", "trip." + ACTS));
    calls.add(List.of("draft", "trip.note", "--where", "trip.note <> '" + ACTS + "'"));
    calls.add(
        List.of("draft", "boat.\"na" + ACTS + "me\"", "--where", "trip.note <> '" + ACTS + "'"));
    calls.add(List.of("draft", "trip.note", "--order", "trip." + ACTS, "--every-pair"));
    calls.add(List.of("check", "no" + ACTS + "such.sql"));
    calls.add(List.of("trace", "--missing", "trip where note = '" + ACTS + "'", queries.get(0)));
    calls.add(List.of("trace", "--missing", "tr" + ACTS, queries.get(0)));
    calls.add(List.of("trace", "--where", "no" + ACTS + " = 1", queries.get(0)));
    calls.add(List.of("trace", "--column", "all", "--format", "dot", queries.get(0)));
    calls.add(List.of("trace", "--column", "all", "--format", "mermaid", queries.get(0)));
    calls.add(List.of("hierarchy", "bo" + ACTS));
    calls.add(List.of("hierarchy", "boat", "--by", ACTS));
    calls.add(List.of("hierarchy", "boat", "--between", ACTS, "1"));
    calls.add(List.of("hierarchy", "boat", "--write", "--between", "1", ACTS));
    calls.add(List.of("hierarchy", "boat", "--over", "no" + ACTS));
    calls.add(List.of("kinds", "loose" + ACTS));
    calls.add(List.of("check", "--repair", "loose" + ACTS, queries.get(0)));
    calls.add(List.of("check", "--engine", ACTS, queries.get(0)));
    calls.add(List.of("check", "--" + ACTS));
    calls.add(List.of(ACTS));
    calls.add(List.of("check", "@" + queries.get(0)));
    calls.add(List.of("check", "--memory", ACTS, queries.get(0)));
    return calls.stream().map(each -> new Object[] {each}).toArray(Object[][]::new);
  }

  @Test(dataProvider = "calls")
  public void nothingActsOnATerminal(List<String> call) {
    List<String> arguments = new ArrayList<>(call);
    if (call.size() > 1 && !call.get(0).equals("kinds")) {
      arguments.addAll(1, List.of("--data", folder.toString()));
    }
    Answer answer = Answer.to(arguments);
    String all = answer.out() + answer.err();
    assertThat(all).isNotBlank();
    assertThat(all.codePoints())
        .as("%s", all)
        .noneMatch(c -> c < ' ' && c != '\n' && c != '\t')
        .noneMatch(c -> (c >= 0x7f && c < 0xa0) || c == 0x202e || c == 0x200b);
    assertThat(all).doesNotContain("Exception", "\tat ");
  }

  @Test
  public void argumentsAreNoFiles() throws IOException {
    Path secret = Files.writeString(Files.createTempFile("secret", ".txt"), "hush");
    Answer answer = Answer.to("check", "@" + secret);
    assertThat(answer.err()).doesNotContain("hush");
    assertThat(answer.exit()).isEqualTo(2);
  }
}
