package io.lantrel.survey;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.catalog.Basis;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/**
 * Whether references that no schema declares are seen in databases whose names have a style, and no
 * others; at full size {@code -Dlantrel.worlds=10}.
 */
public class StyledWorldsTest {

  private static final int WORLDS = Integer.getInteger("lantrel.worlds", 1);

  @DataProvider(parallel = true)
  static Object[][] styles() {
    List<Object[]> cases = new ArrayList<>();
    for (NameStyle style : NameStyle.values()) {
      if (WORLDS > 1 || style.ordinal() % 4 == 0) {
        cases.add(new Object[] {style, true});
      }
      cases.add(new Object[] {style, false});
    }
    return cases.toArray(Object[][]::new);
  }

  @Test(dataProvider = "styles")
  public void observesWhatHolds(NameStyle style, boolean keys) throws IOException {
    int expected = 0;
    int found = 0;
    int possible = 0;
    int told = 0;
    List<String> missed = new ArrayList<>();
    List<String> wrong = new ArrayList<>();
    int guesses = 0;
    for (long seed = 1; seed <= WORLDS; seed++) {
      StyledWorld world = new StyledWorld(style, keys, seed);
      try (Lantrel lantrel = Lantrel.open(world.folder())) {
        Survey survey = lantrel.survey();
        Set<String> observed = words(survey, Basis.OBSERVED);
        Set<String> guessed = words(survey, Basis.POSSIBLE);
        expected += world.references().size();
        told += observed.size();
        for (String each : world.references()) {
          if (observed.contains(each)) {
            found++;
          } else {
            possible += guessed.contains(each) ? 1 : 0;
            missed.add(each + (guessed.contains(each) ? " (possible)" : ""));
          }
        }
        observed.stream()
            .filter(each -> !world.references().contains(each))
            .filter(each -> !world.follows().contains(each))
            .forEach(wrong::add);
        for (String each : guessed) {
          guesses += world.references().contains(each) ? 0 : 1;
        }
      }
    }
    String figures =
        "%s, keys %s: of %d references %d %% observed, %d %% possible; wrong %d of %d; guesses %d"
            .formatted(
                style,
                keys ? "declared" : "not declared",
                expected,
                found * 100 / expected,
                possible * 100 / expected,
                wrong.size(),
                told,
                guesses);
    if (WORLDS > 1) {
      System.out.println(figures);
    }
    assertThat(style.namesTheTable() ? found : found + possible)
        .as("%s; missed are %s", figures, missed)
        .isGreaterThanOrEqualTo(expected * (style.namesTheTable() ? 95 : 80) / 100);
    assertThat(wrong).as(figures).hasSizeLessThanOrEqualTo(told * 2 / 100);
    assertThat(guesses)
        .as(figures)
        .isLessThanOrEqualTo(style.namesTheTable() ? expected / 10 : expected);
  }

  private static Set<String> words(Survey survey, Basis basis) {
    return survey.references().stream()
        .filter(each -> each.reference().basis() == basis)
        .map(each -> each.reference().words())
        .collect(Collectors.toSet());
  }
}
