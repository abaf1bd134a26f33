package io.lantrel.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Whoever reads JSON alone sees which statements have no answer, and why. */
public class StatementsThatFailTest {

  private Path folder = Path.of("");

  @BeforeClass
  void write() throws IOException {
    folder =
        Fixture.folder(
            "kiln",
            Map.of(
                "schema.sql",
                "CREATE TABLE pot (id INTEGER PRIMARY KEY, glaze VARCHAR(9), over_id INTEGER"
                    + " REFERENCES pot (id));",
                "pot.csv",
                "id,glaze,over_id\n1,green,\n2,blue,1\n",
                "some.sql",
                "SELECT p.glaze FROM pot p;\nSELECT p.glaze\nFROM pott p;\nSELECT p.shape FROM pot p;\n"
                    + "SELECT p.id FROM pot p JOIN pot o ON o.id = p.over_id;\n",
                "fine.sql",
                "SELECT p.glaze FROM pot p;\n",
                "one.sql",
                "SELECT p.glaze FROM pot p;\nSELECT p.id FROM pot p JOIN pot o ON o.id ="
                    + " p.over_id;\n"));
  }

  /** Command, options, its schema, the name of its answers, and how many there are. */
  @DataProvider
  static Object[][] commands() {
    return new Object[][] {
      {"ledger", List.of(), "ledger", "statements", 2},
      {"ledger", List.of("--against", "LEFT"), "ledger", "statements", 2},
      {"rows", List.of(), "rows", "statements", 2},
      {"rows", List.of("--step", "all"), "rows", "statements", 2},
      {"trace", List.of("--row", "1"), "trace", "answers", 2},
      {"trace", List.of("--column", "all"), "columns", "statements", 2},
      {"suggest", List.of(), "suggest", "queries", 2},
    };
  }

  @Test(dataProvider = "commands")
  public void theyStandBesideTheAnswers(
      String command, List<String> options, String schema, String answers, int count)
      throws IOException {
    Answer answer = answer(command, "some.sql", options);
    JsonNode json = new ObjectMapper().readTree(answer.out());
    assertThat(json.get(answers)).hasSize(count);
    List<String> failed = new ArrayList<>();
    json.get("failed")
        .forEach(
            each ->
                failed.add(
                    each.get("statement").asInt()
                        + " at "
                        + each.get("line").asInt()
                        + ": "
                        + each.get("reason").asText()));
    assertThat(failed).hasSize(2);
    assertThat(failed.get(0)).startsWith("2 at 2: ").contains("there is no table pott");
    assertThat(failed.get(1)).startsWith("3 at 4: ").contains("shape");
    assertThat(Fixture.violations(schema, answer.out())).isEmpty();
    // Whoever looks at the screen reads the same.
    assertThat(answer.err().lines()).hasSize(2);
    assertThat(answer.exit()).isEqualTo(ExitCode.COULD_NOT_RUN);
  }

  @Test(dataProvider = "commands")
  public void withoutThemThereIsNoWordOfThem(
      String command, List<String> options, String schema, String answers, int count)
      throws IOException {
    Answer answer = answer(command, "fine.sql", options);
    JsonNode json = new ObjectMapper().readTree(answer.out());
    assertThat(json.has("failed")).isFalse();
    assertThat(json.get(answers)).hasSize(1);
    assertThat(Fixture.violations(schema, answer.out())).isEmpty();
    assertThat(answer.exit()).isEqualTo(ExitCode.FINE);
  }

  /** A column that one statement does not have is that statement's failure alone. */
  @Test
  public void aColumnThatIsNotThereIsOneOfThem() throws IOException {
    Answer answer = answer("trace", "one.sql", List.of("--column", "glaze"));
    JsonNode json = new ObjectMapper().readTree(answer.out());
    assertThat(json.get("statements")).hasSize(1);
    assertThat(json.get("failed")).hasSize(1);
    assertThat(json.get("failed").get(0).get("statement").asInt()).isEqualTo(2);
    assertThat(json.get("failed").get(0).get("reason").asText())
        .isEqualTo("the result has no column glaze; it has id");
  }

  private Answer answer(String command, String queries, List<String> options) {
    List<String> call =
        new ArrayList<>(
            List.of(
                command,
                "--data",
                folder.toString(),
                "--format",
                "json",
                folder.resolve(queries).toString()));
    call.addAll(options);
    return Answer.to(call);
  }
}
