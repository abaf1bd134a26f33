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
import java.util.HashMap;
import java.util.Iterator;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.testng.annotations.AfterClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/**
 * Worlds that no example uses. A lending library: composite keys and references, two hierarchies,
 * roles, optional references. A theatre company: numbers that count within a house, prices and
 * castings that are valid for a time. Veterinary clinics: units, currencies, ends that are open. Of
 * each, faulty queries that are found at their place, and correct ones that have no warning and few
 * notes.
 */
public class OtherWorldsTest {

  private static final List<String> WORLDS = List.of("lending", "theatre", "vets");

  /** Of the correct ones at most so many may have a note. */
  private static final double NOTED = 0.15;

  private final Map<String, Lantrel> opened = new HashMap<>();

  private Lantrel lantrel(String world) {
    return opened.computeIfAbsent(world, each -> Lantrel.open(folder(each)));
  }

  private static String file(String world, String name) {
    return "worlds/" + world + "/" + name;
  }

  private static Path folder(String world) {
    String name = file(world, "schema.sql");
    try (InputStream schema = OtherWorldsTest.class.getResourceAsStream(name)) {
      Path folder = Scratch.folder(world);
      Files.copy(Objects.requireNonNull(schema), folder.resolve("schema.sql"));
      return folder;
    } catch (IOException failure) {
      throw new UncheckedIOException(failure);
    }
  }

  @AfterClass
  void close() {
    opened.values().forEach(Lantrel::close);
  }

  private static Iterator<Object[]> cases(String name) {
    return WORLDS.stream()
        .flatMap(
            world -> Case.of(file(world, name)).stream().map(each -> new Object[] {world, each}))
        .iterator();
  }

  @DataProvider
  static Iterator<Object[]> worlds() {
    return WORLDS.stream().map(each -> new Object[] {each}).iterator();
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
  public void aFaultIsFoundAtItsPlace(String world, Case faulty) {
    assertThat(lantrel(world).study(faulty.sql()).findings())
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
  public void aRepairRemovesItsFinding(String world, Case faulty) {
    Repaired.keepsItsWord(faulty.sql(), lantrel(world));
  }

  @Test(dataProvider = "right")
  public void aCorrectQueryHasNoWarning(String world, Case right) {
    Study study = lantrel(world).study(right.sql());
    assertThat(study.findings())
        .as(right.sql())
        .noneMatch(each -> each.severity() != Severity.NOTE);
    assertThat(study.inspection().isComplete()).as(right.sql()).isTrue();
  }

  @Test(dataProvider = "worlds")
  public void fewCorrectOnesHaveANote(String world) {
    List<Case> right = Case.of(file(world, "right.sql"));
    long noted =
        right.stream()
            .filter(each -> !lantrel(world).study(each.sql()).findings().isEmpty())
            .count();
    assertThat(noted).isLessThanOrEqualTo((long) (NOTED * right.size()));
    assertThat(right).hasSizeGreaterThan(60);
  }

  /** The account of every query that runs comes out at the rows that it gives. */
  @Test(dataProvider = "right")
  public void theLedgerComesOutAtTheResult(String world, Case right) {
    Study study = lantrel(world).study(right.sql());
    assertThat(study.ledger().result()).isEqualTo(study.result().size());
  }
}
