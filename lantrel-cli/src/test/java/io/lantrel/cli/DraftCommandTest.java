package io.lantrel.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Drafts for lists that have nothing to do with each other, and what drafts promise. */
public class DraftCommandTest {

  private static final List<String> DRAFT =
      List.of("draft", "--data", Fixture.ROOT.resolve("lantrel-examples/river-watch").toString());

  private static Answer draft(List<String> arguments) {
    return Answer.to(Stream.concat(DRAFT.stream(), arguments.stream()).toList());
  }

  @DataProvider
  static Object[][] wishes() {
    List<String> lists = List.of("station.name", "reading.depth_cm", "sighting.head_count");
    return new Object[][] {
      {lists, "Way 1 of 2  one list behind the other\none row for each reading of a station, and"},
      {lists, "NULL AS reading_depth_cm"},
      {
        lists,
        "Way 2 of 2  figures for each station\none row for each station; every station is kept."
      },
      {lists, "  - proven: every s appears"},
      {
        Stream.concat(lists.stream(), Stream.of("--every-pair")).toList(),
        "every pair: each reading beside each sighting of the same station, by way of"
      },
      {List.of("station.name", "river.name"), "  - proven: one row per s\n  - proven: every s"},
      {
        List.of("station.name", "--where", "reading.depth_cm > 150"),
        "  - EXISTS: some reading with reading.depth_cm > 150 that belongs to the station"
      },
    };
  }

  @Test(dataProvider = "wishes")
  public void tellsWhatARowIsFor(List<String> wish, String expected) {
    Answer answer = draft(wish);
    assertThat(answer.err()).isEmpty();
    assertThat(answer.exit()).isZero();
    assertThat(answer.out()).contains(expected);
  }

  /** Conditions that do not run, wherever they stand: in the words that they were given in. */
  @DataProvider
  static Object[][] refusedConditions() {
    return new Object[][] {
      {
        List.of("station.name", "--where", "station.capacity > 0", "--where", "station.name > 3"),
        "lantrel: the condition \"station.name > 3\" does not run: Cannot compare values of type"
      },
      {
        List.of("station.name", "--where", "bank + 1 > 0"),
        "lantrel: the condition \"bank + 1 > 0\" does not run: "
      },
      {
        List.of("station.name", "--where", "nosuch(station.name) > 3"),
        "lantrel: the condition \"nosuch(station.name) > 3\" does not run: the function nosuch is"
      },
      {
        List.of("river.name", "--without", "station where capacity = 'abc'"),
        "lantrel: the condition \"capacity = 'abc'\" does not run: Could not convert string 'abc'"
      },
      {
        List.of("river.name", "--below", "river where length_km = 'abc'"),
        "lantrel: the condition \"length_km = 'abc'\" does not run: Could not convert string 'abc'"
      },
      {
        List.of("river.name", "count of station", "--above", "river where length_km = 'abc'"),
        "lantrel: the condition \"length_km = 'abc'\" does not run: Could not convert string 'abc'"
      },
    };
  }

  @Test(dataProvider = "refusedConditions")
  public void tellsTheConditionThatDoesNotRun(List<String> wish, String expected) {
    Answer answer = draft(wish);
    assertThat(answer.exit()).isEqualTo(2);
    assertThat(answer.out()).isEmpty();
    assertThat(answer.err()).startsWith(expected).doesNotContain("SELECT");
  }

  /** Trees of a world of its own: a circle that no root reaches, and sums over branches. */
  @Test
  public void tellsWhatNoRootReaches() throws IOException {
    Path folder =
        Fixture.folder(
            "shelves",
            Map.of(
                "schema.sql",
                """
                CREATE TABLE "Box" ("No" INTEGER PRIMARY KEY,
                  "In Box" INTEGER REFERENCES "Box" ("No"));
                CREATE TABLE thing (tag VARCHAR(5) PRIMARY KEY,
                  box INTEGER REFERENCES "Box" ("No"), grams INTEGER);
                """,
                "Box.csv",
                "No,In Box\n1,\n2,1\n3,2\n4,5\n5,4\n6,6\n",
                "thing.csv",
                "tag,box,grams\na,3,10\nb,2,\nc,5,7\nd,,8\ne,3,5\n"));
    List<String> tables = List.of("draft", "--data", folder.toString(), "Box.No");
    String whole = Answer.to(with(tables, "--below", "Box")).out();
    assertThat(whole)
        .contains("  - broken: every b appears\n    ", ": 4; 5; 6\n")
        .endsWith("  3 rows\n");
    Answer sums =
        Answer.to(with(tables, "sum of thing.grams", "count of Box", "--branches", "Box"));
    assertThat(sums.err()).isEmpty();
    assertThat(sums.out())
        .contains("  - proven: every b appears")
        .containsPattern("(?m)^ *1 +15 +3$")
        .containsPattern("(?m)^ *2 +15 +2$")
        .containsPattern("(?m)^ *4 +7 +2$")
        .containsPattern("(?m)^ *5 +7 +2$");
  }

  /** Keys that would write lines of their own stay in the line that tells them. */
  @Test
  public void rowsThatBreakAPromiseKeepToTheirLine() throws IOException {
    Path folder =
        Fixture.folder(
            "labels",
            Map.of(
                "schema.sql",
                "CREATE TABLE sort (code VARCHAR(30) PRIMARY KEY, upper VARCHAR(30) REFERENCES sort"
                    + " (code));",
                "sort.csv",
                "code,upper\ntop,\n\"in\n  - proven: all\u001b[31m\",\"in\n  - proven:"
                    + " all\u001b[31m\"\n"));
    Answer answer =
        Answer.to(List.of("draft", "--data", folder.toString(), "sort.code", "--below", "sort"));
    assertThat(answer.err()).isEmpty();
    assertThat(answer.out())
        .contains("  - broken: every s appears")
        .doesNotContain("\u001b")
        .doesNotContain("\n  - proven: all");
  }

  private static List<String> with(List<String> some, String... further) {
    return Stream.concat(some.stream(), Stream.of(further)).toList();
  }

  @Test
  public void tellsProgramsFormsAndPromises() throws IOException {
    Answer answer =
        draft(
            List.of("station.name", "reading.depth_cm", "sighting.head_count", "--format", "json"));
    assertThat(Fixture.violations("draft", answer.out())).isEmpty();
    List<String> told = new ArrayList<>();
    for (JsonNode draft : new ObjectMapper().readTree(answer.out()).get("drafts")) {
      told.add(draft.get("form").asText() + ": " + draft.get("promises").size());
    }
    assertThat(told).containsExactly("one list behind the other: 0", "figures for each station: 2");
  }
}
