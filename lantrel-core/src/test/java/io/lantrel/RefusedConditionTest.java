package io.lantrel;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.draft.Wish;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** The condition that a database refuses, and what it costs to find it. */
public class RefusedConditionTest {

  private static final Wish STATIONS = Wish.show("station.name");

  /** Wishes, the condition that is to blame, and the statements that are sent for it. */
  @DataProvider
  static Object[][] wishes() {
    String bad = "station.name > 3";
    return new Object[][] {
      {STATIONS.where("station.id > 1"), "", 1},
      {STATIONS.where(bad), bad, 2},
      {STATIONS.where("station.id > 1").where(bad).where("station.id > 2"), bad, 3},
      {STATIONS.where("station.id > 1").without("reading", "depth_cm = 'x'"), "depth_cm = 'x'", 3},
      // Each fails without the other as well.
      {STATIONS.where(bad).where("station.name > 4"), "", 3},
      {Wish.show("river.name").below("river", "length_km = 'x'"), "length_km = 'x'", 2},
    };
  }

  @Test(dataProvider = "wishes")
  public void asksOnceForEachConditionAtMost(Wish wish, String condition, long statements) {
    try (Lantrel lantrel = Lantrel.open(RiverWatchFolder.data())) {
      long before = lantrel.statementsSent();
      String told = lantrel.refusedCondition(wish).map(Throwable::getMessage).orElse("");
      assertThat(told)
          .startsWith(condition.isEmpty() ? "" : "the condition \"" + condition + "\" does not run")
          .matches(each -> condition.isEmpty() == each.isEmpty());
      assertThat(lantrel.statementsSent() - before).isEqualTo(statements);
    }
  }
}
