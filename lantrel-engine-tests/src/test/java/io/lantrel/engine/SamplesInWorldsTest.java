package io.lantrel.engine;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.Scratch;
import io.lantrel.sample.Sample;
import io.lantrel.sample.SampleWish;
import io.lantrel.sample.SampledTable;
import io.lantrel.sample.Trait;
import io.lantrel.sample.Trait.Outcome;
import io.lantrel.survey.Survey;
import io.lantrel.survey.Survey.ReferenceSurvey;
import io.lantrel.world.World;
import io.lantrel.world.WorldGenerator;
import java.io.IOException;
import java.nio.file.Path;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.testng.Reporter;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/**
 * Samples of worlds made at random, on every engine: they hold rows of the database and no others,
 * break no reference that holds there, are the same twice, and load. At full size: {@code
 * -Dlantrel.worlds=50}.
 */
public class SamplesInWorldsTest {

  private static final int WORLDS = Integer.getInteger("lantrel.worlds", 3);
  private static final int ROWS = 20;

  @DataProvider
  static Object[][] engines() {
    return RiverDatabases.rows();
  }

  @Test(dataProvider = "engines")
  public void areClosedAndTrue(Engine engine) throws IOException, SQLException {
    int kept = 0;
    for (int seed = 0; seed < WORLDS; seed++) {
      boolean whole = engine.isEmbedded() && seed % 2 == 0;
      World world = new WorldGenerator(9_000 + seed, true, !whole, 15).world();
      try (Lantrel lantrel = EngineLedgerTest.open(engine, world.folder())) {
        SampleWish wish = SampleWish.usual().ofRows(ROWS);
        Sample sample = lantrel.sample(wish, List.of(), doing -> {});
        assertThat(sample.remarks()).isEmpty();
        assertThat(sample.size()).isLessThanOrEqualTo(ROWS);
        assertThat(lantrel.sample(wish, List.of(), doing -> {}).tables())
            .isEqualTo(sample.tables());
        for (SampledTable each : sample.tables()) {
          assertThat(rowsOf(each)).isSubsetOf(rowsOf(each.table().name(), world));
        }
        Path folder = Scratch.folder("sample").resolve("rows");
        sample.writeTo(folder);
        try (Lantrel loaded = Lantrel.openFor(engine, folder, Limits.usual())) {
          compare(lantrel.survey(), loaded.survey(), sample);
          kept += partnersHold(loaded.survey(), sample);
        }
      }
    }
    Reporter.log(engine + ": " + kept + " traits seen on the samples", true);
    assertThat(kept).isGreaterThan(WORLDS * 3);
  }

  private static List<String> rowsOf(SampledTable table) {
    return table.rows().stream().map(SamplesInWorldsTest::text).toList();
  }

  private static List<String> rowsOf(String table, World world) {
    return world.rows().getOrDefault(table, List.of()).stream()
        .map(SamplesInWorldsTest::text)
        .toList();
  }

  /** Numbers without zeros behind the point, texts of one length without blanks behind them. */
  private static String text(List<@Nullable String> row) {
    List<String> texts = new ArrayList<>();
    for (String each : row) {
      String value = Objects.requireNonNullElse(each, "NULL").strip();
      texts.add(value.matches("-?[0-9]+\\.[0-9]+") ? value.replaceFirst("\\.?0+$", "") : value);
    }
    return texts.toString();
  }

  /** A reference leads nowhere here only where it does there. */
  private static void compare(Survey there, Survey here, Sample sample) {
    Function<Survey, List<ReferenceSurvey>> declared =
        survey -> survey.references().stream().filter(each -> each.reasons().isEmpty()).toList();
    for (ReferenceSurvey each : declared.apply(here)) {
      ReferenceSurvey same =
          declared.apply(there).stream()
              .filter(other -> other.reference().words().equalsIgnoreCase(each.reference().words()))
              .findFirst()
              .orElseThrow();
      assertThat(each.toNothing())
          .as(each.reference().words() + " " + sample.tables())
          .isLessThanOrEqualTo(same.toNothing());
    }
  }

  /** What is said to be kept about references that lead nowhere is there. */
  private static int partnersHold(Survey here, Sample sample) {
    List<Trait> kept =
        sample.traits().stream().filter(each -> each.outcome() == Outcome.KEPT).toList();
    for (Trait each : kept) {
      if (each.words().equals("leading nowhere")) {
        List<ReferenceSurvey> of =
            here.references().stream()
                .filter(one -> one.reference().from().name().equals(each.table()))
                .filter(
                    one ->
                        one.reference().fromColumns().stream()
                            .collect(Collectors.joining(", "))
                            .equals(each.about()))
                .toList();
        assertThat(of).anyMatch(one -> one.toNothing() > 0);
      }
    }
    return kept.size();
  }
}
