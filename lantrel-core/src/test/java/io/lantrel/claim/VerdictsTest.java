package io.lantrel.claim;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.lantrel.Lantrel;
import io.lantrel.RiverWatchFolder;
import io.lantrel.Study;
import io.lantrel.catalog.Constraint;
import io.lantrel.sql.Dialect;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.testng.annotations.AfterClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** What becomes of claims, and how it is told. */
public class VerdictsTest {

  private final Lantrel lantrel = Lantrel.open(RiverWatchFolder.data());

  @AfterClass
  public void close() {
    lantrel.close();
  }

  @DataProvider
  static Object[][] claims() {
    return Stream.of("verdicts.sql", "shapes.sql")
        .flatMap(page -> ClaimPage.read(page).stream())
        .map(each -> new Object[] {each})
        .toArray(Object[][]::new);
  }

  @Test(dataProvider = "claims")
  public void tellsWhatBecomesOfIt(Object each) {
    ClaimPage.Expected expected = (ClaimPage.Expected) each;
    Verification found = lantrel.study(expected.sql()).verify(expected.claim());
    String verdict =
        found.problems().isEmpty() ? found.claims().get(0).verdict().word() : "misspelt";
    String reason =
        found.problems().isEmpty()
            ? found.claims().get(0).reason()
            : found.problems().get(0).message();
    assertThat(verdict).as(each + "\n" + found).isEqualTo(expected.verdict());
    assertThat(reason).as(each.toString()).contains(expected.reason());
    assertThat(found.isMet()).isEqualTo(verdict.equals("proven") || verdict.equals("holds"));
  }

  // ---- where claims stand ----

  @DataProvider
  static Object[][] texts() {
    String query = "SELECT s.name FROM station s";
    return new Object[][] {
      {"-- claim: 14 rows\n" + query, List.of("14 rows"), List.of()},
      {query + " -- claim: 14 rows", List.of("14 rows"), List.of()},
      {query + "; -- claim: 14 rows\n" + query, List.of("14 rows"), List.of()},
      {query + ";\n-- claim: 14 rows\n" + query, List.of(), List.of("14 rows")},
      {query + ";\n" + query + ";\n-- CLAIM:14 rows", List.of(), List.of("14 rows")},
      {
        "/* claim: 14 rows\n * claim: no null in name */ " + query,
        List.of("14 rows", "no null in name"),
        List.of()
      },
      {"SELECT '-- claim: 3 rows' AS name FROM station", List.of(), List.of()},
      {"-- our claim: 14 rows\n-- claims are dear\n" + query, List.of(), List.of()},
      {
        "SELECT s.name -- claim: no null in name\r\nFROM station s -- claim: 14 rows\r\n",
        List.of("no null in name", "14 rows"),
        List.of()
      },
    };
  }

  @Test(dataProvider = "texts")
  public void belongToTheirStatement(String text, List<String> first, List<String> second) {
    List<Study> studies = lantrel.studies(text);
    assertThat(texts(studies.get(0))).isEqualTo(first);
    assertThat(studies.size() > 1 ? texts(studies.get(1)) : List.of()).isEqualTo(second);
    studies.forEach(study -> assertThat(study.verify().problems()).isEmpty());
  }

  private static List<String> texts(Study study) {
    return study.claims().stream().map(Claim::text).toList();
  }

  @DataProvider
  static Object[][] slips() {
    return new Object[][] {
      {"-- clam: 14 rows", "claim: 14 rows"},
      {"-- claims: one row per station", "claim: one row per station"},
      {"-- claim 14 rows", "claim: 14 rows"},
      {"-- claim:", "this claim says nothing"},
      {"-- claim: evry station appears", "near it is: every station appears"},
    };
  }

  @Test(dataProvider = "slips")
  public void slipsOfThePenAreTold(String comment, String told) {
    Verification found = lantrel.study(comment + "\nSELECT s.name FROM station s").verify();
    assertThat(found.claims()).isEmpty();
    assertThat(found.problems()).hasSize(1);
    assertThat(found.problems().get(0).message()).contains(told);
    assertThat(found.problems().get(0).claim().place().orElseThrow().line()).isEqualTo(1);
  }

