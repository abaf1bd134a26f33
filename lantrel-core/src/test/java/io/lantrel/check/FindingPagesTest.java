package io.lantrel.check;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.RiverWatchFolder;
import io.lantrel.Study;
import io.lantrel.catalog.Catalog;
import io.lantrel.engine.Engine;
import io.lantrel.engine.Limits;
import io.lantrel.sql.SourceText;
import io.lantrel.sql.tree.Query;
import io.lantrel.sql.tree.SelectItem;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.Iterator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.testng.annotations.AfterClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Runs every query of every page of the findings. */
public class FindingPagesTest {

  private static final Pattern PART =
      Pattern.compile("^## (.+)$|^```sql\n(.*?)\n```$", Pattern.MULTILINE | Pattern.DOTALL);

  private final Lantrel lantrel = Lantrel.open(RiverWatchFolder.data());
  private final Lantrel project =
      Lantrel.open(RiverWatchFolder.data())
          .judgingBy(CheckRules.USUAL.alsoOn(engines()).and(FindingPagesTest::stars));

  private final Lantrel wholeNumbers =
      Lantrel.openFor(Engine.H2, RiverWatchFolder.data(), Limits.usual());

  private static Set<Engine> engines() {
    return EnumSet.complementOf(EnumSet.of(Engine.OTHER));
  }

  /** The rule on the page of own rules. */
  private static List<OwnRule.Breach> stars(SourceText source, Query query, Catalog catalog) {
    return query
        .preorder()
        .filter(SelectItem.AllColumns.class::isInstance)
        .map(star -> OwnRule.breach(star.span(), "Name the columns: a report breaks by new ones."))
        .toList();
  }

  /** Where a kind is looked for: some only by the wish of a project. */
  private Lantrel looking(Kind kind) {
    if (kind == Kind.WHOLE_DIVISION) {
      return wholeNumbers;
    }
    return kind == Kind.NOT_IN_ENGINE || kind == Kind.OWN_RULE ? project : lantrel;
  }

  /** A query of a page; a faulty one with the queries that follow it. */
  private record Example(Kind kind, String heading, String sql, String next, String nextHeading) {
    @Override
    public String toString() {
      return kind.id() + ": " + sql.replace('\n', ' ');
    }
  }

  @AfterClass
  void close() {
    lantrel.close();
    project.close();
    wholeNumbers.close();
  }

  private static List<Example> examples(Kind kind) throws IOException {
    Path page = RiverWatchFolder.pages().resolve(kind.id() + ".md");
    Matcher parts = PART.matcher(Files.readString(page));
    List<String[]> found = new ArrayList<>();
    String heading = "";
    while (parts.find()) {
      // A heading may stretch over lines for DOTALL, but ends at the first one.
      if (parts.group(1) != null) {
        heading = parts.group(1).lines().findFirst().orElseThrow();
        parts.region(parts.start() + 3 + heading.length(), parts.regionEnd());
      } else {
        found.add(new String[] {heading, parts.group(2)});
      }
    }
    List<Example> examples = new ArrayList<>();
    for (int i = 0; i < found.size(); i++) {
      String[] next = i + 1 < found.size() ? found.get(i + 1) : new String[] {"", ""};
      examples.add(new Example(kind, found.get(i)[0], found.get(i)[1], next[1], next[0]));
    }
    return examples;
  }

  private static Iterator<Object[]> examples(String heading) throws IOException {
    List<Object[]> chosen = new ArrayList<>();
    for (Kind kind : Kind.values()) {
      List<Object[]> ofKind = new ArrayList<>();
      for (Example example : examples(kind)) {
        if (example.heading().equals(heading)) {
          ofKind.add(new Object[] {example});
        }
      }
      assertThat(ofKind).as("%s on the page of %s", heading, kind.id()).isNotEmpty();
      chosen.addAll(ofKind);
    }
    return chosen.iterator();
  }

  @DataProvider
  static Iterator<Object[]> faulty() throws IOException {
    return examples("A query that has it");
  }

