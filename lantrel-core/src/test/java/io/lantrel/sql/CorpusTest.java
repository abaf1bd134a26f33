package io.lantrel.sql;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.RiverWatchFolder;
import io.lantrel.Study;
import io.lantrel.check.Finding;
import io.lantrel.check.Severity;
import io.lantrel.engine.DatabaseException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Random;
import org.testng.annotations.AfterClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** What Lantrel says of the statements of the corpus, beside what the engine says of them. */
public class CorpusTest {

  private static final Path SCHEMA = RiverWatchFolder.data().resolve("schema.sql");

  private final Lantrel lantrel = Lantrel.open(RiverWatchFolder.data());

  @AfterClass
  public void close() {
    lantrel.close();
  }

  @Test
  public void isLargeEnough() {
    int size = Corpus.refused().size();
    for (Dialect dialect : Corpus.dialects()) {
      size += Corpus.statements(dialect).size();
    }
    assertThat(size).isGreaterThan(700);
  }

  @DataProvider
  static Object[][] accepted() {
    return Corpus.statements(Dialect.DUCKDB).stream()
        .map(sql -> new Object[] {sql})
        .toArray(Object[][]::new);
  }

  @Test(dataProvider = "accepted")
  public void findsNoErrorInWhatTheDatabaseRuns(String sql) {
    Study study = lantrel.study(sql);
    assertThat(study.inspection().refusal()).isEmpty();
    assertThat(study.isUnderstood()).isTrue();
    assertThat(study.findings()).noneMatch(finding -> finding.severity() == Severity.ERROR);
    assertThat(study.inspection().unchecked())
        .allMatch(reason -> reason.contains("finds partners otherwise than by a condition"));
    String printed = SqlPrinter.print(SqlReader.readQuery(sql, Dialect.DUCKDB), Dialect.DUCKDB);
    assertThat(lantrel.study(printed).result().size()).isEqualTo(study.result().size());
  }

  @DataProvider
  static Object[][] refused() {
    return Corpus.refused().entrySet().stream()
        .map(each -> new Object[] {each.getKey(), each.getValue()})
        .toArray(Object[][]::new);
  }

  @Test(dataProvider = "refused")
  public void saysWhyTheDatabaseRefuses(String sql, String kind) {
    Study study = lantrel.study(sql);
    assertThat(study.findings())
        .filteredOn(finding -> finding.severity() == Severity.ERROR)
        .extracting(finding -> finding.kind().id())
        .contains(kind);
    assertThat(catchRefusal(sql)).isTrue();
  }

  private boolean catchRefusal(String sql) {
    try {
      lantrel.study(sql).result();
      return false;
    } catch (DatabaseException refused) {
      return true;
    }
  }

  @DataProvider
  static Object[][] dialects() {
    return new Object[][] {
      {Dialect.POSTGRESQL}, {Dialect.MARIADB}, {Dialect.SQLITE}, {Dialect.H2}, {Dialect.HSQLDB}
    };
  }

  @Test(dataProvider = "dialects")
  public void understandsEveryDialectByTheSchemaAlone(Dialect dialect) {
    try (Lantrel schema = Lantrel.openSchema(SCHEMA, dialect)) {
      for (String sql : Corpus.statements(dialect)) {
        Study study = schema.study(sql);
        List<Finding> errors =
            study.findings().stream()
                .filter(finding -> finding.severity() == Severity.ERROR)
                .toList();
        assertThat(study.isUnderstood()).as(sql).isTrue();
        assertThat(errors).as(sql).isEmpty();
      }
    }
  }

  /** Words lost, repeated and mixed up, as when someone edits: an answer, and never a failure. */
  @Test(dataProvider = "allDialects")
  public void givesAnAnswerToDamagedStatements(Dialect dialect) {
    Random random = new Random(17);
    try (Lantrel schema = Lantrel.openSchema(SCHEMA, dialect)) {
      List<String> statements = Corpus.statements(dialect);
      for (String sql : statements) {
        for (int i = 0; i < 4; i++) {
          String damaged = damaged(sql, statements, random);
          for (Study study : schema.studies(damaged)) {
            assertThat(study.findings()).as(damaged).allMatch(each -> !each.message().isEmpty());
          }
        }
      }
    }
  }

  @DataProvider
  static Object[][] allDialects() {
    return Corpus.dialects().stream()
        .map(dialect -> new Object[] {dialect})
        .toArray(Object[][]::new);
  }

  private static String damaged(String sql, List<String> others, Random random) {
    List<String> words = new ArrayList<>(List.of(sql.split("(?<=\\W)|(?=\\W)", -1)));
    int at = random.nextInt(words.size());
    switch (random.nextInt(4)) {
      case 0 -> words.remove(at);
      case 1 -> words.add(at, words.get(at));
      case 2 -> Collections.swap(words, at, random.nextInt(words.size()));
      default -> {
        String[] other = others.get(random.nextInt(others.size())).split("(?=\\W)", -1);
        words.add(at, " " + other[random.nextInt(other.length)] + " ");
      }
    }
    return String.join("", words);
  }
}
