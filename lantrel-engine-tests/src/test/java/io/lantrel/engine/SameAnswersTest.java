package io.lantrel.engine;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.RiverWatchFolder;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** The command line gives one answer on the river watch, whichever engine holds it, and however. */
public class SameAnswersTest {

  private final List<String> queries = new ArrayList<>();
  private final Map<String, String> known = new HashMap<>();

  /** Those of the examples that mean one thing: a JOIN without ON does not. */
  @BeforeClass
  public void findQueries() throws IOException {
    try (Stream<Path> files = Files.list(RiverWatchFolder.data().resolve("queries"))) {
      files
          .map(Path::toString)
          .filter(file -> file.endsWith(".sql") && !file.endsWith("slips.sql"))
          .sorted()
          .forEach(queries::add);
    }
    assertThat(queries).hasSizeGreaterThanOrEqualTo(3);
  }

  @DataProvider
  static Object[][] embedded() {
    return Engine.embedded().stream().map(each -> new Object[] {each}).toArray(Object[][]::new);
  }

  /** DuckDB holds every reference, so that a file of it cannot hold the row that breaks one. */
  @DataProvider
  static Object[][] live() {
    return RiverDatabases.engines().stream()
        .filter(each -> each != Engine.DUCKDB)
        .map(each -> new Object[] {each})
        .toArray(Object[][]::new);
  }

  @Test(dataProvider = "embedded")
  public void sampleDataInAnyEngine(Engine engine) {
    assertSame(sample(engine), engine);
    assertThat(run("demo", "--engine", engine.id())).isEqualTo(run("demo"));
  }

  @Test(dataProvider = "live")
  public void databasesOfAnyEngine(Engine engine) {
    assertSame(RiverDatabases.options(engine), engine);
  }

  private void assertSame(List<String> tables, Engine engine) {
    for (String format : List.of("text", "json")) {
      assertThat(run("survey", tables, List.of("--format", format)))
          .isEqualTo(known("survey", List.of("--format", format)));
      for (String command : List.of("check", "ledger")) {
        for (String query : queries) {
          if (engine == Engine.MARIADB && query.endsWith("keepers.sql")) {
            // In MariaDB || is OR, so this is another query there.
            continue;
          }
          List<String> rest = List.of("--format", format, query);
          assertThat(run(command, tables, rest))
              .as("%s %s", command, query)
              .isEqualTo(known(command, rest));
        }
      }
      for (String query : queries) {
        List<String> rest = List.of("--format", format, "--step", "all", "--rows", "99", query);
        assertThat(run("rows", tables, rest)).as("rows %s", query).isEqualTo(known("rows", rest));
      }
    }
  }

  /** What the default engine answers; asked once. */
  private String known(String command, List<String> rest) {
    return known.computeIfAbsent(command + rest, each -> run(command, sample(Engine.DUCKDB), rest));
  }

  private static List<String> sample(Engine engine) {
    return List.of("--data", RiverWatchFolder.data().toString(), "--engine", engine.id());
  }

  private static String run(String command, List<String> tables, List<String> rest) {
    List<String> arguments = new ArrayList<>(List.of(command));
    arguments.addAll(tables);
    arguments.addAll(rest);
    return run(arguments.toArray(String[]::new));
  }

  private static String run(String... arguments) {
    Answer answer = Answer.to(arguments);
    // Who owns a database is told that a reader would do.
    String complaints = answer.err().replaceAll("(?m)^lantrel: note: the user .*\\R", "");
    return answer.out() + "\n" + complaints + "\nexit " + answer.exit();
  }
}