  @DataProvider
  static Iterator<Object[]> silent() throws IOException {
    return examples("Queries that do not have it");
  }

  private static String withoutMarks(String sql) {
    return sql.replace("«", "").replace("»", "");
  }

  private Stream<Finding> found(Kind kind, String sql) {
    return looking(kind).study(sql).findings().stream().filter(each -> each.kind() == kind);
  }

  @Test(dataProvider = "faulty")
  public void pointsAtTheMarkedCharacters(Example example) {
    String sql = withoutMarks(example.sql());
    int start = example.sql().indexOf('«');
    int length = example.sql().indexOf('»') - start - 1;
    assertThat(found(example.kind(), sql))
        .as(sql)
        .anySatisfy(
            finding -> {
              assertThat(finding.place().start()).isEqualTo(start);
              assertThat(finding.place().length()).isEqualTo(length);
            });
  }

  @Test(dataProvider = "faulty")
  public void saysWhatHappensAsASentence(Example example) {
    Finding finding = found(example.kind(), withoutMarks(example.sql())).findFirst().orElseThrow();
    assertThat(finding.message()).matches("(?s)\\p{L}.*\\.").doesNotContain("  ", "..", "null");
    boolean aboutRows = finding.severity() != Severity.ERROR;
    assertThat(finding.evidence().equals(Evidence.NONE)).isEqualTo(!aboutRows && noFacts(finding));
  }

  @Test
  public void theSchemasOfJsonKnowEveryKind() throws IOException {
    Path schemas = RiverWatchFolder.pages().resolveSibling("schemas");
    for (String file : List.of("check.schema.json", "draft.schema.json")) {
      assertThat(Files.readString(schemas.resolve(file)))
          .contains(Stream.of(Kind.values()).map(kind -> "\"" + kind.id() + "\"").toList());
    }
  }

  private static boolean noFacts(Finding finding) {
    return finding.evidence().facts().isEmpty();
  }

  @Test(dataProvider = "faulty")
  public void offersTheRepairOfThePage(Example example) {
    assertThat(example.nextHeading()).isIn("The repair that Lantrel offers", "Written right");
    Finding finding = found(example.kind(), withoutMarks(example.sql())).findFirst().orElseThrow();
    if (example.nextHeading().equals("Written right")) {
      assertThat(finding.repair().map(Repair::sql)).isNotEqualTo(Optional.of(example.next()));
      return;
    }
    assertThat(finding.repair()).as(finding.message()).isPresent();
    assertThat(finding.repair().orElseThrow().sql()).isEqualTo(example.next());
  }

  @Test
  public void theListOfPagesIsTheListOfKinds() throws IOException {
    String list = Files.readString(RiverWatchFolder.pages().resolve("README.md"));
    assertThat(list.lines().filter(line -> line.startsWith("- [")))
        .containsExactlyElementsOf(
            Stream.of(Kind.values())
                .map(kind -> "- [" + kind.id() + "](" + kind.page() + "): " + kind.title())
                .toList());
    Path readme = RiverWatchFolder.pages().resolve("../../README.md");
    assertThat(Files.readString(readme)).contains(Kind.values().length + " kinds");
    try (Stream<Path> pages = Files.list(RiverWatchFolder.pages())) {
      assertThat(pages.map(page -> page.getFileName().toString()))
          .containsExactlyInAnyOrderElementsOf(
              Stream.concat(Stream.of("README.md"), Stream.of(Kind.values()).map(Kind::page))
                  .toList());
    }
  }

  @Test(dataProvider = "faulty")
  public void isSilentOnTheRepairedQuery(Example example) {
    String next = example.nextHeading().toLowerCase(Locale.ROOT);
    if (next.startsWith("the repair") || next.startsWith("written right")) {
      Study repaired = looking(example.kind()).study(example.next());
      assertThat(repaired.isUnderstood()).isTrue();
      assertThat(repaired.findings()).noneMatch(each -> each.kind() == example.kind());
      assertThat(repaired.findings()).noneMatch(each -> each.severity() == Severity.ERROR);
      assertThat(repaired.result().headings()).isNotEmpty();
    }
  }

