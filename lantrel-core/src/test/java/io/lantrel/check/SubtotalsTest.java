package io.lantrel.check;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.RiverWatchFolder;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.testng.annotations.AfterClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** The cases with subtotals: what is asked about groups is asked about those of ROLLUP too. */
public class SubtotalsTest {

  private static final Pattern GROUPS = Pattern.compile("GROUP BY ((?:\\w+\\.\\w+(?:, )?)+)");

  /** What no longer holds where a group may be a subtotal. */
  private static final Set<String> GONE = Set.of();

  private static final int LEAST = 60;

  private final Lantrel lantrel = Lantrel.open(RiverWatchFolder.data());

  @AfterClass
  void close() {
    lantrel.close();
  }

  @DataProvider
  static Object[][] sets() {
    return new Object[][] {{"ROLLUP (%s)"}, {"CUBE (%s)"}, {"GROUPING SETS ((%s), ())"}};
  }

  private static String with(String sets, String sql) {
    Matcher groups = GROUPS.matcher(sql);
    return groups.replaceAll(each -> "GROUP BY " + sets.formatted(each.group(1)));
  }

  @Test(dataProvider = "sets")
  public void allIsChecked(String sets) {
    List<String> unchecked = new ArrayList<>();
    int changed = 0;
    for (Case each : Stream.concat(Case.faulty().stream(), Case.innocent().stream()).toList()) {
      String sql = with(sets, each.sql());
      if (!sql.equals(each.sql()) && lantrel.study(each.sql()).inspection().isComplete()) {
        changed++;
        lantrel.study(sql).inspection().unchecked().forEach(it -> unchecked.add(sql + "\n  " + it));
      }
    }
    assertThat(changed).isGreaterThan(LEAST);
    assertThat(unchecked).isEmpty();
  }

  @Test
  public void aFaultIsFoundAmongSubtotals() {
    List<String> missed = new ArrayList<>();
    for (Case each : Case.faulty()) {
      String sql = with("ROLLUP (%s)", each.sql());
      if (!sql.equals(each.sql())
          && !GONE.contains(each.kind())
          && lantrel.study(sql).findings().stream()
              .noneMatch(it -> it.kind().id().equals(each.kind()))) {
        missed.add(each + "\n  " + lantrel.study(sql).findings());
      }
    }
    assertThat(missed).isEmpty();
  }
}