  // ---- rows ----

  @Test
  public void showsTheRowsThatBreakIt() {
    String sql = "SELECT s.name, g.depth_cm FROM station s JOIN reading g ON g.station_id = s.id";
    BreakingRows rows =
        lantrel
            .study(sql)
            .verify(new ClaimFiles(Path.of("")), 2, "one row per station")
            .claims()
            .get(0)
            .rows()
            .orElseThrow();
    assertThat(rows.headings()).containsExactly("s.id", "rows");
    assertThat(rows.rows()).containsExactly(List.of("1", "3"), List.of("2", "2"));
    assertThat(rows.count()).isEqualTo(8);
    rows = lantrel.study(sql).verify("no null in depth_cm").claims().get(0).rows().orElseThrow();
    assertThat(rows.headings()).containsExactly("name", "depth_cm");
    assertThat(rows.rows().toString()).contains("[Drayle Meadow, null]", "[Stony Steps, null]");
  }

  @Test
  public void namesTheRowsThatAreLost() {
    BreakingRows rows =
        lantrel
            .study("SELECT s.name FROM station s JOIN river r ON r.id = s.river_id")
            .verify("every station appears")
            .claims()
            .get(0)
            .rows()
            .orElseThrow();
    assertThat(rows.headings()).containsExactly("id", "name");
    assertThat(rows.rows()).containsExactly(List.of("14", "Spare Float"));
  }

  @Test
  public void tellsAllInTheMessageOfATest() {
    Verification found =
        lantrel
            .study("-- claim: 3 rows\nSELECT s.name FROM station s, reading g")
            .verify("one row per station", "evry station appears", "no null in name");
    assertThatThrownBy(found::assertMet)
        .isInstanceOf(AssertionError.class)
        .hasMessageContaining("broken: 3 rows; the result has 378 rows")
        .hasMessageContaining("broken: one row per station; 14 stations have several rows")
        .hasMessageContaining("    1, 27")
        .hasMessageContaining("near it is: every station appears")
        .hasMessageContaining("proven: no null in name");
    assertThatThrownBy(() -> lantrel.study("SELECT 1 AS a").verify().assertMet())
        .hasMessageContaining("there is no claim to verify");
    Verification met = lantrel.study("SELECT s.name FROM station s").verify("14 rows");
    assertThat(met.assertMet()).isSameAs(met);
  }

  // ---- files ----

  @Test
  public void comparesWithFiles() throws IOException {
    Path folder = Files.createTempDirectory("claims");
    Files.writeString(folder.resolve("other.sql"), "SELECT name FROM river;");
    Files.writeString(folder.resolve("all.csv"), "name\nOmbrel\nTavin\n");
    Files.writeString(folder.resolve("my list.csv"), "name\nTavin\nOmbrel\n");
    Files.writeString(folder.resolve("torn.sql"), "SELECT nme FROM river");
    Path outside = Files.createTempFile("outside", ".sql");
    Files.writeString(outside, "SELECT name FROM river");
    Files.createSymbolicLink(folder.resolve("link.sql"), outside);
    Study study = lantrel.study("SELECT r.name FROM river r WHERE r.id < 3");
    List<String> verdicts =
        study
            .verify(
                new ClaimFiles(folder),
                3,
                "same rows as other.sql",
                "rows of all.csv",
                "rows of 'my list.csv'",
                "same rows as torn.sql",
                "same rows as ../" + folder.getFileName() + "/other.sql",
                "same rows as " + folder.resolve("other.sql"),
                "same rows as link.sql")
            .claims()
            .stream()
            .map(each -> each.verdict().word() + " " + each.reason())
            .toList();
    assertThat(verdicts.get(0)).startsWith("broken");
    assertThat(verdicts.get(1)).startsWith("holds the same 2 rows");
    assertThat(verdicts.get(2)).startsWith("holds");
    assertThat(verdicts.get(3)).contains("undecided torn.sql", "nme");
    assertThat(verdicts.get(4)).startsWith("broken");
    assertThat(verdicts.get(5)).contains("undecided", "not in the folder of the query");
    assertThat(verdicts.get(6)).contains("undecided", "not in the folder of the query");
    assertThat(
            lantrel
                .study("SELECT name FROM river")
                .verify(new ClaimFiles(folder), 3, "same rows as other.sql")
                .claims()
                .get(0)
                .verdict())
        .isEqualTo(Verdict.PROVEN);
  }

