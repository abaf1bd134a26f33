package io.lantrel.check;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.RiverWatchFolder;
import io.lantrel.Study;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.regex.Pattern;
import org.testng.annotations.AfterClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/**
 * The cases with every equality of two columns written another way. What is wrong with a query is
 * found all the same, and what is right with it gets no warning.
 */
public class DisguisesTest {

  private static final Pattern EQUALITY =
      Pattern.compile("(?<![\\w.*+-])(\\w+\\.\\w+) = (\\w+\\.\\w+)(?! *[-*+|/])");

  private static final Pattern TEST =
      Pattern.compile("(?<![\\w.*+-])(\\w+\\.\\w+) (=|<>|<=|>=|<|>) ('[^']*'|\\d+)(?! *[-*+|/])");

  private static final int LEAST_CHANGED = 100;
  private static final int LEAST_TURNED = 40;

  private final Lantrel lantrel = Lantrel.open(RiverWatchFolder.data());

  @AfterClass
  void close() {
    lantrel.close();
  }

  /**
   * A way to write an equality, and the kinds that it makes no longer true: a value cast on purpose
   * is of the type that was wanted, a column is not always equal to itself where it is compared
   * otherwise, nothing is promised where values are made alike, and nothing nearly meets there.
   */
  @DataProvider
  static Object[][] disguises() {
    String text = "CAST(%s AS VARCHAR(40))";
    String alike = "LOWER(TRIM(CAST(%s AS VARCHAR(40))))";
    return new Object[][] {
      {"%2$s = %1$s", Set.of()},
      {"((%s) = (%s))", Set.of()},
      {text + " = " + text, Set.of("type-mismatch", "nearly-equal")},
      {alike + " = " + alike, Set.of("type-mismatch", "nearly-equal")},
      {"NOT (%s <> %s)", Set.of("always-true")},
      {"%s IN (%s)", Set.of("type-mismatch", "always-true", "outer-chain-broken")},
      {
        "(%s, 1) = (%s, 1)",
        Set.of(
            "type-mismatch",
            "always-true",
            "loose-or",
            "needless-outer-join",
            "idle-table",
            "crossed-branches")
      },
      {"%s IS NOT DISTINCT FROM %s", Set.of("type-mismatch", "always-true", "crossed-branches")},
    };
  }

  @Test(dataProvider = "disguises")
  public void aFaultIsFoundInDisguise(String equality, Set<String> gone) {
    List<String> missed = new ArrayList<>();
    int changed = 0;
    for (Case faulty : Case.faulty()) {
      String sql = disguised(faulty, equality);
      if (!sql.equals(faulty.sql()) && !gone.contains(faulty.kind())) {
        changed++;
        Study study = lantrel.study(sql);
        if (study.findings().stream().noneMatch(each -> isOf(each, faulty))) {
          missed.add(faulty.kind() + ": " + sql + "\n  " + study.findings());
        }
      }
    }
    assertThat(changed).isGreaterThanOrEqualTo(LEAST_CHANGED);
    assertThat(missed).as(equality).isEmpty();
  }

  private static boolean isOf(Finding finding, Case faulty) {
    return finding.kind().id().equals(faulty.kind());
  }

  /** {@code 3 < s.capacity} for {@code s.capacity > 3}. */
  @Test
  public void aFaultIsFoundWithItsConstantsFirst() {
    List<String> missed = new ArrayList<>();
    int changed = 0;
    for (Case faulty : Case.faulty()) {
      String sql =
          TEST.matcher(faulty.sql())
              .replaceAll(
                  match -> match.group(3) + " " + turned(match.group(2)) + " " + match.group(1));
      if (!sql.equals(faulty.sql())) {
        changed++;
        Study study = lantrel.study(sql);
        if (study.findings().stream().noneMatch(each -> isOf(each, faulty))) {
          missed.add(faulty.kind() + ": " + sql + "\n  " + study.findings());
        }
      }
    }
    assertThat(changed).isGreaterThanOrEqualTo(LEAST_TURNED);
    assertThat(missed).isEmpty();
  }

  private static String turned(String sign) {
    return sign.equals("<>") ? sign : sign.replace('<', '^').replace('>', '<').replace('^', '>');
  }

  /**
   * As what a query outside counts the rows of; what is said of a result as a whole is not said.
   */
  @Test
  public void aFaultIsFoundWithinAnotherQuery() {
    Set<String> ofResults = Set.of("repeated-label", "never-a-row");
    List<String> missed = new ArrayList<>();
    for (Case faulty : Case.faulty()) {
      String sql = "WITH inner_rows AS (" + faulty.sql() + ") SELECT COUNT(*) FROM inner_rows";
      Study study = lantrel.study(sql);
      if (!ofResults.contains(faulty.kind())
          && study.findings().stream().noneMatch(each -> isOf(each, faulty))) {
        missed.add(faulty.kind() + ": " + sql + "\n  " + study.findings());
      }
    }
    assertThat(missed).isEmpty();
  }

  @Test(dataProvider = "disguises")
  public void aCorrectQueryHasNoWarningInDisguise(String equality, Set<String> gone) {
    List<String> warned = new ArrayList<>();
    for (Case innocent : Case.innocent()) {
      String sql = disguised(innocent, equality);
      if (!sql.equals(innocent.sql())) {
        Study study = lantrel.study(sql);
        assertThat(study.isUnderstood()).as(sql).isTrue();
        study.findings().stream()
            .filter(each -> each.severity() != Severity.NOTE)
            .forEach(each -> warned.add(sql + "\n  " + each.kind() + each.message()));
      }
    }
    assertThat(warned).as("%s, without %s", equality, gone).isEmpty();
  }

  private static String disguised(Case each, String equality) {
    return EQUALITY
        .matcher(each.sql())
        .replaceAll(match -> String.format(equality, match.group(1), match.group(2)));
  }
}