  @Test(dataProvider = "silent")
  public void givesNoFalseAlarm(Example example) {
    Study study = lantrel.study(example.sql());
    assertThat(study.isUnderstood()).isTrue();
    assertThat(study.findings())
        .as(example.sql())
        .noneMatch(each -> each.severity() != Severity.NOTE);
    assertThat(study.result().headings()).isNotEmpty();
  }

  @Test(dataProvider = "faulty")
  public void findsTheSameInAFileOfSeveralStatements(Example example) {
    String sql = withoutMarks(example.sql());
    // An open quote swallows whatever follows, so the faulty statement comes last.
    List<Study> studies =
        looking(example.kind()).studies("-- é 🦆 first\nSELECT 1 AS one;\n;\n" + sql);
    assertThat(studies).hasSize(2);
    assertThat(studies.get(1).sql()).isEqualTo(sql.strip());
    assertThat(studies.get(1).findings().stream().map(Finding::kind)).contains(example.kind());
    Finding here = found(example.kind(), sql).findFirst().orElseThrow();
    Finding there =
        studies.get(1).findings().stream()
            .filter(each -> each.kind() == example.kind())
            .findFirst()
            .orElseThrow();
    assertThat(studies.get(1).source().at(there.place()))
        .isEqualTo(lantrel.study(sql).source().at(here.place()));
    assertThat(there.repair().map(Repair::sql)).isEqualTo(here.repair().map(Repair::sql));
  }

  @DataProvider
  static Object[][] totals() {
    String stations = "FROM river r JOIN station s ON s.river_id = r.id ";
    String readings = "LEFT JOIN reading d ON d.station_id = s.id ";
    String inner = "JOIN reading d ON d.station_id = s.id ";
    String groups = "GROUP BY r.id ORDER BY r.id";
    return new Object[][] {
      {
        "SELECT r.id, SUM(s.capacity) AS n, COUNT(d.id) AS k " + stations + readings + groups,
        "SELECT r.id, SUM(s.capacity) AS n " + stations + groups
      },
      {
        "SELECT r.id, AVG(s.capacity) AS n, MAX(d.depth_cm) AS k " + stations + inner + groups,
        "SELECT r.id, AVG(s.capacity) AS n "
            + stations
            + "WHERE s.id IN (SELECT x.station_id FROM reading x) "
            + groups
      },
      {
        "SELECT r.id, COUNT(s.id) AS n, SUM(d.depth_cm) AS k " + stations + readings + groups,
        "SELECT r.id, COUNT(s.id) AS n " + stations + groups
      },
      {
        "SELECT r.id, COUNT(s.bank) AS n " + stations + readings + groups,
        "SELECT r.id, COUNT(s.bank) AS n " + stations + groups
      },
    };
  }

  @Test(dataProvider = "totals")
  public void repairedTotalsAreRightAndTheOthersUnchanged(String wrong, String right) {
    Study study = lantrel.study(wrong);
    Repair repair =
        found(Kind.REPEATED_IN_TOTAL, wrong).findFirst().orElseThrow().repair().orElseThrow();
    List<List<Object>> repaired = texts(lantrel.study(repair.sql()).result().rows(), 0, 1);
    assertThat(repaired).isEqualTo(texts(lantrel.study(right).result().rows(), 0, 1));
    assertThat(repaired).isNotEqualTo(texts(study.result().rows(), 0, 1));
    if (wrong.contains(" AS k ")) {
      assertThat(texts(lantrel.study(repair.sql()).result().rows(), 0, 2))
          .isEqualTo(texts(study.result().rows(), 0, 2));
    }
  }

  private static List<List<Object>> texts(List<? extends List<?>> rows, int... columns) {
    List<List<Object>> texts = new ArrayList<>();
    for (List<?> row : rows) {
      List<Object> line = new ArrayList<>();
      for (int column : columns) {
        line.add(String.valueOf(row.get(column)));
      }
      texts.add(line);
    }
    return texts;
  }
}