  // ---- without rows ----

  @Test
  public void aSchemaAloneProvesWhatFollows() {
    Path schema = RiverWatchFolder.data().resolve("schema.sql");
    try (Lantrel alone = Lantrel.openSchema(schema, Dialect.DUCKDB)) {
      Verification found =
          alone
              .study("SELECT s.name FROM station s")
              .verify("one row per station", "one row per name", "evry station appears");
      assertThat(found.claims().stream().map(CheckedClaim::verdict))
          .containsExactly(Verdict.PROVEN, Verdict.UNDECIDED);
      assertThat(found.claims().get(1).reason()).isEqualTo("there are no rows here");
      assertThat(found.problems()).hasSize(1);
      assertThat(found.rows()).isEmpty();
    }
  }

  @Test
  public void aQueryWithAnErrorLeavesItsClaimsOpen() {
    Verification found = lantrel.study("SELECT s.nme FROM station s").verify("14 rows", "14 rwos");
    assertThat(found.claims().get(0).verdict()).isEqualTo(Verdict.UNDECIDED);
    assertThat(found.claims().get(0).reason()).contains("line 1, column 10").contains("nme");
    assertThat(found.problems()).hasSize(1);
  }

  @Test
  public void takesValuesOfParameters() {
    Study study =
        lantrel.study("SELECT s.name FROM station s WHERE s.capacity > :least", Map.of("least", 9));
    assertThat(study.verify("3 rows").isMet()).isTrue();
  }

  // ---- suggestions ----

  @DataProvider
  static Object[][] suggestions() {
    return new Object[][] {
      {
        "SELECT s.name, r.name AS river FROM station s LEFT JOIN river r ON r.id = s.river_id",
        List.of("one row per station", "every station appears")
      },
      {
        "SELECT s.id, SUM(g.head_count) AS heads FROM station s JOIN sighting g ON g.station_id ="
            + " s.id GROUP BY s.id ORDER BY s.id",
        List.of(
            "one row per station",
            "every sighting appears",
            "order by id",
            "no null in heads",
            "total of heads is total of sighting.head_count")
      },
      {"SELECT COUNT(*) AS n FROM station", List.of("1 row", "no null in n")},
      {
        "-- claim: one row per  Station\nSELECT s.name FROM station s",
        List.of("every station appears")
      },
      {
        "WITH RECURSIVE up (id) AS (SELECT w.id FROM warden w WHERE w.mentor_id IS NULL UNION"
            + " SELECT w.id FROM warden w JOIN up u ON w.mentor_id = u.id) SELECT id FROM up",
        List.of("one row per id", "levels at most 4")
      },
    };
  }

  @Test(dataProvider = "suggestions")
  public void suggestsWhatIsMet(String sql, List<String> wanted) {
    List<CheckedClaim> found = lantrel.study(sql).suggestedClaims();
    assertThat(found.stream().map(each -> each.claim().text()))
        .containsAll(wanted)
        .doesNotHaveDuplicates();
    assertThat(found).allMatch(each -> each.verdict().isMet());
    assertThat(found.stream().map(CheckedClaim::verdict)).isSorted();
    // Whatever is suggested is a claim that can be read, and is met again.
    String[] texts = found.stream().map(each -> each.claim().text()).toArray(String[]::new);
    Verification again = lantrel.study(sql).verify(texts);
    assertThat(again.problems()).isEmpty();
    assertThat(again.isMet()).as(again.toString()).isTrue();
  }

