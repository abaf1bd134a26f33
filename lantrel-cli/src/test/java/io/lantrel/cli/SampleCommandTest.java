package io.lantrel.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Samples from the command line, in a small world of its own: ferries, and who is waiting. */
public class SampleCommandTest {

  private static final int WAITING = 200;

  private Path folder = Path.of("");

  @BeforeClass
  public void write() throws IOException {
    Map<String, String> files = new TreeMap<>();
    files.put(
        "schema.sql",
        "CREATE TABLE pier (code CHAR(2) PRIMARY KEY, \"Full Name\" VARCHAR(30), moved_to CHAR(2)"
            + " REFERENCES pier (code));\n"
            + "CREATE TABLE waiting (no INTEGER PRIMARY KEY, pier CHAR(2) REFERENCES pier (code),"
            + " name VARCHAR(20), bags INTEGER, since DATE);\n"
            + "CREATE TABLE fare (low INTEGER, high INTEGER);\n"
            + "CREATE TABLE gull (name VARCHAR(9));\n");
    files.put(
        "pier.csv",
        "code,Full Name,moved_to\nNO,North,\nSO,South,NO\nEA,East,EA\nWE,West,\nOL,Old,NW\nNW,New,OL\n");
    StringBuilder waiting = new StringBuilder("no,pier,name,bags,since\n");
    for (int i = 1; i <= WAITING; i++) {
      String pier = i == 77 ? "XX" : i == 78 ? "" : i < 40 ? "EA" : "NO";
      String name = i == 90 ? "\"\"" : i == 91 ? "\"Mia \"" : "name" + (i % 150);
      String bags = i == 100 ? "-2" : i == 101 ? "0" : i == 102 ? "" : "" + (i % 5 + 1);
      waiting.append(i + "," + pier + "," + name + "," + bags + ",2026-0" + (i % 9 + 1) + "-11\n");
    }
    files.put("waiting.csv", waiting.toString());
    files.put("fare.csv", "low,high\n1,2\n1,2\n3,4\n");
    files.put("gull.csv", "name\n");
    folder = Fixture.folder("ferries", files);
  }

  private Answer sample(Path to, String... args) {
    List<String> all =
        new ArrayList<>(List.of("sample", "--data", folder.toString(), "--to", to.toString()));
    all.addAll(List.of(args));
    return Answer.to(all);
  }

  private static Path fresh() throws IOException {
    return Files.createTempDirectory("sample").resolve("rows");
  }

  @Test
  public void oddRowsAreKeptAndTold() throws IOException {
    Path to = fresh();
    Answer answer = sample(to, "--rows", "60");
    assertThat(answer.err()).isEmpty();
    assertThat(answer.exit()).isZero();
    assertThat(answer.out().replaceAll("\n {9,}", " "))
        .startsWith(to + ": 60 of 209 rows\n")
        .contains("pier     all 6 rows")
        .contains("fare     all 3 rows")
        .contains("gull     no rows there")
        .contains("pier leading nowhere, NULL")
        .contains("name the same in two rows, empty, blanks at an end")
        .contains("bags NULL, 0, below 0, the least, the greatest")
        .contains("since the first, the last")
        .contains("no row there has");
    String waiting = Files.readString(to.resolve("waiting.csv"));
    for (String odd :
        List.of("\"77\",\"XX\"", "\"78\",,", "\"90\",\"NO\",\"\"", "\"Mia \"", "\"-2\"")) {
      assertThat(waiting).contains(odd);
    }
    assertThat(Files.readString(to.resolve("fare.csv")))
        .isEqualTo("\"low\",\"high\"\n\"1\",\"2\"\n\"1\",\"2\"\n\"3\",\"4\"\n");
    assertThat(Files.readString(to.resolve("pier.csv"))).contains("\"OL\",\"Old\",\"NW\"");
    assertThat(Answer.to(List.of("survey", "--data", to.toString())).err()).isEmpty();
  }

  @Test
  public void theSameSeedGivesTheSameFiles() throws IOException {
    Path one = fresh();
    Path two = fresh();
    Path other = fresh();
    sample(one, "--seed", "4");
    sample(two, "--seed", "4");
    sample(other, "--seed", "5", "--rows", "70");
    for (String file : List.of("schema.sql", "pier.csv", "waiting.csv", "fare.csv", "gull.csv")) {
      assertThat(one.resolve(file)).hasSameTextualContentAs(two.resolve(file));
      assertThat(other.resolve(file)).exists();
    }
  }

  /** Rows that a query loses are there, and what it shows otherwise is told. */
  @Test
  public void queriesShowTheSameOnIt() throws IOException {
    Path query = Files.createTempFile("waiting", ".sql");
    Files.writeString(
        query,
        "SELECT w.no, p.\"Full Name\" FROM waiting w JOIN pier p ON p.code = w.pier;\n"
            + "SELECT COUNT(*) FROM waiting w WHERE w.bags > 2 HAVING COUNT(*) > 50;\n");
    Path to = fresh();
    Answer answer = sample(to, "--rows", "20", query.toString());
    assertThat(answer.out()).contains("20 of 209 rows").doesNotContain("rows-without-partner");
    assertThat(Answer.to(List.of("check", "--data", to.toString(), query.toString())).out())
        .contains("rows-without-partner");
    Answer json = sample(fresh(), "--rows", "20", "--format", "json", query.toString());
    assertThat(Fixture.violations("sample", json.out())).as(json.out()).isEmpty();
  }

  @Test
  public void masksAreWrittenDown() throws IOException {
    Path to = fresh();
    Answer answer =
        sample(to, "--mask", "waiting.name,pier.code", "--mask-keeps", "length", "--rows", "250");
    assertThat(answer.err()).isEmpty();
    assertThat(answer.out())
        .contains("masked\n  pier.code, pier.moved_to, waiting.name, waiting.pier\n");
    assertThat(Files.readString(to.resolve("schema.sql"))).contains("-- Masked: pier.code");
    assertThat(Files.readString(to.resolve("waiting.csv")))
        .doesNotContain("name1")
        .doesNotContain("\"NO\"");
  }

  @DataProvider
  static Object[][] refused() {
    return new Object[][] {
      {2, "--rows is 0; it can be 1 to 100000", List.of("--rows", "0")},
      {2, "--mask-keeps goes with --mask", List.of("--mask-keeps", "order")},
      {
        2,
        "--mask-keeps takes order, length, or both; not shape",
        List.of("--mask", "name", "--mask-keeps", "shape")
      },
      {3, "nothing to mask is called nme; name a column, as ", List.of("--mask", "nme")},
    };
  }

  @Test(dataProvider = "refused")
  public void refusesInASentence(int exit, String words, List<String> args) throws IOException {
    Path to = fresh();
    Answer answer = sample(to, args.toArray(String[]::new));
    assertThat(answer.exit()).isEqualTo(exit);
    assertThat(answer.err()).startsWith("lantrel: " + words);
    assertThat(to).doesNotExist();
  }

  /** What is in a folder stays. */
  @Test
  public void nothingIsOverwritten() throws IOException {
    Path there = Files.createTempDirectory("there");
    Files.writeString(there.resolve("mine.txt"), "mine");
    assertThat(sample(there).err())
        .contains("there is something in this folder; name an empty one");
    assertThat(sample(there.resolve("mine.txt")).err()).contains("this is no folder");
    assertThat(there.resolve("mine.txt")).hasContent("mine");
    try (var files = Files.list(there)) {
      assertThat(files).hasSize(1);
    }
  }
}
