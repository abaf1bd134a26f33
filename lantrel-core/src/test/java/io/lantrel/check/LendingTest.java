package io.lantrel.check;

import static org.assertj.core.api.Assertions.assertThat;

import io.lantrel.Lantrel;
import io.lantrel.Scratch;
import io.lantrel.Study;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Iterator;
import java.util.List;
import java.util.Objects;
import org.testng.annotations.AfterClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/**
 * A world that no example uses: composite keys and references, two hierarchies, roles, optional
 * references, rows of all sorts missing. Faulty queries that are found at their place, and correct
 * ones that have no warning and few notes.
 */
public class LendingTest {

  private static final String WORLD = "lending/";

  /** Of the correct ones at most so many may have a note. */
  private static final double NOTED = 0.15;

  private final Lantrel lantrel = Lantrel.open(folder());

  private static Path folder() {
    try (InputStream schema = LendingTest.class.getResourceAsStream(WORLD + "schema.sql")) {
      Path folder = Scratch.folder("lending");
      Files.copy(Objects.requireNonNull(schema), folder.resolve("schema.sql"));
      return folder;
    } catch (IOException failure) {
      throw new UncheckedIOException(failure);
    }
  }

  @AfterClass
  void close() {
    lantrel.close();
  }

  private static Iterator<Object[]> cases(String file) {
    return Case.of(WORLD + file).stream().map(each -> new Object[] {each}).iterator();
  }

  @DataProvider
  static Iterator<Object[]> faulty() {
    return cases("faulty.sql");
  }

  @DataProvider
  static Iterator<Object[]> right() {
    return cases("right.sql");
  }

  @Test(dataProvider = "faulty")
  public void aFaultIsFoundAtItsPlace(Case faulty) {
    assertThat(lantrel.study(faulty.sql()).findings())
        .as(faulty.sql())
        .anyMatch(
            each ->
                each.kind().id().equals(faulty.kind())
                    && each.severity() != Severity.NOTE
                    && each.place().start() == faulty.start()
                    && each.place().end() == faulty.end());
  }

  /** The finding is gone, no other warning has come, and the rows are as many as was said. */
  @Test(dataProvider = "faulty")
  public void aRepairRemovesItsFinding(Case faulty) {
    Repaired.keepsItsWord(faulty.sql(), lantrel);
  }

  @Test(dataProvider = "right")
  public void aCorrectQueryHasNoWarning(Case right) {
    Study study = lantrel.study(right.sql());
    assertThat(study.findings())
        .as(right.sql())
        .noneMatch(each -> each.severity() != Severity.NOTE);
    assertThat(study.inspection().isComplete()).as(right.sql()).isTrue();
  }

  @Test
  public void fewCorrectOnesHaveANote() {
    List<Case> right = Case.of(WORLD + "right.sql");
    long noted =
        right.stream().filter(each -> !lantrel.study(each.sql()).findings().isEmpty()).count();
    assertThat(noted).isLessThanOrEqualTo((long) (NOTED * right.size()));
    assertThat(right).hasSizeGreaterThan(60);
  }

  /** The account of every query that runs comes out at the rows that it gives. */
  @Test(dataProvider = "right")
  public void theLedgerComesOutAtTheResult(Case right) {
    Study study = lantrel.study(right.sql());
    assertThat(study.ledger().result()).isEqualTo(study.result().size());
  }
}