  /** What is suggested is written as a comment of one line: no name may lead out of it. */
  @Test
  public void suggestsNothingThatEndsALine() throws IOException {
    Path folder = Files.createTempDirectory("lines");
    Files.writeString(
        folder.resolve("schema.sql"),
        "CREATE TABLE \"a\nDROP TABLE b\" (id INTEGER PRIMARY KEY, n INTEGER);"
            + "CREATE TABLE b (id INTEGER PRIMARY KEY, \"x\u2028y\" INTEGER);");
    try (Lantrel odd = Lantrel.openSchema(folder.resolve("schema.sql"), Dialect.DUCKDB)) {
      List<CheckedClaim> found = new ArrayList<>();
      found.addAll(odd.study("SELECT * FROM \"a\nDROP TABLE b\"").suggestedClaims());
      found.addAll(odd.study("SELECT * FROM b WHERE \"x\u2028y\" > 1").suggestedClaims());
      assertThat(found).isNotEmpty();
      assertThat(found)
          .noneMatch(each -> each.claim().text().matches("(?s).*[\\p{Cntrl}\u2028].*"));
    }
  }

  /** How deep a recursion goes is asked once, and then whether it is so. */
  @Test
  public void suggestingAsksLittle() {
    String walk =
        "WITH RECURSIVE up (id) AS (SELECT w.id FROM warden w WHERE w.mentor_id IS NULL UNION"
            + " SELECT w.id FROM warden w JOIN up u ON w.mentor_id = u.id) SELECT id FROM up";
    Study study = lantrel.study(walk);
    assertThat(study.suggestedClaims().stream().map(each -> each.claim().text()))
        .contains("levels at most 4");
    assertThat(study.statementsSent()).isEqualTo(3);
    Study deep = lantrel.study(walk.replace("UNION SELECT", "UNION ALL SELECT"));
    assertThat(deep.suggestedClaims().stream().map(each -> each.claim().text()))
        .contains("levels at most 4");
    Study plain = lantrel.study("SELECT s.name, s.bank FROM station s");
    assertThat(plain.suggestedClaims()).isNotEmpty();
    assertThat(plain.statementsSent()).isLessThanOrEqualTo(2);
  }

  /** The claims of many statements in one text, and a long comment. */
  @Test
  public void manyStatementsAndLongComments() {
    StringBuilder text = new StringBuilder();
    for (int i = 0; i < 3_000; i++) {
      text.append("-- claim: ").append(i).append(" rows\nSELECT id FROM river;\n");
    }
    text.append("-- claim:").append(" ".repeat(300_000)).append("14 rows").append(" ".repeat(9));
    text.append("\nSELECT id FROM station");
    List<Study> studies = lantrel.studies(text.toString());
    for (int i = 0; i < 3_000; i++) {
      assertThat(texts(studies.get(i))).containsExactly(i + " rows");
    }
    assertThat(texts(studies.get(3_000))).containsExactly("14 rows");
  }

  @Test
  public void oddNamesAreNoHindrance() throws IOException {
    Path folder = Files.createTempDirectory("odd");
    Files.writeString(
        folder.resolve("schema.sql"),
        "CREATE TABLE \"Row Per\" (\"No Null\" INTEGER PRIMARY KEY, \"a.b\" VARCHAR(9));");
    Files.writeString(folder.resolve("Row Per.csv"), "No Null,a.b\n1,x\n2,\n");
    try (Lantrel odd = Lantrel.open(folder)) {
      Verification found =
          odd.study("SELECT t.\"No Null\", t.\"a.b\" FROM \"Row Per\" t")
              .verify(
                  "one row per \"Row Per\"",
                  "every \"Row Per\" appears",
                  "every t appears where \"No Null\" > 1",
                  "no null in \"No Null\"",
                  "no null in \"a.b\"",
                  "total of \"No Null\" is total of \"Row Per\".\"No Null\"",
                  "t.\"No Null\" refers to \"Row Per\"");
      assertThat(found.problems()).isEmpty();
      assertThat(
              found.claims().stream()
                  .map(each -> each.verdict().word())
                  .collect(Collectors.joining(" ")))
          .isEqualTo("proven proven proven proven broken proven proven");
      assertThat(Constraint.words(found.claims().get(0).constraints()))
          .isEqualTo("Row Per.No Null is a key");
      assertThat(odd.study("SELECT * FROM \"Row Per\"").suggestedClaims()).isNotEmpty();
    }
  }
}
