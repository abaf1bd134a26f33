package io.lantrel.check;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.RiverWatchFolder;
import io.lantrel.Study;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.testng.annotations.AfterClass;
import org.testng.annotations.Test;

/** The cases with subtotals: what is asked about groups is asked about those of ROLLUP too. */
public class SubtotalsTest {

  private static final Pattern GROUPS =
      Pattern.compile("GROUP BY (\\w+\\.\\w+(?:, \\w+\\.\\w+)*)(?!\\w|, )");

  /** What no longer holds where a group may be a subtotal: that each is one row. */
  private static final Set<String> GONE = Set.of("groups-of-one");

  private static final int LEAST = 60;

  private final Lantrel lantrel = Lantrel.open(RiverWatchFolder.data());

  @AfterClass
  void close() {
    lantrel.close();
  }

  /** The groups of the query itself, and not of one within it. */
  private static String with(String sets, String sql) {
    Matcher groups = GROUPS.matcher(sql);
    return groups.replaceAll(
        each ->
            Matcher.quoteReplacement(
                isOutermost(sql.substring(0, each.start()))
                    ? "GROUP BY " + sets.formatted(each.group(1))
                    : each.group()));
  }

  private static boolean isOutermost(String before) {
    return before.chars().filter(each -> each == '(').count()
        == before.chars().filter(each -> each == ')').count();
  }

  /** What of a query with sets is not checked, and was of the query without. */
  private List<String> unchecked(Study study, Case plain) {
    return study.inspection().isComplete() || !lantrel.study(plain.sql()).inspection().isComplete()
        ? List.of()
        : study.inspection().unchecked();
  }

  @Test
  public void aFaultIsFoundAmongSubtotals() {
    List<String> missed = new ArrayList<>();
    int changed = 0;
    for (Case each : Case.faulty()) {
      String sql = with("ROLLUP (%s)", each.sql());
      if (!sql.equals(each.sql()) && !GONE.contains(each.kind())) {
        changed++;
        Study study = lantrel.study(sql);
        missed.addAll(unchecked(study, each));
        if (study.findings().stream().noneMatch(it -> it.kind().id().equals(each.kind()))) {
          missed.add(each + "\n  " + study.findings());
        }
      }
    }
    assertThat(changed).isGreaterThan(LEAST);
    assertThat(missed).isEmpty();
  }

  @Test
  public void aRightQueryStaysRight() {
    List<String> warned = new ArrayList<>();
    for (Case each : Case.innocent()) {
      String sql = with("GROUPING SETS ((%s), ())", each.sql());
      if (!sql.equals(each.sql())) {
        Study study = lantrel.study(sql);
        warned.addAll(unchecked(study, each));
        study.findings().stream()
            .filter(it -> it.severity() != Severity.NOTE)
            .forEach(it -> warned.add(sql + "\n  " + it));
      }
    }
    assertThat(warned).isEmpty();
  }
}
