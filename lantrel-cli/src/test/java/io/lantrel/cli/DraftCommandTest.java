package io.lantrel.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
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
