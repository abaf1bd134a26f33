package io.lantrel.check;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.RiverWatchFolder;
import io.lantrel.Study;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Iterator;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.TreeMap;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.testng.annotations.AfterClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/**
 * Tables of cases: faulty queries, each with its kind and place, and correct ones that look
 * suspicious, none of which gets a warning.
 */
public class CasesTest {

  /** {@code -- kind} above a statement, whose place is marked. */
  private static final Pattern CASE = Pattern.compile("-- ([a-z-]+)\\n(.*?);\\n", Pattern.DOTALL);

  private static final int LEAST_OF_A_KIND = 3;
  private static final int LEAST_INNOCENT = 250;

  private final Lantrel lantrel = Lantrel.open(RiverWatchFolder.data());

  @AfterClass
  void close() {
    lantrel.close();
  }

  /** A statement of a table, and the kind above it; {@code right} for a correct one. */
  record Case(String kind, String marked) {
    String sql() {
      return marked.replace("«", "").replace("»", "");
    }

    @Override
    public String toString() {
      return kind + ": " + marked.replaceAll("\\s+", " ");
    }
  }

  static List<Case> cases(String file) {
    try (InputStream in = CasesTest.class.getResourceAsStream(file)) {
      String text =
          new String(Objects.requireNonNull(in, file).readAllBytes(), StandardCharsets.UTF_8);
      List<Case> cases = new ArrayList<>();
      Matcher matcher = CASE.matcher(text);
      while (matcher.find()) {
        cases.add(new Case(matcher.group(1), matcher.group(2).strip()));
      }
      return cases;
    } catch (IOException failure) {
      throw new UncheckedIOException(failure);
    }
  }

  @DataProvider
  static Iterator<Object[]> faulty() {
    return cases("faulty.sql").stream().map(each -> new Object[] {each}).iterator();
  }

  @DataProvider
  static Iterator<Object[]> innocent() {
    return cases("innocent.sql").stream().map(each -> new Object[] {each}).iterator();
  }

  @Test(dataProvider = "faulty")
  public void isFoundAtItsPlace(Case faulty) {
    int start = faulty.marked().indexOf('«');
    int end = faulty.marked().indexOf('»') - 1;
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
    for (Finding finding : lantrel.study(faulty.sql()).findings()) {
      if (finding.repair().isPresent()) {
        Repair repair = finding.repair().get();
        Study repaired = lantrel.study(repair.sql());
        assertThat(repaired.findings())
            .as(repair.sql())
            .noneMatch(
                each -> each.kind() == finding.kind() && each.message().equals(finding.message()));
        repair
            .rowsAfter()
            .ifPresent(rows -> assertThat(repaired.result().size()).isEqualTo((int) rows));
      }
    }
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
    List<Case> innocent = cases("innocent.sql");
    long notes =
        innocent.stream().mapToLong(each -> lantrel.study(each.sql()).findings().size()).sum();
    assertThat(notes).isLessThanOrEqualTo(innocent.size() / 10);
    assertThat(innocent).hasSizeGreaterThanOrEqualTo(LEAST_INNOCENT);
  }

  /** Of each kind three disguises at least, here and on its page. */
  @Test
  public void everyKindHasCases() {
    Map<String, Long> counts =
        cases("faulty.sql").stream()
            .collect(Collectors.groupingBy(Case::kind, TreeMap::new, Collectors.counting()));
    assertThat(Arrays.stream(Kind.values()).filter(CasesTest::isOfQueries).map(Kind::id))
        .allSatisfy(
            kind ->
                assertThat(counts.getOrDefault(kind, 0L))
                    .as(kind)
                    .isGreaterThanOrEqualTo(LEAST_OF_A_KIND));
  }

  /** What is no text or no query, or does not end, has tests of its own. */
  private static boolean isOfQueries(Kind kind) {
    return kind != Kind.SYNTAX && kind != Kind.NOT_A_QUERY && kind != Kind.DOES_NOT_RUN;
  }
}
