package io.lantrel.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Path;
import java.util.Map;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** The survey of a small world whose columns are marked by their tables. */
public class SurveyCommandTest {

  private static final String SCHEMA =
      """
      CREATE TABLE hive (hi_id INTEGER PRIMARY KEY, hi_label VARCHAR(20), hi_kind VARCHAR(10));
      CREATE TABLE frame (fr_id INTEGER PRIMARY KEY, fr_hi_id INTEGER, fr_wax INTEGER);
      CREATE TABLE keeper (ke_id INTEGER PRIMARY KEY, ke_name VARCHAR(20));
      CREATE VIEW full_hive AS WITH keeper AS (SELECT fr_hi_id, COUNT(*) AS n FROM frame GROUP BY
        fr_hi_id) SELECT h.hi_id, k.n FROM hive h JOIN keeper k ON k.fr_hi_id = h.hi_id;
      CREATE VIEW "Tall" AS SELECT f.n FROM full_hive f WHERE EXISTS (SELECT 1 FROM keeper);
      """;

  private String folder = "";

  @BeforeClass
  public void write() throws IOException {
    Path made =
        Fixture.folder(
            "hives",
            Map.of(
                "schema.sql",
                SCHEMA,
                "hive.csv",
                "hi_id,hi_label,hi_kind\n1,North,flat\n2,South,Flat\n3,\"\",tall\n4,East ,tall\n",
                "frame.csv",
                "fr_id,fr_hi_id,fr_wax\n11,1,5\n12,1,6\n13,4,5\n14,2,\n",
                "keeper.csv",
                "ke_id,ke_name\n1,Ansa\n2,Bero\n"));
    folder = made.toString();
  }

  @DataProvider
  static Object[][] calls() {
    return new Object[][] {
      {"", "frame.fr_hi_id → hive.hi_id      4                     named after the table"},
      {"--only keeper", "Tables  1 of 3"},
      {"", "\n  full_hive  frame, hive\n"},
      {"", "\n  Tall       keeper, frame, hive  full_hive\n"},
      {"--only keeper", "\n  view  over the tables      by way of\n  Tall  keeper, frame, hive"},
      {"--format json --only keeper", "\"tables\" : [ \"keeper\", \"frame\", \"hive\" ]"},
      {"--only hive", "hive       4  hi_id"},
      {"--only hive", "frame.fr_hi_id → hive.hi_id"},
      {"--only h*,k* --brief", "Tables  2 of 3"},
      {
        "--values",
        "no value comes twice                        1 empty text; blanks at the ends in 1"
      },
      {
        "--values", "tall (2)              Flat (1), flat (1)             1 value is another one in"
      },
      {"--values", "5 (2)                 6 (1)               5 … 6"},
      {"--rows 0", "hi_label varchar(20) 4"},
      {"--rows 4", "\n      4  East      tall\n"},
      {"--format json --values", "\"sameButForCase\" : 1"},
      {"--format json --only hive", "\"notShown\" : 2"},
    };
  }

  @Test(dataProvider = "calls")
  public void shows(String options, String expected) throws IOException {
    Answer answer = Answer.to(("survey --data " + folder + " " + options).strip().split(" +", -1));
    assertThat(answer.err()).isEmpty();
    assertThat(answer.out().replaceAll(" +", " ")).contains(expected.replaceAll(" +", " "));
    if (options.contains("json")) {
      assertThat(Fixture.violations("survey", answer.out())).isEmpty();
    }
  }

  @DataProvider
  static Object[][] refused() {
    return new Object[][] {
      {"--rows -1", "--rows is -1; it can be 0 to 1000"},
      {"--rows many", "--rows"},
      {"--only wasp", "there is no table called wasp; there are hive, frame, keeper"},
    };
  }

  @Test(dataProvider = "refused")
  public void saysWhatIsWrong(String options, String expected) {
    Answer answer = Answer.to(("survey --data " + folder + " " + options).split(" +", -1));
    assertThat(answer.exit()).isEqualTo(2);
    assertThat(answer.err()).contains(expected).doesNotContain("\tat ");
  }
}
