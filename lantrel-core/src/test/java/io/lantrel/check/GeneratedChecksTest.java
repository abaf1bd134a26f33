package io.lantrel.check;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.QueryGenerator;
import io.lantrel.Study;
import io.lantrel.sql.Edit;
import io.lantrel.sql.tree.Span;
import java.io.IOException;
import java.util.List;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Checks over generated queries, all of which the database runs. */
public class GeneratedChecksTest {

  private static final long SEED = 41;
  private static final int QUERIES_EACH = 30;
  private static final int TABLES = 4;

  @DataProvider
  static Object[][] databases() {
    return new Object[][] {{0}, {1}, {2}, {3}};
  }

  @Test(dataProvider = "databases")
  public void areNeverWrongAboutAQueryThatRuns(int database) throws IOException {
    QueryGenerator generator = new QueryGenerator(SEED + database, TABLES);
    try (Lantrel lantrel = Lantrel.open(QueryGenerator.folder(SEED + database, TABLES))) {
      for (int i = 0; i < QUERIES_EACH; i++) {
        String sql = i % 5 == 0 ? generator.oldOrNested() : generator.query().sql();
        Study study = lantrel.study(sql);
        assertThat(study.isUnderstood()).as(sql).isTrue();
        assertThat(study.inspection().refusal()).as(sql).isEmpty();
        assertThat(study.inspection().unchecked())
            .as(sql)
            .allMatch(reason -> reason.contains("has no rows here"));
        for (Finding finding : study.findings()) {
          assertThat(finding.severity()).as(sql).isNotEqualTo(Severity.ERROR);
          finding.repair().ifPresent(repair -> compare(lantrel, study, finding, repair));
        }
      }
    }
  }

  /** A repair keeps its word: it can be made, gives the rows it says, and the finding is gone. */
  private static void compare(Lantrel lantrel, Study study, Finding finding, Repair repair) {
    String sql = study.sql();
    assertThat(Edit.apply(study.source().text(), repair.edits())).isEqualTo(repair.sql());
    Study repaired = lantrel.study(repair.sql());
    assertThat(repaired.result().size())
        .as(repair.sql())
        .isEqualTo((int) repair.rowsAfter().getAsLong());
    assertThat(study.result().size()).as(sql).isEqualTo((int) repair.rowsBefore().orElseThrow());
    assertThat(repaired.findings())
        .as(repair.sql())
        .noneMatch(
            each -> each.kind() == finding.kind() && each.message().equals(finding.message()));
    assertThat(loud(repaired))
        .as(repair.sql())
        .isLessThanOrEqualTo(loud(study) - loudness(finding));
  }

  private static long loud(Study study) {
    return study.findings().stream().mapToLong(GeneratedChecksTest::loudness).sum();
  }

  private static long loudness(Finding finding) {
    return finding.severity() == Severity.NOTE ? 0 : 1;
  }

  /** Joins within a subquery that looks at a row outside are looked at like any others. */
  @Test
  public void reachEveryBlock() throws IOException {
    QueryGenerator generator = new QueryGenerator(SEED - 7, TABLES);
    int found = 0;
    try (Lantrel lantrel = Lantrel.open(QueryGenerator.folder(SEED, TABLES))) {
      for (int i = 0; i < 60; i++) {
        QueryGenerator.Generated query = generator.query();
        String joined =
            query.steps().isEmpty() ? "t0 a" : query.steps().get(query.steps().size() - 1).whole();
        String inner = "FROM " + joined + " WHERE a.ref = o.id";
        List<String> around =
            List.of(
                "SELECT o.id, (SELECT COUNT(*) " + inner + ") AS n FROM t1 o",
                "SELECT o.id FROM t1 o WHERE o.val IN (SELECT a.val " + inner + ")",
                "SELECT o.id, l.n FROM t1 o LEFT JOIN LATERAL (SELECT MAX(a.val) AS n "
                    + inner
                    + ") l ON true");
        for (String sql : around) {
          Study study = lantrel.study(sql);
          assertThat(study.inspection().unchecked()).as(sql).isEmpty();
          assertThat(study.inspection().refusal()).as(sql).isEmpty();
          for (Finding finding : study.findings()) {
            found++;
            finding.repair().ifPresent(repair -> compare(lantrel, study, finding, repair));
          }
        }
      }
    }
    assertThat(found).as("findings within subqueries").isGreaterThan(20);
  }

  /**
   * Half-written and damaged queries: something is said about each, and nothing breaks. A query
   * from which one word is taken out is either still a query, or an error with a place.
   */
  @Test
  public void sayWhereADamagedQueryIsDamaged() throws IOException {
    QueryGenerator generator = new QueryGenerator(SEED, TABLES);
    try (Lantrel lantrel = Lantrel.open(QueryGenerator.folder(SEED, TABLES))) {
      for (int i = 0; i < 12; i++) {
        String sql = generator.query().sql();
        List<String> words = List.of(sql.split(" ", -1));
        for (int gone = 0; gone < words.size(); gone += 3) {
          String damaged =
              String.join(" ", words.subList(0, gone))
                  + " "
                  + String.join(" ", words.subList(gone + 1, words.size()));
          lantrel.studies(damaged).forEach(study -> assertSaysSomething(study, damaged));
        }
      }
    }
  }

  private static void assertSaysSomething(Study study, String damaged) {
    boolean runs =
        study.inspection().refusal().isEmpty()
            && study.findings().stream().noneMatch(each -> each.severity() == Severity.ERROR);
    if (runs && study.isUnderstood()) {
      assertThat(study.result().headings()).as(damaged).isNotEmpty();
    }
    for (Finding finding : study.findings()) {
      Span place = finding.place();
      assertThat(place.end()).as(damaged).isLessThanOrEqualTo(damaged.length());
      assertThat(finding.message()).as(damaged).endsWith(".");
    }
  }
}
