package io.lantrel.check;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.RiverWatchFolder;
import io.lantrel.Study;
import java.util.Arrays;
import java.util.Iterator;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.testng.annotations.AfterClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/**
 * Tables of cases: faulty queries, each with its kind and place, and correct ones that look
 * suspicious, none of which gets a warning.
 */
public class CasesTest {

  private static final int LEAST_OF_A_KIND = 3;
  private static final int LEAST_INNOCENT = 250;

  private final Lantrel lantrel = Lantrel.open(RiverWatchFolder.data());

  @AfterClass
  void close() {
    lantrel.close();
  }

  @DataProvider
  static Iterator<Object[]> faulty() {
    return Case.faulty().stream().map(each -> new Object[] {each}).iterator();
  }

  @DataProvider
  static Iterator<Object[]> innocent() {
    return Case.innocent().stream().map(each -> new Object[] {each}).iterator();
  }

  @Test(dataProvider = "faulty")
  public void isFoundAtItsPlace(Case faulty) {
    int start = faulty.start();
    int end = faulty.end();
    Study study = lantrel.study(faulty.sql());
    assertThat(study.findings())
        .as(faulty.sql())
        .anySatisfy(
            finding -> {
              assertThat(finding.kind().id()).isEqualTo(faulty.kind());
              assertThat(finding.place().start()).isEqualTo(start);
              assertThat(finding.place().end()).isEqualTo(end);
              assertThat(finding.message()).matches("(?s)\\p{L}.*\\.").doesNotContain("  ", "..");
              assertThat(finding.message().length()).isLessThan(420);
            });
  }

  @Test(dataProvider = "faulty")
  public void aRepairKeepsItsWord(Case faulty) {
    Repaired.keepsItsWord(faulty.sql(), lantrel);
  }

  @Test(dataProvider = "innocent")
  public void aCorrectQueryHasNoWarning(Case innocent) {
    Study study = lantrel.study(innocent.sql());
    assertThat(study.inspection().isComplete()).as(innocent.sql()).isTrue();
    assertThat(study.findings())
        .as(innocent.sql())
        .noneMatch(each -> each.severity() != Severity.NOTE);
  }

  /** At most one note in ten correct queries. */
  @Test
  public void notesAreRare() {
    List<Case> innocent = Case.innocent();
    long notes =
        innocent.stream().mapToLong(each -> lantrel.study(each.sql()).findings().size()).sum();
    assertThat(notes).isLessThanOrEqualTo(innocent.size() / 10);
    assertThat(innocent).hasSizeGreaterThanOrEqualTo(LEAST_INNOCENT);
  }

  /** Of each kind three disguises at least, here and on its page. */
  @Test
  public void everyKindHasCases() {
    Map<String, Long> counts =
        Case.faulty().stream()
            .collect(Collectors.groupingBy(Case::kind, TreeMap::new, Collectors.counting()));
    assertThat(Arrays.stream(Kind.values()).filter(CasesTest::isOfQueries).map(Kind::id))
        .allSatisfy(
            kind ->
                assertThat(counts.getOrDefault(kind, 0L))
                    .as(kind)
                    .isGreaterThanOrEqualTo(LEAST_OF_A_KIND));
  }

  /**
   * What is no query, or only looked for on some engines or by the wish of a project, has tests of
   * its own.
   */
  private static boolean isOfQueries(Kind kind) {
    return !Set.of(
            Kind.SYNTAX,
            Kind.NOT_A_QUERY,
            Kind.DOES_NOT_RUN,
            Kind.NOT_IN_ENGINE,
            Kind.OWN_RULE,
            Kind.MONTH_OF_SEVERAL_YEARS,
            Kind.WHOLE_DIVISION)
        .contains(kind);
  }
}
