package io.lantrel.engine;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.Study;
import io.lantrel.check.Severity;
import io.lantrel.claim.Verdict;
import io.lantrel.claim.Verification;
import io.lantrel.draft.Draft;
import io.lantrel.draft.Wish;
import io.lantrel.draft.WishException;
import io.lantrel.world.World;
import io.lantrel.world.WorldGenerator;
import io.lantrel.world.WorldWishes;
import java.io.IOException;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/**
 * Wishes made at random, on every engine: each gives drafts that run, have no warning and keep what
 * their first line promises, or one sentence. {@code -Dlantrel.worlds=50} makes as many worlds.
 */
public class DraftsInWorldsTest {

  private static final int WORLDS = Integer.getInteger("lantrel.worlds", 2);
  private static final int WISHES = 40;

  @DataProvider
  static Object[][] engines() {
    return RiverDatabases.rows();
  }

  @Test(dataProvider = "engines")
  public void eachWishIsMetOrRefusedInASentence(Engine engine) throws IOException, SQLException {
    int drafts = 0;
    Map<String, Integer> refusals = new TreeMap<>();
    List<String> faults = new ArrayList<>();
    for (int seed = 0; seed < WORLDS; seed++) {
      World world = new WorldGenerator(7_000 + seed, true, true).world();
      WorldWishes wishes = new WorldWishes(world, seed);
      try (Lantrel lantrel = EngineLedgerTest.open(engine, world.folder())) {
        for (int i = 0; i < WISHES; i++) {
          Wish wish = wishes.wish();
          try {
            List<Draft> written = lantrel.drafts(wish);
            for (Draft draft : written) {
              String fault = faultOrFailure(lantrel, wish, draft);
              if (!fault.isEmpty()) {
                faults.add(fault + "\n" + wish + "\n" + draft.reading() + "\n" + draft.sql());
              }
            }
            drafts += written.size();
          } catch (WishException refused) {
            String sentence = String.valueOf(refused.getMessage());
            assertThat(sentence).as("%s", wish).hasSizeBetween(10, 300);
            refusals.merge(sentence.replaceAll("\\w*_\\w+|\".*\"", "…"), 1, Integer::sum);
          } catch (RuntimeException failure) {
            faults.add("it ends in " + failure + "\n" + wish);
          }
        }
      }
    }
    if (WORLDS > 2) {
      int refused = refusals.values().stream().mapToInt(Integer::intValue).sum();
      System.out.println(engine + ": " + drafts + " drafts; " + refused + " wishes refused");
    }
    assertThat(faults.stream().limit(4)).isEmpty();
    assertThat(drafts).isGreaterThan(WORLDS * WISHES / 3);
  }

  private static String faultOrFailure(Lantrel lantrel, Wish wish, Draft draft) {
    try {
      return fault(lantrel, wish, draft);
    } catch (DatabaseException failure) {
      return "it fails: " + failure.getMessage();
    }
  }

  /** What is wrong with a draft; empty if nothing is. */
  private static String fault(Lantrel lantrel, Wish wish, Draft draft) {
    Study study = lantrel.study(draft.sql());
    if (study.inspection().refusal().isPresent()) {
      return "it is refused: " + study.inspection().refusal().get();
    }
    if (!study.isUnderstood()) {
      return "it is not read: " + study.findings();
    }
    study.result(5);
    List<String> kinds =
        study.findings().stream()
            .filter(each -> each.severity() != Severity.NOTE)
            .map(each -> each.kind().id() + ": " + each.message())
            .filter(each -> !isWishedFor(wish, each))
            .toList();
    if (!kinds.isEmpty()) {
      return "findings: " + kinds;
    }
    if (draft.claims().isEmpty()) {
      return "";
    }
    Verification promised = study.verify(draft.claims().toArray(String[]::new));
    // Whole trees tell by it that rows hang in a circle.
    boolean trees = wish.walk().filter(walk -> walk.start().isEmpty()).isPresent();
    return promised.problems().isEmpty()
            && promised.claims().stream()
                .filter(each -> !trees || !each.claim().text().startsWith("every"))
                .noneMatch(each -> each.verdict() == Verdict.BROKEN)
        ? ""
        : "promises: " + promised;
  }

  /** Every pair of two lists is what some wish for, or labels; and no row may fit a condition. */
  private static boolean isWishedFor(Wish wish, String kind) {
    return kind.startsWith("never-a-row")
        || (kind.startsWith("grouped-by-name")
            && wish.shown().stream().anyMatch(each -> each.startsWith("count of different")))
        || (wish.everyPair() && kind.startsWith("crossed-branches"));
  }
}
